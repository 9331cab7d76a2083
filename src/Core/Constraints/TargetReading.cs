using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>What those that go by a node read of it, beside its world matrix.</summary>
/// <param name="Point">Its pivot, in the world.</param>
/// <param name="OwnPoint">Its pivot, in its own frame.</param>
/// <param name="Axes">Its own axes, as it stands.</param>
/// <param name="Carrier">The directions of what it takes of its own parent.</param>
/// <param name="Sizes">K11, K22 and K33 as it stands, without signs.</param>
/// <param name="Rotation">Its stored angles, degrees.</param>
public sealed record TargetReading(Vec3 Point, Vec3 OwnPoint, Mat3 Axes, Mat3 Carrier, Vec3 Sizes, Vec3 Rotation)
{
    /// <returns>Null: it is too thin to be read.</returns>
    public static unsafe TargetReading? Of(Affine world, Own own, Mat3 basis)
    {
        double* flat = stackalloc double[Flat.Size], stance = stackalloc double[Stances.Size];
        Flat.Write(world, flat);
        if (!Stances.Split(flat, own, stance))
        {
            return null;
        }

        Flat.Write(new(basis, Vec3.Zero), flat);
        return new(
            new(stance[0], stance[1], stance[2]),
            own.Pivot,
            Situation.Axes(stance, own),
            Situation.Axes(flat),
            new(stance[MatchScale.Diagonal(0)], stance[MatchScale.Diagonal(1)], Math.Abs(stance[MatchScale.Diagonal(2)])),
            own.Rotation);
    }

    /// <summary>Its own axes in the frame that a constraint reads them in.</summary>
    public Mat3 In(Frame frame) => frame == Frame.World ? Axes : Carrier.Transposed() * Axes;
}
