using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Spaces;

/// <summary>Exact bounds of nodes along any axes: the extent of the vertices, never of a turned box.</summary>
public static class Extents
{
    /// <summary>What a node itself looks like, without its children; null where it has no geometry.</summary>
    public static Geometry? GeometryOf(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        return node.Shape is { } shape ? Of(shape) : node.Geometry is { } hash ? scene.Geometries.Find(hash) : null;
    }

    /// <summary>What a node looks like with the normals it is to be shown with.</summary>
    public static Geometry? DrawnGeometryOf(IScene scene, Node node) =>
        GeometryOf(scene, node) is { } geometry ? node.Normals?.On(geometry) ?? geometry : null;

    /// <summary>A shape's geometry; equal shapes share one.</summary>
    public static Geometry Of(Shape shape) => Tessellations.Of(shape);

    /// <summary>The bounds of nodes and all that rides on them, along the world's axes.</summary>
    public static Bounds OfBranches(SceneDraft draft, IEnumerable<Node> tops)
    {
        ArgumentNullException.ThrowIfNull(tops);
        return tops.Aggregate(Bounds.Empty, (all, node) => all.With(OfBranch(draft, node, Affine.Identity)));
    }

    /// <summary>The bounds of a node and all that goes where it goes.</summary>
    /// <param name="toAxes">Leads from the world to the axes that the bounds are wanted along.</param>
    /// <param name="without">Nodes that do not count, with all that rides on them.</param>
    public static Bounds OfBranch(SceneDraft draft, Node top, Affine toAxes, HashSet<string>? without = null)
    {
        var bounds = Bounds.Empty;
        foreach (var node in draft.Riding(top.Id, without))
        {
            if ((node.Id == top.Id || !node.IsController) && GeometryOf(draft, node) is { } geometry)
            {
                draft.Spend(geometry.Points.Length / 300);
                bounds = bounds.With(geometry.Extent(toAxes * draft.World(node)));
            }
        }

        return bounds;
    }

    /// <summary>A node's own bounds: of its geometry, or where it has none, of what rides on it.</summary>
    public static Bounds Own(SceneDraft draft, Node node, Affine toAxes) =>
        GeometryOf(draft, node) is { } geometry
            ? geometry.Extent(toAxes * draft.World(node))
            : OfBranch(draft, node, toAxes);

    /// <summary>A node's own bounds in its own frame.</summary>
    public static Bounds InOwnFrame(SceneDraft draft, Node node) =>
        GeometryOf(draft, node) is { } geometry
            ? geometry.OwnBounds
            : OfBranch(draft, node, draft.World(node).Inverse());
}
