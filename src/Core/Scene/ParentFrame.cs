using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What a node takes of its parent's world matrix P. With everything taken it is P itself. Else P is split as T·Rp·Kp
/// (Kp upper triangular: scale, shear and mirror) and only the taken parts are used, for the pivot's place and for the
/// directions separately.
/// <code>
/// var frame = ParentFrame.Of(parentWorld, node.Placement.Takes);
/// var placed = frame.Placed(node.Placement);             // where its numbers put it in the world
/// var stored = frame.Storing(wanted, node.Placement, node.Name);
/// </code>
/// </summary>
/// <param name="Place">Maps the stored position to the pivot's place in the world.</param>
/// <param name="Basis">Maps the stored directions to the world.</param>
public readonly record struct ParentFrame(Affine Place, Mat3 Basis)
{
    public static readonly ParentFrame World = new(Affine.Identity, Mat3.Identity);

    public static ParentFrame Of(Affine parentWorld, Takes takes)
    {
        if (takes == Takes.All)
        {
            return new(parentWorld, parentWorld.Linear);
        }

        var (r, k) = Split(parentWorld.Linear);
        var basis = (takes.Rotation ? r : Mat3.Identity) * (takes.Scale ? k : Mat3.Identity);
        return new(takes.Position ? parentWorld : Affine.Identity, basis);
    }

    /// <summary>P's linear part as rotation times upper triangular; a mirror goes into the third row of the latter.</summary>
    public static (Mat3 Rotation, Mat3 Stretch) Split(Mat3 linear)
    {
        var (r, k) = Triangular.Split(linear);
        if (r.Determinant < 0)
        {
            r = r with { Z = -r.Z };
            k = Mat3.Diagonal(new(1, 1, -1)) * k;
        }

        return (r, k);
    }

    /// <summary>Where what is stored puts a node in this frame: its world matrix before its own constraints.</summary>
    public Affine Placed(Placement placement)
    {
        var linear = Basis * placement.Basis;
        return new(linear, Place.Point(placement.Position) - linear * placement.Pivot);
    }

    /// <summary>The same node, stored so that its world matrix becomes <paramref name="world"/> (law 2).</summary>
    /// <exception cref="Refusal">singular-parent.</exception>
    public Placement Storing(Affine world, Placement placement, string name) => Inverted(name).Storing(world, placement);

    /// <summary>The same node with its pivot at a point of the world; nothing but the position changes.</summary>
    /// <exception cref="Refusal">singular-parent.</exception>
    public Placement Standing(Placement placement, Vec3 at, string name)
    {
        CheckInvertible(name);
        return placement with { Position = Place.Inverse().Point(at) };
    }

    /// <summary>The way back into this frame, worked out once for many nodes.</summary>
    /// <exception cref="Refusal">singular-parent.</exception>
    public InvertedFrame Inverted(string name)
    {
        CheckInvertible(name);
        return new(Place.Inverse(), Basis.Inverse());
    }

    /// <summary>The same node with its pivot moved so that the point <paramref name="q"/> of its frame stands at <paramref name="at"/> in the world.</summary>
    public Placement Holding(Placement placement, Vec3 q, Vec3 at)
    {
        var pivotAt = at - Basis * (placement.Basis * (q - placement.Pivot));
        return placement with { Position = Place.Inverse().Point(pivotAt) };
    }

    /// <summary>
    /// The same node with its pivot at another point of its frame, geometry and children kept (law 1): with A and B the linear
    /// parts of this frame for places and for directions, position' = position + A⁻¹·B·R·H·S·Q⁻¹·(p' − p).
    /// </summary>
    /// <exception cref="Refusal">singular-parent, where A and B differ.</exception>
    public Placement WithPivot(Placement placement, Vec3 pivot, string name)
    {
        var way = placement.Basis * (pivot - placement.Pivot);
        if (Place.Linear != Basis)
        {
            CheckInvertible(name);
            way = Place.Linear.Inverse() * (Basis * way);
        }

        return placement with { Pivot = pivot, Position = placement.Position + way };
    }

    /// <summary>
    /// The same node with its stored rotation such that its own axes (the rotation part of P·R) become
    /// <paramref name="axes"/>; scale and shear stay to the bit. With B the basis taken, R' is the rotation part of B⁻¹·axes:
    /// Gram–Schmidt keeps the directions of the first axis and of the plane of the first two, and B carries them back.
    /// </summary>
    public Placement Heading(Placement placement, Mat3 axes)
    {
        var r = (Basis.Inverse() * axes).RotationPart();
        return placement with { Rotation = Euler.FromMatrix(r, placement.Order, placement.Rotation) };
    }

    /// <summary>Whether places in the world can be worked out in it.</summary>
    public bool IsInvertible => !(Triangular.Condition(Basis) > 1e12 || (Place.Linear != Basis && Triangular.Condition(Place.Linear) > 1e12));

    public void CheckInvertible(string name)
    {
        if (!IsInvertible)
        {
            throw new Refusal(
                Refusals.SingularParent,
                $"What carries “{name}” is scaled so thin that its place in it cannot be worked out. Give its parent a larger scale first.");
        }
    }
}

/// <summary>Leads from the world into what a node takes of its parent.</summary>
public readonly record struct InvertedFrame(Affine Place, Mat3 Basis)
{
    /// <summary>The same node, stored so that its world matrix becomes <paramref name="world"/> (law 2).</summary>
    public Placement Storing(Affine world, Placement placement) =>
        placement.Storing(Basis * world.Linear, Place.Point(world.Point(placement.Pivot)));
}
