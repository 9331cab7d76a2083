namespace CalmPivot.Core.Numbers;

/// <summary>A 3×3 matrix given by its columns: the images of x, y and z (column vectors, <c>M·v</c>).</summary>
public readonly record struct Mat3(Vec3 X, Vec3 Y, Vec3 Z)
{
    public static readonly Mat3 Identity = new(Vec3.UnitX, Vec3.UnitY, Vec3.UnitZ);

    public double this[int row, int column] => Column(column)[row];

    public bool IsFinite => X.IsFinite && Y.IsFinite && Z.IsFinite;

    public double Determinant => X.Dot(Y.Cross(Z));

    public double Trace => X.X + Y.Y + Z.Z;

    /// <summary>The square root of the sum of the squares of all nine numbers.</summary>
    public double Norm => Math.Sqrt(X.LengthSquared + Y.LengthSquared + Z.LengthSquared);

    public Vec3 Column(int i) => i switch { 0 => X, 1 => Y, 2 => Z, _ => throw new ArgumentOutOfRangeException(nameof(i)) };

    public Mat3 WithColumn(int i, Vec3 c) => i switch
    {
        0 => this with { X = c },
        1 => this with { Y = c },
        2 => this with { Z = c },
        _ => throw new ArgumentOutOfRangeException(nameof(i)),
    };

    public Mat3 Transposed() => new(new(X.X, Y.X, Z.X), new(X.Y, Y.Y, Z.Y), new(X.Z, Y.Z, Z.Z));

    /// <summary>The inverse, by cofactors. A singular matrix yields numbers that are not finite; callers that can meet one ask <see cref="Determinant"/> first.</summary>
    public Mat3 Inverse()
    {
        var yz = Y.Cross(Z);
        var zx = Z.Cross(X);
        var xy = X.Cross(Y);
        var k = 1 / X.Dot(yz);
        return new Mat3(yz * k, zx * k, xy * k).Transposed();
    }

    public static Mat3 Diagonal(Vec3 d) => new(new(d.X, 0, 0), new(0, d.Y, 0), new(0, 0, d.Z));

    /// <summary>The rotation by an angle about a unit axis, counter-clockwise seen from its tip (Rodrigues).</summary>
    public static Mat3 Rotation(Vec3 axis, double degrees)
    {
        var (s, c) = Degrees.SinCos(degrees);
        var t = 1 - c;
        var (x, y, z) = axis;
        return new(
            new(t * x * x + c, t * x * y + s * z, t * x * z - s * y),
            new(t * x * y - s * z, t * y * y + c, t * y * z + s * x),
            new(t * x * z + s * y, t * y * z - s * x, t * z * z + c));
    }

    public static Mat3 Rotation(int axis, double degrees)
    {
        var (s, c) = Degrees.SinCos(degrees);
        return axis switch
        {
            0 => new(Vec3.UnitX, new(0, c, s), new(0, -s, c)),
            1 => new(new(c, 0, -s), Vec3.UnitY, new(s, 0, c)),
            _ => new(new(c, s, 0), new(-s, c, 0), Vec3.UnitZ),
        };
    }

    /// <summary>
    /// The rotation part: Gram–Schmidt on x, y, z in that order, the third axis taken as x × y, so that the result is
    /// orthonormal and right-handed also for a mirrored matrix.
    /// </summary>
    public Mat3 RotationPart()
    {
        var x = X.Unit();
        var y = (Y - x * x.Dot(Y)).Unit();
        return new(x, y, x.Cross(y));
    }

    /// <summary>
    /// The axes that a camera sees and a lamp shines by, whatever scales, mirrors or shears it: −Z = unit(L·(0,0,−1)), Y = unit(L·(0,1,0) less its part along
    /// Z), X = Y × Z. Source: model.md, Lens axes.
    /// </summary>
    public Mat3 LensAxes()
    {
        var z = Z.Unit();
        var y = (Y - z * z.Dot(Y)).Unit();
        return new(y.Cross(z), y, z);
    }

    /// <summary>The largest difference between two entries.</summary>
    public double Distance(Mat3 o)
    {
        var d = new Mat3(X - o.X, Y - o.Y, Z - o.Z);
        var most = 0.0;
        for (var i = 0; i < 9; i++)
        {
            most = Math.Max(most, Math.Abs(d[i / 3, i % 3]));
        }

        return most;
    }

    public static Vec3 operator *(Mat3 m, Vec3 v) => new(
        m.X.X * v.X + m.Y.X * v.Y + m.Z.X * v.Z,
        m.X.Y * v.X + m.Y.Y * v.Y + m.Z.Y * v.Z,
        m.X.Z * v.X + m.Y.Z * v.Y + m.Z.Z * v.Z);

    public static Mat3 operator *(Mat3 a, Mat3 b) => new(a * b.X, a * b.Y, a * b.Z);
}
