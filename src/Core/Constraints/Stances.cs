using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// A world matrix split into what constraints write, on flat memory: with Q the directions of the pivot and p = W·pivot,
/// <c>L·Q = R·K</c>, K upper triangular with K11, K22 positive, R a rotation; K33 carries a mirror. Eighteen numbers: p, the
/// columns of R, then K11 K12 K22 K13 K23 K33. World matrices are twelve: the rows of the 3×4 matrix. See model.md, Constraints.
/// </summary>
public static unsafe class Stances
{
    /// <summary>How many numbers a stance has, and where its rotation and its stretch begin.</summary>
    public const int Size = 18;
    public const int R = 3;
    public const int K = 12;

    /// <returns>False: the matrix is too thin to have directions.</returns>
    public static bool Split(double* world, Own own, double* stance)
    {
        var (x, y, z) = (world[0], world[4], world[8]);
        var (bx, by, bz) = (world[1], world[5], world[9]);
        var (cx, cy, cz) = (world[2], world[6], world[10]);
        var pivot = own.Pivot;
        stance[0] = x * pivot.X + bx * pivot.Y + cx * pivot.Z + world[3];
        stance[1] = y * pivot.X + by * pivot.Y + cy * pivot.Z + world[7];
        stance[2] = z * pivot.X + bz * pivot.Y + cz * pivot.Z + world[11];
        if (own.IsTurned)
        {
            var q = own.Turn;
            var (ox, oy, oz, px, py, pz, rx, ry, rz) = (x, y, z, bx, by, bz, cx, cy, cz);
            (x, y, z) = (ox * q.X.X + px * q.X.Y + rx * q.X.Z, oy * q.X.X + py * q.X.Y + ry * q.X.Z, oz * q.X.X + pz * q.X.Y + rz * q.X.Z);
            (bx, by, bz) = (ox * q.Y.X + px * q.Y.Y + rx * q.Y.Z, oy * q.Y.X + py * q.Y.Y + ry * q.Y.Z, oz * q.Y.X + pz * q.Y.Y + rz * q.Y.Z);
            (cx, cy, cz) = (ox * q.Z.X + px * q.Z.Y + rx * q.Z.Z, oy * q.Z.X + py * q.Z.Y + ry * q.Z.Z, oz * q.Z.X + pz * q.Z.Y + rz * q.Z.Z);
        }

        var length = Math.Sqrt(x * x + y * y + z * z);
        var (nx, ny, nz) = (y * bz - z * by, z * bx - x * bz, x * by - y * bx);
        var area = Math.Sqrt(nx * nx + ny * ny + nz * nz);
        if (!(area > 1e-14 * length * Math.Sqrt(bx * bx + by * by + bz * bz)) || !double.IsFinite(area))
        {
            return false;
        }

        var k = 1 / length;
        (x, y, z) = (x * k, y * k, z * k);
        k = 1 / area;
        (nx, ny, nz) = (nx * k, ny * k, nz * k);
        var (mx, my, mz) = (ny * z - nz * y, nz * x - nx * z, nx * y - ny * x);
        stance[3] = x;
        stance[4] = y;
        stance[5] = z;
        stance[6] = mx;
        stance[7] = my;
        stance[8] = mz;
        stance[9] = nx;
        stance[10] = ny;
        stance[11] = nz;
        stance[12] = length;
        stance[13] = x * bx + y * by + z * bz;
        stance[14] = mx * bx + my * by + mz * bz;
        stance[15] = x * cx + y * cy + z * cz;
        stance[16] = mx * cx + my * cy + mz * cz;
        stance[17] = nx * cx + ny * cy + nz * cz;
        return true;
    }

