using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// Position, rotation, scale and size of a node as they are read: as stored (in the parent), or in the world. In the world,
/// position is the pivot's place, rotation the angles of the own axes in the node's order, scale the diagonal of K in
/// P·R·H·S = rotation·K. Size is the extent of the bounds along the pivot's directions, times the scale.
/// </summary>
public readonly record struct Channels(Vec3 Position, Vec3 Rotation, Vec3 Scale, Vec3 Size)
{
    public static Channels Of(SceneDraft draft, Node node, bool world, Vec3? extent = null)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        var unscaled = extent ?? Extent(draft, node);
        var p = node.Placement;
        if (!world)
        {
            return new(p.Position, p.Rotation, p.Scale, unscaled.Times(p.Scale.Map(Math.Abs)));
        }

        var scale = WorldScale(draft, node);
        return new(
            draft.PivotOf(node),
            Euler.FromMatrix(OwnSpace.Of(draft, node), p.Order, p.Rotation),
            scale,
            unscaled.Times(scale.Map(Math.Abs)));
    }

    /// <summary>The extent of a node (of what rides on it, where it has no geometry) along its pivot's directions, before its scale.</summary>
    public static Vec3 Extent(SceneDraft draft, Node node)
    {
        if (node.Placement.PivotTurn == Vec3.Zero)
        {
            return Extents.InOwnFrame(draft, node).Size;
        }

        var toPivot = new Affine(node.Placement.Q.Transposed(), Vec3.Zero);
        return Extents.GeometryOf(draft, node) is { } geometry
            ? geometry.Extent(toPivot).Size
            : Extents.OfBranch(draft, node, toPivot * draft.World(node).Inverse()).Size;
    }

    /// <summary>The scale along the node's own axes as the world sees it; its signs are those of the stored scale where nothing above mirrors.</summary>
    public static Vec3 WorldScale(SceneDraft draft, Node node)
    {
        node = draft.AsItStands(node);
        var p = node.Placement;
        var linear = draft.FrameOf(node).Basis * (p.R * (p.H * Mat3.Diagonal(p.Scale)));
        var stretch = OwnSpace.Of(draft, node).Transposed() * linear;
        return new(stretch.X.X, stretch.Y.Y, stretch.Z.Z);
    }
}
