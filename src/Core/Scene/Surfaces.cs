using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Scene;

/// <summary>The triangles of nodes, for what stays on them.</summary>
public static class Surfaces
{
    /// <summary>Those of a node itself, without its branch; null where it has none, or more than can be found fast.</summary>
    public static TriangleIndex? Of(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        var geometry = node.Shape is { } shape ? Tessellations.Of(shape) : node.Geometry is { } hash ? scene.Geometries.Find(hash) : null;
        if (geometry is not { TriangleCount: <= TriangleIndex.Most })
        {
            return null;
        }

        // The same triangles with other normals lie in the same order.
        var shown = node.Normals?.On(geometry) ?? geometry;
        return shown == geometry || shown.IsIndexed || shown.Index([.. geometry.Triangles.Order]) ? shown.Triangles : geometry.Triangles;
    }
}
