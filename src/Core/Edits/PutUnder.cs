using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Puts nodes under another, or takes them out to the top, at a place among the siblings.</summary>
/// <param name="Parent">The node that is to carry them; null: none.</param>
/// <param name="Index">Before which sibling they go, counted without themselves; null: last, and where they are if they are under that parent already.</param>
/// <param name="Keep">Whether their place in the world or their stored numbers stay.</param>
public sealed record PutUnder(IReadOnlyList<string> Nodes, string? Parent = null, int? Index = null, Keep Keep = Keep.World) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var movers = Targets.Arranged(draft, Nodes);
        Check(draft, movers);
        var frames = new Dictionary<Takes, InvertedFrame>();
        var remembered = Writer.Remember(draft, Keep == Keep.World ? movers.OfType<Node>().Where(n => n.Parent != Parent) : []);
        var edited = movers.Where(some => Index is not null || some.Parent != Parent).Select(Under).ToList();
        Ranks.Seat(draft, edited, Index);
        Writer.Restore(draft, remembered);

        Entity Under(Arranged some)
        {
            if (some is not Node node || Keep != Keep.World || node.Parent == Parent)
            {
                return some with { Parent = Parent };
            }

            if (!node.Constraints.IsEmpty)
            {
                var kept = Standing.Storing(draft.FrameUnder(Parent, node.Placement.Takes), node.Placement, draft.Placed(node), node.Name);
                kept.Check(node.Name, node.Placement);
                return node with { Parent = Parent, Placement = kept };
            }

            if (!frames.TryGetValue(node.Placement.Takes, out var into))
            {
                frames[node.Placement.Takes] = into = draft.FrameUnder(Parent, node.Placement.Takes).Inverted(node.Name);
            }

            var placement = into.Storing(draft.Placed(node), node.Placement);
            placement.Check(node.Name, node.Placement);
            return node with { Parent = Parent, Placement = placement };
        }
    }

    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var picked = Nodes.ToHashSet();
        var below = picked.Select(scene.FindArranged).OfType<Arranged>()
            .Where(some => !scene.Above(some).Any(a => picked.Contains(a.Id))).Sum(some => scene.With(some).Count() - 1);
        var riding = below == 0 ? null : $"{(below == 1 ? "1 object rides" : $"{below} objects ride")} along.";
        var jumps = Keep == Keep.World ? Jumps.OfConstrained(scene, this, Nodes) : null;
        return riding is not null && jumps is not null ? $"{riding} {jumps}" : riding ?? jumps;
    }

    public override string Say(Speaker say) =>
        InOrder(say) ??
        (Parent is null ? $"Took {say.Names(Nodes)} out" : $"Put {say.Names(Nodes)} under {say.Name(Parent)}")
        + (Keep == Keep.Numbers ? ", numbers kept" : "");

    /// <summary>What only changes its place among its siblings: "Moved C before A".</summary>
    private string? InOrder(Speaker say)
    {
        if (Index is not { } index || Nodes.Count == 0 || !Nodes.All(id => say.Scene.FindArranged(id) is { } some && some.Parent == Parent))
        {
            return null;
        }

        var moving = Nodes.ToHashSet();
        var siblings = say.Scene.Children(say.Scene.FindAny(Nodes[0])!.List).Where(id => !moving.Contains(id)).ToList();
        return siblings.Count == 0 ? $"Left {say.Names(Nodes)} where {(Nodes.Count == 1 ? "it was" : "they were")}"
            : index < siblings.Count ? $"Moved {say.Names(Nodes)} before {say.Name(siblings[Math.Max(0, index)])}"
            : $"Moved {say.Names(Nodes)} after {say.Name(siblings[^1])}";
    }

    /// <exception cref="Refusal">not-understood, for marks.</exception>
    internal static void CheckInTree(IEnumerable<Arranged> movers)
    {
        if (movers.FirstOrDefault(some => some is Node { Kind: NodeKind.Mark }) is { } mark)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The mark “{mark.Name}” has no place in the tree. Let it follow an object instead.");
        }
    }

    private void Check(SceneDraft draft, List<Arranged> movers)
    {
        CheckInTree(movers);
        var collections = movers.Count(some => some is Collection);
        if (collections > 0 && collections < movers.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, "Collections and objects cannot be put under one parent together. Pick the ones or the others.");
        }

        if (Parent is null)
        {
            return;
        }

        var parent = draft.GetArranged(Parent);
        if (parent is Collection != collections > 0)
        {
            throw new Refusal(
                Refusals.NotUnderstood,
                collections > 0
                    ? $"A collection can lie in another collection only, and “{parent.Name}” is an object."
                    : $"“{parent.Name}” is a collection, which carries nothing. Make the objects members of it instead.");
        }

        if (parent is Node { Kind: NodeKind.Mark })
        {
            throw new Refusal(Refusals.NotUnderstood, $"Nothing can ride on the mark “{parent.Name}”. Pick an object as the parent.");
        }

        var above = draft.Above(parent).Prepend(parent).Select(a => a.Id).ToHashSet();
        foreach (var node in movers)
        {
            if (above.Contains(node.Id))
            {
                throw new Refusal(
                    Refusals.WouldLoop,
                    node.Id == Parent
                        ? $"“{node.Name}” cannot be put under itself. Pick another parent."
                        : $"“{parent.Name}” {(collections > 0 ? "lies in" : "rides on")} “{node.Name}”, so “{node.Name}” cannot be put under it. Take “{parent.Name}” out first.");
            }
        }

        // The deepest of what is moved decides how deep the chain becomes.
        if (movers.Max(node => Ranks.Height(draft, node)) + above.Count > SceneDocument.MostDepth)
        {
            throw new Refusal(Refusals.TooLarge, $"The chain of parents would become longer than {SceneDocument.MostDepth}. Put it under something higher up.");
        }
    }
}
