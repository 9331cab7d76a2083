namespace CalmPivot.Core.Numbers;

/// <summary>Euler angles and rotations, in both directions. Angles in degrees, each at the place of its axis (X, Y, Z).</summary>
public static class Euler
{
    /// <summary>Below this cosine of the middle angle, the two other axes count as lined up.</summary>
    public const double LinedUpCosine = 1e-8;

    public static Mat3 ToMatrix(Vec3 angles, EulerOrder order)
    {
        var (inner, middle, outer) = order.Letters();
        return Mat3.Rotation(outer, angles[outer]) * Mat3.Rotation(middle, angles[middle]) * Mat3.Rotation(inner, angles[inner]);
    }

    /// <summary>
    /// The angles of a rotation. Of all triples that give it (two families, whole turns) the one nearest to
    /// <paramref name="previous"/>: least sum of squares; ties: smaller |outer|, then smaller |middle|.
    /// Where the axes line up, the outer angle keeps its value.
    /// </summary>
    public static Vec3 FromMatrix(Mat3 r, EulerOrder order, Vec3 previous)
    {
        var (i, j, k) = order.Letters();
        var sign = order.Parity();

        // With R = Rk·Rj·Ri, the inner axis' image has the components that hold middle and outer angle.
        var sinMiddle = -sign * r[k, i];
        var cosMiddle = Math.Sqrt(r[i, i] * r[i, i] + r[j, i] * r[j, i]);
        var middle = Degrees.Atan2(sinMiddle, cosMiddle);
        if (cosMiddle < LinedUpCosine)
        {
            var kept = Triple(order, Inner(r, order, middle, previous[k]), middle, 0);
            return Near(kept, previous).With(k, previous[k]);
        }

        // Near where the axes line up, outer and inner angle are hard to tell apart; the inner one then takes what the outer
        // one has missed, so that together they give the rotation to the last digits.
        var outer = Degrees.Atan2(sign * r[j, i], r[i, i]);
        var inner = Inner(r, order, middle, outer);
        return Nearer(
            Near(Triple(order, inner, middle, outer), previous),
            Near(Triple(order, inner + 180, 180 - middle, outer + 180), previous),
            previous,
            order);
    }

    /// <summary>How far, in degrees, the middle angle is from where two rotation axes line up.</summary>
    public static double FromLiningUp(Vec3 angles, EulerOrder order)
    {
        var middle = angles[order.Letters().Middle];
        return Math.Abs(Math.IEEERemainder(middle - 90, 180));
    }

    /// <summary>The three true axes that the angles turn about, in the parent's frame: outer fixed, middle turned by it, inner by both.</summary>
    public static Mat3 Channels(Vec3 angles, EulerOrder order)
    {
        var (inner, middle, outer) = order.Letters();
        var afterOuter = Mat3.Rotation(outer, angles[outer]);
        var afterMiddle = afterOuter * Mat3.Rotation(middle, angles[middle]);
        return Mat3.Identity
            .WithColumn(outer, Vec3.Axis(outer))
            .WithColumn(middle, afterOuter.Column(middle))
            .WithColumn(inner, afterMiddle.Column(inner));
    }

    /// <summary>The inner angle of a rotation whose two others are known: what is left when they are turned back.</summary>
    private static double Inner(Mat3 r, EulerOrder order, double middle, double outer)
    {
        var (_, j, k) = order.Letters();
        var rest = (Mat3.Rotation(k, outer) * Mat3.Rotation(j, middle)).Transposed() * r;
        return Degrees.Atan2(order.Parity() * rest[k, j], rest[j, j]);
    }

    private static Vec3 Triple(EulerOrder order, double inner, double middle, double outer)
    {
        var (i, j, k) = order.Letters();
        return Vec3.Zero.With(i, inner).With(j, middle).With(k, outer);
    }

    private static Vec3 Near(Vec3 angles, Vec3 previous) => new(
        Degrees.Near(angles.X, previous.X),
        Degrees.Near(angles.Y, previous.Y),
        Degrees.Near(angles.Z, previous.Z));

    private static Vec3 Nearer(Vec3 a, Vec3 b, Vec3 previous, EulerOrder order)
    {
        var (_, middle, outer) = order.Letters();
        var difference = (a - previous).LengthSquared - (b - previous).LengthSquared;
        if (Math.Abs(difference) > 1e-9)
        {
            return difference < 0 ? a : b;
        }

        var byOuter = Math.Abs(a[outer]) - Math.Abs(b[outer]);
        if (Math.Abs(byOuter) > 1e-9)
        {
            return byOuter < 0 ? a : b;
        }

        return Math.Abs(a[middle]) <= Math.Abs(b[middle]) ? a : b;
    }
}
