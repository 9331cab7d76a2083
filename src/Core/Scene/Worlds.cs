using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What every scene keeps to, whatever made it: world matrices that can be computed with, and chains that are not too long.
/// Numbers that are finite one by one can still multiply, from parent to child, beyond what can be computed.
/// </summary>
public static class Worlds
{
    /// <summary>World matrices and places stay between 1 / this and this. Squares, cubes and inverses of such numbers are finite.</summary>
    public const double Most = 1e60;

    /// <exception cref="Refusal">not-finite, too-large: what was to be written, or what rides on it, would break a rule.</exception>
    public static void Check(IScene scene, Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        var draft = new SceneDraft(scene);
        draft.Take(change);
        Check(draft);
        ShotChecks.Check(scene, change);
        var depths = new Dictionary<string, int>();
        foreach (var node in change.All.Select(n => n.After).OfType<Arranged>())
        {
            var above = new Stack<string>();
            for (var at = node.Id; at is not null && !depths.ContainsKey(at); at = draft.FindArranged(at)?.Parent)
            {
                above.Push(at);
            }

            while (above.TryPop(out var id))
            {
                depths[id] = draft.FindArranged(id)?.Parent is { } parent ? depths.GetValueOrDefault(parent) + 1 : 1;
                if (depths[id] > SceneDocument.MostDepth)
                {
                    throw new Refusal(Refusals.TooLarge, $"The chain of parents would become longer than {SceneDocument.MostDepth}. Put it under something higher up.");
                }
            }
        }
    }

    /// <summary>The world matrices of all that a draft writes, and of what rides on it where that is stretched anew.</summary>
    /// <exception cref="Refusal">not-finite.</exception>
    public static void Check(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        Edges.Check(draft);
        var below = new SceneDraft(draft.Below);
        var walked = new HashSet<string>();
        foreach (var node in draft.Written.Select(w => w.Value).OfType<Node>().ToList())
        {
            // Of thousands nearly all are such.
            var carries = draft.Children(node.Id).Count > 0;
            if (!carries && node.Constraints.IsEmpty && IsPlain(node.Placement, draft.FrameOf(node)))
            {
                continue;
            }

            var world = draft.World(node);
            CheckOne(node, world);

            // What rides on a new node was written, too; what is moved or turned as it is stays as large as it was.
            if (carries && below.Find(node.Id) is { } before && !IsRigid(below.World(before).Linear, world.Linear))
            {
                Walk(draft, node.Id, walked);
            }
        }

        if (draft.Constrained.Count > 0)
        {
            CheckReaders(draft, walked);
        }
    }

    /// <summary>Those that take their size from what is written, wherever they stand in the tree.</summary>
    private static void CheckReaders(SceneDraft draft, HashSet<string> walked)
    {
        var dependents = Edges.Dependents(draft, draft.Written.Where(w => w.Value is not null).Select(w => w.Key).ToList());
        foreach (var id in draft.Constrained)
        {
            if (dependents.Contains(id) && draft.Find(id)!.Constraints.Any(c => (c.Writes & Constraints.Writes.Stretch) != 0))
            {
                Walk(draft, id, walked);
            }
        }
    }

    /// <summary>
    /// Numbers that cannot lead beyond, without a look at the world matrix: with scales of at least s and shears of at most 10,
    /// R·H·S·Q⁻¹ shrinks nothing to less than s/1000, so that the product with the frame is at least that much of the frame's.
    /// </summary>
    private static bool IsPlain(Placement p, ParentFrame frame)
    {
        static bool Within(Vec3 v, double most) => Math.Max(Math.Abs(v.X), Math.Max(Math.Abs(v.Y), Math.Abs(v.Z))) <= most;
        var least = Math.Min(Math.Abs(p.Scale.X), Math.Min(Math.Abs(p.Scale.Y), Math.Abs(p.Scale.Z)));
        return least >= 1e-6 && Within(p.Scale, 1e6) && Within(p.Shear, 10) && Within(p.Position, 1e12) && Within(p.Pivot, 1e12)
            && frame.Basis.Norm is > 1e-20 and < 1e20 && frame.Place.Linear.Norm < 1e20 && frame.Place.Offset.Length < 1e20;
    }

    private static void Walk(SceneDraft draft, string top, HashSet<string> walked)
    {
        var next = new Stack<string>([top]);
        while (next.TryPop(out var id))
        {
            if (walked.Add(id))
            {
                var node = draft.Get(id);
                CheckOne(node, draft.World(node));
                foreach (var child in draft.Children(id))
                {
                    next.Push(child);
                }
            }
        }
    }

    /// <summary>Whether what leads from one matrix to the other only turns or mirrors.</summary>
    private static bool IsRigid(Mat3 from, Mat3 to)
    {
        var way = to * from.Inverse();
        return (way.Transposed() * way).Distance(Mat3.Identity) < 1e-6;
    }

    private static void CheckOne(Node node, Affine world)
    {
        var size = world.Linear.Norm;
        if (!(size is > 1 / Most and < Most && world.Offset.Length < Most))
        {
            throw new Refusal(Refusals.NotFinite, $"“{node.Name}” would stand where nothing can be computed any more. Use amounts that are less extreme.");
        }
    }
}
