namespace CalmPivot.Core.Scene;

/// <summary>What edits, evaluation and export read of a scene, be it the open one or a draft over it.</summary>
public interface IScene
{
    int Count { get; }

    string Unit { get; }

    Node? Find(string id);

    /// <summary>The children of a node, or the nodes without parent, in the artist's order.</summary>
    IReadOnlyList<string> Children(string? parent);

    IGeometries Geometries { get; }

    /// <summary>The marks, in the order of their ranks; they are no one's children.</summary>
    IReadOnlyList<string> Marks { get; }
}

/// <summary>Where the geometry of meshes comes from, by its hash.</summary>
public interface IGeometries
{
    /// <summary>The geometry, or null where it is not known.</summary>
    Shapes.Geometry? Find(string hash);
}

public static class Scenes
{
    /// <summary>A node and everything below it, parents before children, siblings in order; the whole scene for null.</summary>
    public static IEnumerable<Node> Branch(this IScene scene, string? top)
    {
        var walk = new Stack<string>();
        if (top is not null)
        {
            walk.Push(top);
        }
        else
        {
            PushReversed(walk, scene.Children(null));
        }

        while (walk.TryPop(out var id))
        {
            yield return scene.Find(id)!;
            PushReversed(walk, scene.Children(id));
        }
    }

    /// <summary>The nodes that carry this one, nearest first.</summary>
    public static IEnumerable<Node> Ancestors(this IScene scene, Node node)
    {
        for (var id = node.Parent; id is not null;)
        {
            var ancestor = scene.Find(id)!;
            yield return ancestor;
            id = ancestor.Parent;
        }
    }

    private static void PushReversed(Stack<string> walk, IReadOnlyList<string> ids)
    {
        for (var i = ids.Count - 1; i >= 0; i--)
        {
            walk.Push(ids[i]);
        }
    }
}
