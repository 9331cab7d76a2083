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
        var movers = Targets.Movers(draft, Nodes, collections: true);
        Check(draft, movers);
        var edited = new List<Node>();
        var frames = new Dictionary<Takes, InvertedFrame>();
        foreach (var node in movers)
        {
            if (Index is null && node.Parent == Parent)
            {
                continue;
            }

            var placement = node.Placement;
            if (Keep == Keep.World && node.Parent != Parent && node.Kind.IsInTree())
            {
                if (!frames.TryGetValue(placement.Takes, out var into))
                {
                    frames[placement.Takes] = into = draft.FrameUnder(Parent, placement.Takes).Inverted(node.Name);
                }

                placement = into.Storing(draft.Placed(node), placement);
                placement.Check(node.Name, node.Placement);
            }

            edited.Add(node with { Parent = Parent, Placement = placement });
        }

        Ranks.Seat(draft, edited, Parent, Index);
    }

    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var draft = new SceneDraft(scene);
        var present = Nodes.Where(id => scene.Find(id) is not null).ToList();
        var below = present.Count == 0 ? 0 : Targets.Tops(draft, present).Sum(node => scene.Branch(node.Id).Count() - 1);
        return below == 0 ? null : $"{(below == 1 ? "1 object rides" : $"{below} objects ride")} along.";
    }

    public override string Say(Speaker say) =>
        InOrder(say) ??
        (Parent is null ? $"Took {say.Names(Nodes)} out" : $"Put {say.Names(Nodes)} under {say.Name(Parent)}")
        + (Keep == Keep.Numbers ? ", numbers kept" : "");

    /// <summary>What only changes its place among its siblings: "Moved C before A".</summary>
    private string? InOrder(Speaker say)
    {
        if (Index is not { } index || Nodes.Count == 0 || !Nodes.All(id => say.Scene.Find(id) is { } node && node.Parent == Parent))
        {
            return null;
        }

        var moving = Nodes.ToHashSet();
        var siblings = say.Scene.Children(Lists.Of(say.Scene.Find(Nodes[0])!.Kind, Parent)).Where(id => !moving.Contains(id)).ToList();
        return siblings.Count == 0 ? $"Left {say.Names(Nodes)} where {(Nodes.Count == 1 ? "it was" : "they were")}"
            : index < siblings.Count ? $"Moved {say.Names(Nodes)} before {say.Name(siblings[Math.Max(0, index)])}"
            : $"Moved {say.Names(Nodes)} after {say.Name(siblings[^1])}";
    }

    /// <exception cref="Refusal">not-understood, for what stands beside the tree.</exception>
    internal static void CheckInTree(List<Node> movers)
    {
        CheckNoMark(movers);
        if (movers.Find(node => node.Kind == NodeKind.Collection) is { } collection)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{collection.Name}” is a collection, which has no place in the tree. Pick its members instead.");
        }
    }

    private static void CheckNoMark(List<Node> movers)
    {
        if (movers.Find(node => node.Kind == NodeKind.Mark) is { } mark)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The mark “{mark.Name}” has no place in the tree. Let it follow an object instead.");
        }
    }

    private void Check(SceneDraft draft, List<Node> movers)
    {
        CheckNoMark(movers);
        var collections = movers.Count(node => node.Kind == NodeKind.Collection);
        if (collections > 0 && collections < movers.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, "Collections and objects cannot be put under one parent together. Pick the ones or the others.");
        }

        if (Parent is null)
        {
            return;
        }

        var parent = draft.Get(Parent);
        if ((parent.Kind == NodeKind.Collection) != (collections > 0))
        {
            throw new Refusal(
                Refusals.NotUnderstood,
                collections > 0
                    ? $"A collection can lie in another collection only, and “{parent.Name}” is an object."
                    : $"“{parent.Name}” is a collection, which carries nothing. Make the objects members of it instead.");
        }

        if (parent.Kind == NodeKind.Mark)
        {
            throw new Refusal(Refusals.NotUnderstood, $"Nothing can ride on the mark “{parent.Name}”. Pick an object as the parent.");
        }

        var above = draft.Ancestors(parent).Prepend(parent).Select(a => a.Id).ToHashSet();
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
