using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Edits for the next place in the tree: a level further out, or before the sibling above.</summary>
public static class Ordering
{
    /// <summary>Puts each node beside what carries it, right after it; what nothing carries stays. Several of one parent keep their order.</summary>
    public static IReadOnlyList<Edit> OneLevelOut(IScene scene, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(nodes);
        var picked = nodes.ToHashSet();
        var edits = new List<Edit>();
        foreach (var under in nodes.Distinct().Select(scene.Find).OfType<Node>().Where(n => n.Kind.IsInTree() && n.Parent is not null).GroupBy(n => n.Parent!))
        {
            // Who rides on another of them rides along.
            if (scene.Find(under.Key) is { } parent && !picked.Contains(under.Key) && !scene.Above(parent).Any(a => picked.Contains(a.Id)))
            {
                var inOrder = scene.Children(parent.Id).Where(under.Select(n => n.Id).ToHashSet().Contains).ToList();
                edits.Add(new PutUnder(inOrder, parent.Parent, scene.Children(parent.Parent).ToList().IndexOf(parent.Id) + 1));
            }
        }

        return edits;
    }

    /// <summary>Puts a node before the sibling above it, or behind the one below; null: it is the first or last already.</summary>
    /// <param name="way">−1 up, 1 down.</param>
    public static Edit? AmongSiblings(IScene scene, string id, int way)
    {
        ArgumentNullException.ThrowIfNull(scene);
        if (scene.FindArranged(id) is not { } some)
        {
            return null;
        }

        var siblings = scene.Children(some.List).ToList();
        var to = siblings.IndexOf(id) + way;
        return to < 0 || to >= siblings.Count ? null : new PutUnder([id], some.Parent, to);
    }

    /// <summary>Whether another in the same list has the same name.</summary>
    public static bool HasNamesake(IScene scene, string id)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.FindAny(id) switch
        {
            Node { Kind: NodeKind.Mark } mark => scene.Marks.Any(m => m != id && scene.Find(m)!.Name == mark.Name),
            Arranged some => scene.Children(some.List).Any(s => s != id && scene.FindAny(s)?.Name == some.Name),
            _ => false,
        };
    }
}
