using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Seeing;

/// <summary>Which collections a node belongs to: those it was put into, and those whose rule it fits.</summary>
public static class Membership
{
    /// <summary>The collections that a node is itself a member of, as the artist ordered the collections.</summary>
    public static IEnumerable<Collection> Of(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        return scene.Collections.Count == 0 || !node.Kind.IsInTree()
            ? []
            : scene.AllCollections().Where(c => IsMember(scene, node, c));
    }

    public static bool IsMember(IScene scene, Node node, Collection collection)
    {
        ArgumentNullException.ThrowIfNull(node);
        ArgumentNullException.ThrowIfNull(collection);
        return node.Collections.Contains(collection.Id) || collection.Rule?.Fits(scene, node) == true;
    }

    /// <summary>The members of a collection in the order of the tree, with or without those of the collections in it.</summary>
    public static IEnumerable<Node> MembersOf(IScene scene, Collection collection, bool withInner = false)
    {
        ArgumentNullException.ThrowIfNull(collection);
        List<Collection> collections = withInner ? [.. scene.Inside(collection)] : [collection];
        return scene.Branch(null).Where(node => collections.Exists(c => IsMember(scene, node, c)));
    }

    /// <summary>The collection that locks something, its own, one of what carries it, or one around it; null: none.</summary>
    public static Collection? LockOf(IScene scene, Arranged some)
    {
        ArgumentNullException.ThrowIfNull(scene);
        if (some is Collection collection)
        {
            return scene.Ancestors(collection).FirstOrDefault(outer => outer.Switches.Locked);
        }

        // Most scenes lock no collection at all.
        var node = (Node)some;
        return scene.AllCollections().Any(c => c.Switches.Locked)
            ? scene.Ancestors(node).Prepend(node)
                .SelectMany(link => Of(scene, link))
                .SelectMany(c => scene.Ancestors(c).Prepend(c))
                .FirstOrDefault(c => c.Switches.Locked)
            : null;
    }
}
