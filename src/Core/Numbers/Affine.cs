namespace CalmPivot.Core.Numbers;

/// <summary>An affine map of space, <c>x ↦ Linear·x + Offset</c>: a 4×4 matrix whose last row is 0 0 0 1.</summary>
public readonly record struct Affine(Mat3 Linear, Vec3 Offset)
{
    public static readonly Affine Identity = new(Mat3.Identity, Vec3.Zero);

    public bool IsFinite => Linear.IsFinite && Offset.IsFinite;

    /// <summary>Without minus zeros, as it is stored.</summary>
    public Affine Plain() => new(new(Linear.X.Plain(), Linear.Y.Plain(), Linear.Z.Plain()), Offset.Plain());

    public Vec3 Point(Vec3 p) => Linear * p + Offset;

    public Affine Inverse()
    {
        var inverse = Linear.Inverse();
        return new(inverse, -(inverse * Offset));
    }

    /// <summary>The same linear map, done with <paramref name="centre"/> held in its place.</summary>
    public static Affine About(Vec3 centre, Mat3 linear) => new(linear, centre - linear * centre);

    /// <summary>The largest difference between two entries.</summary>
    public double Distance(Affine o)
    {
        var d = Offset - o.Offset;
        return Math.Max(Linear.Distance(o.Linear), Math.Max(Math.Abs(d.X), Math.Max(Math.Abs(d.Y), Math.Abs(d.Z))));
    }

    /// <summary>Sixteen numbers, column-major, as glTF and the API write matrices.</summary>
    public double[] ToArray() =>
    [
        Linear.X.X, Linear.X.Y, Linear.X.Z, 0,
        Linear.Y.X, Linear.Y.Y, Linear.Y.Z, 0,
        Linear.Z.X, Linear.Z.Y, Linear.Z.Z, 0,
        Offset.X, Offset.Y, Offset.Z, 1,
    ];

    public static Affine From(ReadOnlySpan<double> m) => new(
        new(new(m[0], m[1], m[2]), new(m[4], m[5], m[6]), new(m[8], m[9], m[10])),
        new(m[12], m[13], m[14]));

    public static Affine operator *(Affine a, Affine b) => new(a.Linear * b.Linear, a.Point(b.Offset));
}
