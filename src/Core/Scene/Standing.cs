using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A node as it stands, as if nothing but its placement put it there. Edits compute on it, so that none has to know constraints: its
/// handles stand at the shown pivot along the shown axes. Parts that no constraint changes keep their numbers to the bit.
/// <code>
/// var shown = draft.AsItStands(node);                 // draft.Placed(shown) is draft.World(node)
/// </code>
/// </summary>
public static class Standing
{
    public static Node AsItStands(this SceneDraft draft, Node node)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        if (node.Constraints.IsEmpty)
        {
            return node;
        }

        // What carries it may be too thin for that; edits refuse that for themselves.
        var frame = draft.FrameOf(node);
        return node with { Placement = frame.IsInvertible ? Stored(frame, node, draft.World(node)) : node.Placement, Constraints = [] };
    }

    /// <summary>The placement that puts a constrained node to a world matrix, with what is the same already left to the bit.</summary>
    /// <exception cref="Refusal">singular-parent.</exception>
    public static unsafe Placement Stored(ParentFrame frame, Node node, Affine world)
    {
        ArgumentNullException.ThrowIfNull(node);
        double* was = stackalloc double[Stances.Size], now = stackalloc double[Stances.Size];
        var placement = node.Placement;
        var parts = Split(frame.Placed(placement), placement.ToOwn(), was) && Split(world, placement.ToOwn(), now) ? Stances.Differ(was, now) : Writes.All;
        return parts switch
        {
            Writes.Nothing => placement,
            Writes.Place => frame.Standing(placement, world.Point(placement.Pivot), node.Name),
            _ => Storing(frame, placement, world, node.Name),
        };
    }

    /// <summary>Law 2 with the signs of X and Y always kept, so that own axes stay what they are; Z takes a mirror.</summary>
    /// <exception cref="Refusal">singular-parent.</exception>
    public static Placement Storing(ParentFrame frame, Placement placement, Affine world, string name)
    {
        ArgumentNullException.ThrowIfNull(placement);
        var signs = placement.Signs;
        var mirrored = world.Linear.Determinant < 0 != frame.Basis.Determinant < 0;
        var near = signs.X * signs.Y * signs.Z < 0 != mirrored ? placement with { Scale = placement.Scale with { Z = -placement.Scale.Z } } : placement;
        return frame.Storing(world, near, name);
    }

    /// <summary>A world matrix as a stance.</summary>
    /// <returns>False: it is too thin to have directions.</returns>
    internal static unsafe bool Split(Affine world, Own own, double* stance)
    {
        var flat = stackalloc double[Flat.Size];
        Flat.Write(world, flat);
        return Stances.Split(flat, own, stance);
    }

    /// <summary>The world matrix of a stance.</summary>
    internal static unsafe Affine Composed(double* stance, Own own)
    {
        var flat = stackalloc double[Flat.Size];
        Stances.Compose(stance, own, flat);
        return Flat.Read(flat);
    }
}
