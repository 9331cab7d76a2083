using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Edits;

/// <summary>Which of its own axes a thing faces with, and how hinges and facings are said in a swivel.</summary>
public static class Facings
{
    /// <summary>How much longer than wide a part is at least, so that it faces with its long end.</summary>
    private const double Long = 1.4;

    /// <summary>
    /// What looks along its −Z faces with that; a part that is clearly longer one way than the others with that end of it that lies farther from its pivot. Null:
    /// nothing about it says so.
    /// </summary>
    public static SignedAxis? Of(SceneDraft draft, Node node)
    {
        if (node.Kind is NodeKind.Camera or NodeKind.Light)
        {
            return new(2, true);
        }

        if (draft.World(node).Linear.Determinant == 0)
        {
            return null;
        }

        // Along its own axes, from its pivot.
        var (turn, world) = (OwnSpace.Of(draft, node).Transposed(), draft.World(node));
        var bounds = Extents.Own(draft, node, new(turn, -(turn * world.Point(node.Placement.Pivot))));
        var size = bounds.Size;
        var most = size.X >= size.Y && size.X >= size.Z ? 0 : size.Y >= size.Z ? 1 : 2;
        var second = Math.Max(size[(most + 1) % 3], size[(most + 2) % 3]);
        return bounds.IsEmpty || !(size[most] > Long * second) ? null : new(most, -bounds.Low[most] > bounds.High[most] + 1e-6 * size[most]);
    }

    /// <summary>
    /// A swivel of a node about one of its own axes, facing with another; its angles count from where that faces as placed. With V what
    /// the constraints so far turn, hinge and zero are E_Pᵀ·Vᵀ of them.
    /// </summary>
    public static ConstraintPatch Swivel(SceneDraft draft, Node node, string target, SignedAxis hinge, SignedAxis facing)
    {
        var (parent, placed) = (draft.FrameOf(node).Basis.RotationPart(), node.Pointers(draft.Placed(node).Linear));
        return new()
        {
            Kind = "swivel",
            Target = target,
            Hinge = (parent.Transposed() * (placed * hinge.Vector)).Unit(),
            Zero = (parent.Transposed() * (placed * facing.Vector)).Unit(),
            Facing = facing.ToString(),
        };
    }

    /// <summary>A direction less its part along another of length 1.</summary>
    public static Vec3 Less(Vec3 v, Vec3 along) => v - along * v.Dot(along);
}