    /// <summary>The world matrix of a stance.</summary>
    public static void Compose(double* stance, Own own, double* world)
    {
        var (k11, k12, k22, k13, k23, k33) = (stance[12], stance[13], stance[14], stance[15], stance[16], stance[17]);
        var pivot = own.Pivot;
        var q = own.Turn;
        for (var row = 0; row < 3; row++)
        {
            var (rx, ry, rz) = (stance[3 + row], stance[6 + row], stance[9 + row]);
            var (a, b, c) = (rx * k11, rx * k12 + ry * k22, rx * k13 + ry * k23 + rz * k33);
            if (own.IsTurned)
            {
                (a, b, c) = (a * q.X.X + b * q.Y.X + c * q.Z.X, a * q.X.Y + b * q.Y.Y + c * q.Z.Y, a * q.X.Z + b * q.Y.Z + c * q.Z.Z);
            }

            var w = world + 4 * row;
            w[0] = a;
            w[1] = b;
            w[2] = c;
            w[3] = stance[row] - (a * pivot.X + b * pivot.Y + c * pivot.Z);
        }
    }

    /// <summary>
    /// <c>mix</c> of model.md: the parts that a kind writes, a share <paramref name="w"/> of the way from one stance to another,
    /// into the other. With w beyond 1 it leads on beyond, which is how a wanted mixture is traced back to what was mixed in.
    /// </summary>
    /// <param name="axis">Which way a turn by 180° goes: that about which, in the frame of R, this lies on the positive side.</param>
    public static void Mix(double* from, double* to, double w, Writes writes, Vec3 axis)
    {
        if (w == 1)
        {
            return;
        }

        if ((writes & Writes.Place) != 0)
        {
            for (var i = 0; i < 3; i++)
            {
                to[i] = from[i] + (to[i] - from[i]) * w;
            }
        }

        if ((writes & Writes.Stretch) != 0)
        {
            var sign = w >= 0.5 ? to[17] < 0 : from[17] < 0;
            (to[17], var was) = (Math.Abs(to[17]), Math.Abs(from[17]));
            for (var i = 12; i < 17; i++)
            {
                to[i] = from[i] + (to[i] - from[i]) * w;
            }

            to[17] = (was + (to[17] - was) * w) * (sign ? -1 : 1);
        }

        if ((writes & Writes.Turn) != 0)
        {
            MixTurn(from + R, to + R, w, axis);
        }
    }

    /// <summary>One stance into another.</summary>
    public static void CopyAll(double* from, double* to)
    {
        for (var i = 0; i < Size; i += 2)
        {
            to[i] = from[i];
            to[i + 1] = from[i + 1];
        }
    }

    /// <summary>Some parts of one stance into another.</summary>
    public static void Copy(double* from, double* to, Writes parts)
    {
        for (var i = 0; i < Size; i++)
        {
            var part = i < R ? Writes.Place : i < K ? Writes.Turn : Writes.Stretch;
            to[i] = (parts & part) != 0 ? from[i] : to[i];
        }
    }

    /// <summary>Which parts of two stances differ by more than rounding.</summary>
    public static Writes Differ(double* a, double* b, double tolerance = 1e-11)
    {
        var size = 1 + Math.Abs(a[0]) + Math.Abs(a[1]) + Math.Abs(a[2]);
        var stretch = a[12] + a[14] + Math.Abs(a[17]);
        var parts = Writes.Nothing;
        for (var i = 0; i < Size; i++)
        {
            var by = Math.Abs(a[i] - b[i]);
            parts |= i < R ? by > tolerance * size ? Writes.Place : 0
                : i < K ? by > tolerance ? Writes.Turn : 0
                : by > tolerance * stretch ? Writes.Stretch : 0;
        }

        return parts;
    }

    /// <summary>Which parts of two stances differ: of those that an edit asks for by more than the last places, of the others by more than what rounding comes to.</summary>
    public static Writes Differ(double* a, double* b, Writes asked) => Differ(a, b) | (Differ(a, b, 4e-15) & asked);

    /// <summary>The angle between two rotations, given by their columns; degrees.</summary>
    public static double Angle(double* from, double* to)
    {
        Between(from, to, out var x, out var y, out var z, out var w);
        return 2 * Degrees.Atan2(Math.Sqrt(x * x + y * y + z * z), w);
    }

