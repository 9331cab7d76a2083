namespace CalmPivot.Core.Numbers;

/// <summary>Three 64-bit numbers: a point, a direction, factors or three angles, as its owner says.</summary>
public readonly record struct Vec3(double X, double Y, double Z)
{
    public static readonly Vec3 Zero;
    public static readonly Vec3 One = new(1, 1, 1);
    public static readonly Vec3 UnitX = new(1, 0, 0);
    public static readonly Vec3 UnitY = new(0, 1, 0);
    public static readonly Vec3 UnitZ = new(0, 0, 1);

    public double this[int i] => i switch { 0 => X, 1 => Y, 2 => Z, _ => throw new ArgumentOutOfRangeException(nameof(i)) };

    /// <summary>
    /// The same without minus zeros, as numbers are stored: one that equals zero must be told from it nowhere. By IEEE 754, −0 + 0 is 0.
    /// </summary>
    public Vec3 Plain() => new(X + 0.0, Y + 0.0, Z + 0.0);

    public double LengthSquared => X * X + Y * Y + Z * Z;

    public double Length => Math.Sqrt(LengthSquared);

    public bool IsFinite => double.IsFinite(X) && double.IsFinite(Y) && double.IsFinite(Z);

    public Vec3 With(int i, double value) => i switch
    {
        0 => this with { X = value },
        1 => this with { Y = value },
        2 => this with { Z = value },
        _ => throw new ArgumentOutOfRangeException(nameof(i)),
    };

    public double Dot(Vec3 o) => X * o.X + Y * o.Y + Z * o.Z;

    public Vec3 Cross(Vec3 o) => new(Y * o.Z - Z * o.Y, Z * o.X - X * o.Z, X * o.Y - Y * o.X);

    /// <summary>The vector at length 1; the zero vector stays zero, so that no caller ever meets NaN.</summary>
    public Vec3 Unit()
    {
        var length = Length;
        return length > 0 ? this * (1 / length) : Zero;
    }

    public Vec3 Times(Vec3 o) => new(X * o.X, Y * o.Y, Z * o.Z);

    public Vec3 Map(Func<double, double> f) => new(f(X), f(Y), f(Z));

    public double[] ToArray() => [X, Y, Z];

    /// <summary>The unit vector of axis 0, 1 or 2.</summary>
    public static Vec3 Axis(int i) => Zero.With(i, 1);

    public static Vec3 Min(Vec3 a, Vec3 b) => new(Math.Min(a.X, b.X), Math.Min(a.Y, b.Y), Math.Min(a.Z, b.Z));

    public static Vec3 Max(Vec3 a, Vec3 b) => new(Math.Max(a.X, b.X), Math.Max(a.Y, b.Y), Math.Max(a.Z, b.Z));

    public static Vec3 operator +(Vec3 a, Vec3 b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    public static Vec3 operator -(Vec3 a, Vec3 b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    public static Vec3 operator -(Vec3 a) => new(-a.X, -a.Y, -a.Z);

    public static Vec3 operator *(Vec3 a, double k) => new(a.X * k, a.Y * k, a.Z * k);

    public static Vec3 operator *(double k, Vec3 a) => a * k;
}
