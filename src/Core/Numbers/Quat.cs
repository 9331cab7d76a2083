namespace CalmPivot.Core.Numbers;

/// <summary>A unit quaternion x, y, z, w, as glTF writes rotations.</summary>
public readonly record struct Quat(double X, double Y, double Z, double W)
{
    public static readonly Quat Identity = new(0, 0, 0, 1);

    /// <summary>A turn about an axis of length 1; degrees.</summary>
    public static Quat About(Vec3 axis, double degrees)
    {
        var (s, c) = Degrees.SinCos(degrees / 2);
        return new(axis.X * s, axis.Y * s, axis.Z * s, c);
    }

    /// <summary>First the right turn, then the left one (Hamilton's product).</summary>
    public static Quat operator *(Quat a, Quat b) => new(
        a.W * b.X + a.X * b.W + a.Y * b.Z - a.Z * b.Y,
        a.W * b.Y - a.X * b.Z + a.Y * b.W + a.Z * b.X,
        a.W * b.Z + a.X * b.Y - a.Y * b.X + a.Z * b.W,
        a.W * b.W - a.X * b.X - a.Y * b.Y - a.Z * b.Z);

    public Quat Unit()
    {
        var k = 1 / Math.Sqrt(X * X + Y * Y + Z * Z + W * W);
        return new(X * k, Y * k, Z * k, W * k);
    }

    /// <summary>The axis of the turn, as long as its angle: 0 to 180 degrees.</summary>
    public Vec3 ToTurn()
    {
        var v = new Vec3(X, Y, Z) * (W < 0 ? -1 : 1);
        var sine = v.Length;
        return sine > 0 ? v * (2 * Degrees.Atan2(sine, Math.Abs(W)) / sine) : Vec3.Zero;
    }

    public Mat3 ToMatrix()
    {
        var n = X * X + Y * Y + Z * Z + W * W;
        if (!(n > 0))
        {
            return Mat3.Identity;
        }

        var s = 2 / n;
        return new(
            new(1 - s * (Y * Y + Z * Z), s * (X * Y + Z * W), s * (X * Z - Y * W)),
            new(s * (X * Y - Z * W), 1 - s * (X * X + Z * Z), s * (Y * Z + X * W)),
            new(s * (X * Z + Y * W), s * (Y * Z - X * W), 1 - s * (X * X + Y * Y)));
    }

    /// <summary>The quaternion of a rotation, by its largest component (Shepperd 1978), with w not negative.</summary>
    public static Quat From(Mat3 r)
    {
        var t = r.Trace;
        Quat q;
        if (t >= r.X.X && t >= r.Y.Y && t >= r.Z.Z)
        {
            q = new(r[2, 1] - r[1, 2], r[0, 2] - r[2, 0], r[1, 0] - r[0, 1], 1 + t);
        }
        else if (r.X.X >= r.Y.Y && r.X.X >= r.Z.Z)
        {
            q = new(1 + 2 * r.X.X - t, r[1, 0] + r[0, 1], r[0, 2] + r[2, 0], r[2, 1] - r[1, 2]);
        }
        else if (r.Y.Y >= r.Z.Z)
        {
            q = new(r[1, 0] + r[0, 1], 1 + 2 * r.Y.Y - t, r[2, 1] + r[1, 2], r[0, 2] - r[2, 0]);
        }
        else
        {
            q = new(r[0, 2] + r[2, 0], r[2, 1] + r[1, 2], 1 + 2 * r.Z.Z - t, r[1, 0] - r[0, 1]);
        }

        var k = (q.W < 0 ? -1 : 1) / Math.Sqrt(q.X * q.X + q.Y * q.Y + q.Z * q.Z + q.W * q.W);
        return new(q.X * k, q.Y * k, q.Z * k, q.W * k);
    }
}
