using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Stores what constraints yield in the placement, and takes them off or switches them off; nothing moves. Up to an entry: the one and all
/// before it, with those after it that share with it.
/// </summary>
/// <param name="UpTo">The id of an entry; null: the whole list.</param>
/// <param name="Off">True: they are switched off and stay in the list.</param>
public sealed record Bake(IReadOnlyList<string> Nodes, string? UpTo = null, bool Off = false) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var nodes = Targets.Movers(draft, Nodes, ChildrenMode.Stay).Where(n => !n.Constraints.IsEmpty).ToDictionary(n => n.Id);
        if (nodes.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, $"{new Speaker(draft).Names(Nodes)} {(Nodes.Count == 1 ? "has" : "have")} no constraints to bake.");
        }

        // All worlds first; then parents before children.
        var baked = new Dictionary<string, (int Count, Affine World)>();
        foreach (var node in nodes.Values)
        {
            var count = UpTo is null ? node.Constraints.Length : EndOf(node, ConstraintTargets.IndexOf(node, UpTo));
            baked[node.Id] = (count, count == node.Constraints.Length ? draft.World(node) : draft.World(node, count));
        }

        var stood = nodes.Values.Where(n => baked[n.Id].Count < n.Constraints.Length).ToDictionary(n => n.Id, draft.World);
        foreach (var id in Edges.InOrder(draft, baked.Keys))
        {
            var (node, (count, world)) = (nodes[id], baked[id]);
            var frame = draft.FrameOf(node);
            frame.CheckInvertible(node.Name);
            var placement = Standing.Stored(frame, node, world);
            placement.Check(node.Name, node.Placement);
            // What the baked ones have turned is part of the placement now, and hinges that turned with it say so themselves.
            var parent = frame.Basis.RotationPart();
            var turned = node.Placement.OwnAxes(world.Linear) * node.Placement.OwnAxes(frame.Placed(node.Placement).Linear).Transposed();
            var to = new Reframing(parent.Transposed() * turned * parent, Mat3.Identity, Affine.Identity);
            draft.Put(node with
            {
                Placement = placement,
                Constraints = Off
                    ? [.. node.Constraints.Select((c, i) => i < count ? c with { Enabled = false } : c.Reframed(to))]
                    : [.. node.Constraints[count..].Select(c => c.Reframed(to))],
            });
        }

        Writer.Stand(draft, stood);
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var entry = UpTo is { } id ? Nodes.Select(say.Scene.Find).OfType<Node>().SelectMany(n => n.Constraints).FirstOrDefault(c => c.Id == id) : null;
        return $"Baked the constraints of {say.Names(Nodes)}{(entry is null ? "" : $" up to {ConstraintWords.Title(entry, say)}")}{(Off ? ", left off" : "")}";
    }

    /// <summary>Nothing moves, but where entries that stay read single angles near the stored ones.</summary>
    public override string? Foretell(IScene scene) => Jumps.OfConstrained(scene, this, UpTo is null ? [] : Nodes);

    /// <summary>After an entry, and those that share with the last that pulls up to it.</summary>
    private static int EndOf(Node node, int at)
    {
        var list = node.Constraints;
        var last = at;
        while (last > 0 && !list[last].Pulls)
        {
            last--;
        }

        var end = at + 1;
        for (var next = end; next < list.Length && (!list[next].Pulls || (list[last].Pulls && list[last].Shares(list[next]))); next++)
        {
            end = list[next].Pulls ? next + 1 : end;
        }

        return end;
    }
}
