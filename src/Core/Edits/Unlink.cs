using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes the shape of nodes their own, where they share it with others. Nothing changes its looks.</summary>
public sealed record Unlink(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            if (node.Shares is null)
            {
                continue;
            }

            draft.Put(node with { Shares = null });

            // Nobody shares with nobody.
            if (Linked.With(draft, node).Where(n => n.Id != node.Id).Take(2).ToList() is [var last])
            {
                draft.Put(last with { Shares = null });
            }
        }
    }

    public override string Say(Speaker say) => $"Made the shape of {say.Names(Nodes)} {(Nodes.Count == 1 ? "its" : "their")} own";
}

/// <summary>Nodes that share a shape.</summary>
public static class Linked
{
    /// <summary>All nodes that share a node's shape, itself included; it alone where it shares with none.</summary>
    public static IEnumerable<Node> With(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Shares is { } key ? scene.Branch(null).Where(n => n.Shares == key) : [node];
    }

    /// <summary>Writes a change of the shape to a node and to all that share it.</summary>
    /// <exception cref="Refusal">locked: one of them is.</exception>
    internal static void Put(SceneDraft draft, Node node, Func<Node, Node> edit)
    {
        foreach (var linked in With(draft, node).ToList())
        {
            Targets.CheckUnlocked(draft, linked);
            draft.Put(edit(linked));
        }
    }
}
