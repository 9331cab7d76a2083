namespace CalmPivot.Core.Numbers;

/// <summary>A box along some axes: its low and high corner in them. Empty until a point is added.</summary>
public readonly record struct Bounds(Vec3 Low, Vec3 High)
{
    public static readonly Bounds Empty = new(
        new(double.PositiveInfinity, double.PositiveInfinity, double.PositiveInfinity),
        new(double.NegativeInfinity, double.NegativeInfinity, double.NegativeInfinity));

    public bool IsEmpty => !(Low.X <= High.X);

    public Vec3 Middle => (Low + High) * 0.5;

    public Vec3 Size => IsEmpty ? Vec3.Zero : High - Low;

    public Bounds With(Vec3 p) => new(Vec3.Min(Low, p), Vec3.Max(High, p));

    public Bounds With(Bounds o) => new(Vec3.Min(Low, o.Low), Vec3.Max(High, o.High));

    /// <summary>The eight corners, x first.</summary>
    public IEnumerable<Vec3> Corners()
    {
        var box = this;
        return Enumerable.Range(0, 8).Select(i => box.Anchor(new((i & 1) * 2 - 1, (i & 2) - 1, (i & 4) / 2 - 1)));
    }

    /// <summary>One of the 27 points: −1, 0, 1 along each axis mean low, middle, high.</summary>
    public Vec3 Anchor(Vec3 anchor) => Middle + Size.Times(anchor) * 0.5;
}
