namespace CalmPivot.Core.Numbers;

/// <summary>Euler angles and rotations, in both directions. Angles in degrees, each at the place of its axis (X, Y, Z).</summary>
public static class Euler
{
    /// <summary>Below this cosine of the middle angle, the two other axes count as lined up.</summary>
    public const double LinedUpCosine = 1e-8;

    /// <summary>
    /// R = Rk·Rj·Ri for inner i, middle j, outer k, multiplied out; in an odd order every turn runs the other way round in the
    /// frame of the letters. Numbers by themselves, since this is computed for every node that is placed.
    /// </summary>
    public static Mat3 ToMatrix(Vec3 angles, EulerOrder order)
    {
        if (angles == Vec3.Zero)
        {
            return Mat3.Identity;
        }

        var (i, j, k) = order.Letters();
        var (si, ci) = Degrees.SinCos(angles[i]);
        var (sj, cj) = Degrees.SinCos(angles[j]);
        var (sk, ck) = Degrees.SinCos(angles[k]);
        if (order.Parity() < 0)
        {
            // Not by a factor, which would leave zeros with a sign.
            (si, sj, sk) = (0 - si, 0 - sj, 0 - sk);
        }

        Span<double> m = stackalloc double[9];
        m[3 * i + i] = cj * ck;
        m[3 * i + j] = cj * sk;
        m[3 * i + k] = 0 - sj;
        m[3 * j + i] = si * sj * ck - ci * sk;
        m[3 * j + j] = si * sj * sk + ci * ck;
        m[3 * j + k] = si * cj;
        m[3 * k + i] = ci * sj * ck + si * sk;
        m[3 * k + j] = ci * sj * sk - si * ck;
        m[3 * k + k] = ci * cj;
        return new(new(m[0], m[1], m[2]), new(m[3], m[4], m[5]), new(m[6], m[7], m[8]));
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
        var image = r.Column(i);
        var (ii, ji) = (image[i], image[j]);
        var sinMiddle = -sign * image[k];
        var cosMiddle = Math.Sqrt(ii * ii + ji * ji);
        var middle = Degrees.Atan2(sinMiddle, cosMiddle);
        if (cosMiddle < LinedUpCosine)
        {
            var kept = Triple(order, Inner(r, order, middle, previous[k]), middle, 0);
            return Near(kept, previous).With(k, previous[k]);
        }

        // Near where the axes line up, outer and inner angle are hard to tell apart; the inner one then takes what the outer
        // one has missed, so that together they give the rotation to the last digits.
        var outer = Degrees.Atan2(sign * ji, ii);
        var inner = Inner(r, order, middle, outer);
        return Nearer(
            Near(Triple(order, inner, middle, outer), previous),
            Near(Triple(order, inner + 180, 180 - middle, outer + 180), previous),
            previous,
            order);
    }

    /// <summary>Nearer than this, in degrees, two rotation axes are said to line up.</summary>
    public const double LinesUpBelow = 0.5;

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

    /// <summary>
    /// The inner angle of a rotation whose two others are known: what is left of the middle axis' image when they are
    /// turned back, read along the middle and the outer axis.
    /// </summary>
    private static double Inner(Mat3 r, EulerOrder order, double middle, double outer)
    {
        var (i, j, k) = order.Letters();
        var parity = order.Parity();
        var (sj, cj) = Degrees.SinCos(middle);
        var (sk, ck) = Degrees.SinCos(outer);
        var image = r.Column(j);
        var along = image[j] * ck - parity * image[i] * sk;
        var across = sj * (parity * image[i] * ck + image[j] * sk) + image[k] * cj;
        return Degrees.Atan2(parity * across, along);
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
