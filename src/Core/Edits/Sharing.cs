using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Nodes that share a shape.</summary>
public static class Sharing
{
    /// <summary>All nodes that share a node's shape, itself included, in no order; it alone where it shares with none.</summary>
    public static IEnumerable<Node> With(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Shares is { } key ? scene.Referrers(NodeReferences.Sharing(key)).Select(scene.Find).OfType<Node>() : [node];
    }

    /// <summary>Words by which nodes may share that no others share by: the id of a node that left them may still be theirs.</summary>
    internal sealed class Keys(SceneDraft draft)
    {
        private readonly HashSet<string> _given = [];

        public string Free(string wanted)
        {
            var key = wanted;
            for (var number = 2; draft.Referrers(NodeReferences.Sharing(key)).Count > 0 || !_given.Add(key); number++)
            {
                key = $"{wanted}-{number}";
            }

            return key;
        }
    }

    /// <summary>Writes a change of the shape to a node and to all that share it.</summary>
    /// <exception cref="Refusal">locked: one of them is.</exception>
    internal static void Put(SceneDraft draft, Node node, Func<Node, Node> edit)
    {
        foreach (var sharer in With(draft, node).ToList())
        {
            Targets.CheckUnlocked(draft, sharer);
            draft.Put(edit(sharer));
        }
    }
}
