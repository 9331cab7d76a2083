using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Seeing;

/// <summary>
/// Which of several things stands foremost at each point of a picture. What is too small to cover any point counts as seen where one of its corners does not
/// lie behind what covers that point.
/// </summary>
internal sealed class Raster
{
    /// <summary>How much farther than what is foremost still counts as beside it, as a share of the depth.</summary>
    private const double Beside = 1e-6;

    private readonly Frustum _frustum;
    private readonly int _width;
    private readonly int _height;

    /// <summary>Foremost of what hides what is behind it: 1 / depth, or −depth in parallel views; larger is nearer.</summary>
    private readonly double[] _solid;
    private readonly int[] _foremost;

    public Raster(Frustum frustum, double aspect, int samples)
    {
        _frustum = frustum;
        _width = Math.Max(1, (int)Math.Round(Math.Sqrt(samples * aspect)));
        _height = Math.Max(1, samples / _width);
        _solid = new double[_width * _height];
        _foremost = new int[_width * _height];
        Array.Fill(_solid, double.NegativeInfinity);
        Array.Fill(_foremost, -1);
    }

    /// <summary>Fills a flat piece of a thing that lies in the frame.</summary>
    public void Fill(ReadOnlySpan<Vec3> corners, int thing) => Each(corners, (at, near) =>
    {
        if (near > _solid[at])
        {
            (_solid[at], _foremost[at]) = (near, thing);
        }

        return false;
    });

    /// <summary>The things that stand foremost at some point.</summary>
    public HashSet<int> Foremost() => [.. _foremost];

    /// <summary>Whether a corner of a flat piece, or where it is asked any point of it, does not lie behind what stands there.</summary>
    public bool Shows(ReadOnlySpan<Vec3> corners, bool everyPoint)
    {
        foreach (var corner in corners)
        {
            var at = OnPicture(corner);
            var (x, y) = (Math.Clamp((int)at.X, 0, _width - 1), Math.Clamp((int)at.Y, 0, _height - 1));
            if (IsBefore(y * _width + x, at.Z))
            {
                return true;
            }
        }

        return everyPoint && Each(corners, IsBefore);
    }

    private bool IsBefore(int at, double near) => double.IsNegativeInfinity(_solid[at]) || near >= _solid[at] - Math.Abs(_solid[at]) * Beside;

    /// <summary>Asks of each point of the picture that a flat piece covers, until the answer is yes.</summary>
    private bool Each(ReadOnlySpan<Vec3> corners, Func<int, double, bool> asks)
    {
        var a = OnPicture(corners[0]);
        var b = OnPicture(corners[1]);
        for (var i = 2; i < corners.Length; i++)
        {
            var c = OnPicture(corners[i]);
            if (Each(a, b, c, asks))
            {
                return true;
            }

            b = c;
        }

        return false;
    }

    /// <summary>Points across and down, and how near: over a flat piece this is linear in both.</summary>
    private Vec3 OnPicture(Vec3 p)
    {
        var by = _frustum.IsParallel ? 1 : -p.Z;
        var (x, y) = (p.X / by - _frustum.Shift.X, p.Y / by - _frustum.Shift.Y);
        return new((x / _frustum.Wide + 1) / 2 * _width, (1 - y / _frustum.High) / 2 * _height, _frustum.IsParallel ? p.Z : 1 / by);
    }

    private bool Each(Vec3 a, Vec3 b, Vec3 c, Func<int, double, bool> asks)
    {
        var area = (b.X - a.X) * (c.Y - a.Y) - (c.X - a.X) * (b.Y - a.Y);
        if (!(Math.Abs(area) > 1e-12))
        {
            return false;
        }

        var (top, foot) = (Rows(Math.Min(a.Y, Math.Min(b.Y, c.Y)), Math.Ceiling), Rows(Math.Max(a.Y, Math.Max(b.Y, c.Y)), Math.Floor));
        for (var row = Math.Max(0, top); row <= Math.Min(_height - 1, foot); row++)
        {
            var (left, right) = Across(a, b, c, row + 0.5);
            for (var column = Math.Max(0, (int)Math.Ceiling(left - 0.5)); column <= Math.Min(_width - 1, (int)Math.Floor(right - 0.5)); column++)
            {
                var (x, y) = (column + 0.5, row + 0.5);
                var u = ((x - a.X) * (c.Y - a.Y) - (c.X - a.X) * (y - a.Y)) / area;
                var v = ((b.X - a.X) * (y - a.Y) - (x - a.X) * (b.Y - a.Y)) / area;
                var near = a.Z + u * (b.Z - a.Z) + v * (c.Z - a.Z);
                if (asks(row * _width + column, near))
                {
                    return true;
                }
            }
        }

        return false;
    }

    private static int Rows(double y, Func<double, double> round) => (int)Math.Clamp(round(y - 0.5), int.MinValue / 2.0, int.MaxValue / 2.0);

    /// <summary>Where a line across meets a triangle.</summary>
    private static (double Left, double Right) Across(Vec3 a, Vec3 b, Vec3 c, double y)
    {
        var (left, right) = (double.PositiveInfinity, double.NegativeInfinity);
        void Edge(Vec3 from, Vec3 to)
        {
            if (from.Y <= y != to.Y <= y)
            {
                var x = from.X + (to.X - from.X) * ((y - from.Y) / (to.Y - from.Y));
                (left, right) = (Math.Min(left, x), Math.Max(right, x));
            }
        }

        Edge(a, b);
        Edge(b, c);
        Edge(c, a);
        return (left, right);
    }
}