    /// <summary>R = R_A·Rot(n, w·θ), n and θ the axis and the angle, 0 to 180°, of R_Aᵀ·R_C.</summary>
    private static void MixTurn(double* from, double* to, double w, Vec3 axis)
    {
        Between(from, to, out var x, out var y, out var z, out var c);
        var s = Math.Sqrt(x * x + y * y + z * z);
        if (s == 0)
        {
            return;
        }

        // Within 1e-7 rad of 180° both ways round are as short, and the entry's own axis says which is taken.
        if (c < 5e-8)
        {
            var along = (x * axis.X + y * axis.Y + z * axis.Z) / s;
            var first = Math.Abs(x) > 1e-9 * s ? x : Math.Abs(y) > 1e-9 * s ? y : z;
            if (Math.Abs(along) > 1e-9 ? along < 0 : first < 0)
            {
                (x, y, z) = (-x, -y, -z);
            }
        }

        var (sine, cosine) = Degrees.SinCos(Degrees.Atan2(s, c) * w);
        s = sine / s;
        (x, y, z, c) = (x * s, y * s, z * s, cosine);
        var (m00, m11, m22) = (1 - 2 * (y * y + z * z), 1 - 2 * (x * x + z * z), 1 - 2 * (x * x + y * y));
        var (m10, m01) = (2 * (x * y + z * c), 2 * (x * y - z * c));
        var (m20, m02) = (2 * (x * z - y * c), 2 * (x * z + y * c));
        var (m21, m12) = (2 * (y * z + x * c), 2 * (y * z - x * c));
        for (var i = 0; i < 3; i++)
        {
            var (a, b, d) = (from[i], from[3 + i], from[6 + i]);
            to[i] = a * m00 + b * m10 + d * m20;
            to[3 + i] = a * m01 + b * m11 + d * m21;
            to[6 + i] = a * m02 + b * m12 + d * m22;
        }
    }

    /// <summary>The quaternion of R_Aᵀ·R_C, by its largest component (Shepperd 1978), w not negative.</summary>
    private static void Between(double* a, double* c, out double x, out double y, out double z, out double w)
    {
        var m00 = a[0] * c[0] + a[1] * c[1] + a[2] * c[2];
        var m10 = a[3] * c[0] + a[4] * c[1] + a[5] * c[2];
        var m20 = a[6] * c[0] + a[7] * c[1] + a[8] * c[2];
        var m01 = a[0] * c[3] + a[1] * c[4] + a[2] * c[5];
        var m11 = a[3] * c[3] + a[4] * c[4] + a[5] * c[5];
        var m21 = a[6] * c[3] + a[7] * c[4] + a[8] * c[5];
        var m02 = a[0] * c[6] + a[1] * c[7] + a[2] * c[8];
        var m12 = a[3] * c[6] + a[4] * c[7] + a[5] * c[8];
        var m22 = a[6] * c[6] + a[7] * c[7] + a[8] * c[8];
        var t = m00 + m11 + m22;
        if (t >= m00 && t >= m11 && t >= m22)
        {
            (x, y, z, w) = (m21 - m12, m02 - m20, m10 - m01, 1 + t);
        }
        else if (m00 >= m11 && m00 >= m22)
        {
            (x, y, z, w) = (1 + 2 * m00 - t, m10 + m01, m02 + m20, m21 - m12);
        }
        else if (m11 >= m22)
        {
            (x, y, z, w) = (m10 + m01, 1 + 2 * m11 - t, m21 + m12, m02 - m20);
        }
        else
        {
            (x, y, z, w) = (m02 + m20, m21 + m12, 1 + 2 * m22 - t, m10 - m01);
        }

        var k = (w < 0 ? -1 : 1) / Math.Sqrt(x * x + y * y + z * z + w * w);
        (x, y, z, w) = (x * k, y * k, z * k, w * k);
    }
}
