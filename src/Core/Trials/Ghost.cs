using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Trials;

/// <summary>A node that an edit would add: what it looks like, where it would stand, and where its original stands.</summary>
/// <param name="LooksLike">The node that it would be a copy of.</param>
/// <param name="From">The original's pivot in the world; null: it rides on another ghost.</param>
public sealed record Ghost(string LooksLike, Affine World, Vec3? From, Vec3 Pivot)
{
    /// <summary>More would not be told apart on the stage.</summary>
    public const int Most = 600;

    /// <summary>What a draft would add that is no copy: the eight corners of each in the world, x first.</summary>
    public static IReadOnlyList<Vec3[]> Added(IScene scene, SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(draft);
        return [.. draft.Written
            .Select(w => w.Value)
            .OfType<Node>()
            .Where(node => node.Kind.IsInTree() && scene.Find(node.Id) is null && !draft.Origins.ContainsKey(node.Id))
            .Take(Most)
            .ToList()
            .Select(node => CornersOf(draft, node))];
    }

    private static Vec3[] CornersOf(SceneDraft draft, Node node)
    {
        var world = draft.World(node);
        var own = Extents.GeometryOf(draft, node)?.OwnBounds ?? Bounds.Empty;
        if (own.IsEmpty)
        {
            (own, world) = (Framing.Of(draft, [node.Id]), Affine.Identity);
        }

        return [.. own.Corners().Select(world.Point)];
    }

    /// <summary>What stands in the scene and would stand elsewhere with what a draft writes of it, and all that rides on it.</summary>
    public static IReadOnlyList<Ghost> Moved(IScene scene, SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(draft);
        var (ghosts, done, before) = (new List<Ghost>(), new HashSet<string>(), new SceneDraft(scene));
        foreach (var written in draft.Written.Select(w => w.Value).OfType<Node>().ToList())
        {
            // Where it stays, so does what rides on it, and what is not placed anew goes with what carries it.
            if (scene.Find(written.Id) is not { } stood || IsPlacedAlike(stood, written) || !IsElsewhere(before.World(stood), draft.World(written)))
            {
                continue;
            }

            foreach (var node in draft.With(written).OfType<Node>())
            {
                if (ghosts.Count >= Most)
                {
                    return ghosts;
                }

                if (scene.Find(node.Id) is not { } was || !done.Add(node.Id))
                {
                    continue;
                }

                var (from, to) = (before.World(was), draft.World(node));
                if (IsElsewhere(from, to))
                {
                    ghosts.Add(new(node.Id, to, node.Id == written.Id ? from.Point(was.Placement.Pivot) : null, to.Point(node.Placement.Pivot)));
                }
            }
        }

        return ghosts;
    }

    private static bool IsPlacedAlike(Node a, Node b) => a.Parent == b.Parent && a.Placement == b.Placement && a.Constraints == b.Constraints;

    private static bool IsElsewhere(Affine from, Affine to) => from.Distance(to) > 1e-9 * (1 + from.Linear.Norm + from.Offset.Length);

    /// <summary>The copies that a draft would add to a scene.</summary>
    public static IReadOnlyList<Ghost> Of(IScene scene, SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(draft);
        var ghosts = new List<Ghost>();
        foreach (var (id, origin) in draft.Origins)
        {
            if (ghosts.Count >= Most || draft.Find(id) is not { } node || scene.Find(origin) is not { } original)
            {
                continue;
            }

            var world = draft.World(node);
            var isTop = node.Parent is null || !draft.Origins.ContainsKey(node.Parent);
            var from = isTop ? new SceneDraft(scene).World(original).Point(original.Placement.Pivot) : (Vec3?)null;
            ghosts.Add(new(origin, world, from, world.Point(node.Placement.Pivot)));
        }

        return ghosts;
    }
}
