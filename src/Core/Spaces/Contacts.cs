using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// How far something can fall along a direction until it touches what stands still, exact against triangles. Seen along the
/// direction, two triangles touch within the polygon they share; there the gap between them is linear, so it is least at one of
/// the polygon's corners. Surfaces that are seen on edge have no area and are passed by; their faces' neighbours count.
/// </summary>
public sealed class Contacts
{
    /// <summary>Overlaps smaller than this share of the mover's size do not hold it; touching counts up to the same depth.</summary>
    private const double Least = 1e-9;

    /// <summary>A fall flatter than this (about a twentieth of a degree) does not reach the ground in any distance worth the name.</summary>
    private const double Flat = 1e-3;

    private readonly Mat3 _toFall;
    private readonly double _down;
    private readonly Action<long>? _spend;
    private readonly List<Triangle> _falling = [];
    private readonly List<Vec3> _points = [];
    private readonly List<(Geometry Geometry, Affine World)> _still = [];
    private Bounds _bounds = Bounds.Empty;
    private double _lowest = double.PositiveInfinity;

    /// <param name="along">The direction of the fall, in the world; length 1.</param>
    /// <param name="spend">Told how much is looked at.</param>
    public Contacts(Vec3 along, Action<long>? spend = null)
    {
        _toFall = FrameOf(along);
        _spend = spend;
        _down = -along.Y;
    }

    /// <summary>What falls, in the frame of the fall.</summary>
    public Bounds Falling => _bounds;

    /// <summary>Leads from the world into the frame of the fall, where Z is how far something has fallen.</summary>
    internal static Mat3 FrameOf(Vec3 along)
    {
        var side = Math.Abs(along.X) < 0.9 ? Vec3.UnitX : Vec3.UnitZ;
        var x = (side - along * along.Dot(side)).Unit();
        return new Mat3(x, along.Cross(x), along).Transposed();
    }

    public void AddFalling(Geometry geometry, Affine world)
    {
        foreach (var triangle in Triangles(geometry, world))
        {
            _falling.Add(triangle);
            _bounds = _bounds.With(triangle.A).With(triangle.B).With(triangle.C);
        }

        _lowest = Math.Min(_lowest, geometry.Extent(world).Low.Y);
    }

    public void AddFallingPoint(Vec3 point)
    {
        var p = _toFall * point;
        _points.Add(p);
        _lowest = Math.Min(_lowest, point.Y);
        _bounds = _bounds.With(p);
    }

    public void AddStill(Geometry geometry, Affine world) => _still.Add((geometry, world));

    /// <summary>How far it falls, at most to the ground at height 0; null where nothing would stop it.</summary>
    public double? Distance()
    {
        if (_bounds.IsEmpty)
        {
            return null;
        }

        var size = Math.Max(1e-6, _bounds.Size.Length);
        var grid = new Grid(_bounds);
        for (var i = 0; i < _falling.Count; i++)
        {
            grid.Add(i, _falling[i]);
        }

        double facing = double.PositiveInfinity, any = double.PositiveInfinity;
        foreach (var (geometry, world) in _still)
        {
            if (!MayMeet(geometry, world))
            {
                continue;
            }

            _spend?.Invoke(geometry.IsIndexed ? 1 : geometry.TriangleCount / 8);
            foreach (var still in geometry.IsIndexed ? Below(geometry, world) : Triangles(geometry, world))
            {
                foreach (var p in _points)
                {
                    any = Math.Min(any, still.GapBelow(p, size * Least) ?? double.PositiveInfinity);
                }

                foreach (var i in grid.Near(still))
                {
                    _spend?.Invoke(1);
                    var falling = _falling[i];
                    var towards = falling.Up > 0 && still.Up < 0;
                    if (falling.LeastGap(still) >= (towards ? facing : any) || falling.Gap(still, size) is not { } gap || gap < -size * Least)
                    {
                        continue;
                    }

                    // Where outsides are told apart, only an underside comes to rest on an upper side: what already sticks in
                    // something does not fall through to its inner walls.
                    any = Math.Min(any, gap);
                    facing = towards ? Math.Min(facing, gap) : facing;
                }
            }
        }

        var least = double.IsFinite(facing) ? facing : any;
        var toGround = _lowest / _down;
        if (_down > Flat && toGround >= -size * Least)
        {
            least = Math.Min(least, toGround);
        }

        return double.IsFinite(least) ? Math.Max(0, least) : null;
    }

    private bool MayMeet(Geometry geometry, Affine world)
    {
        // The sphere around the own bounds, against the shaft of the fall.
        var own = geometry.OwnBounds;
        if (own.IsEmpty)
        {
            return false;
        }

        var centre = _toFall * world.Point(own.Middle);
        var radius = own.Size.Length * 0.5 * world.Linear.Norm;
        return centre.X + radius >= _bounds.Low.X && centre.X - radius <= _bounds.High.X
            && centre.Y + radius >= _bounds.Low.Y && centre.Y - radius <= _bounds.High.Y
            && centre.Z + radius >= _bounds.Low.Z;
    }

    /// <summary>Those that lie in the shaft of the fall, where they can be found fast.</summary>
    private IEnumerable<Triangle> Below(Geometry geometry, Affine world)
    {
        var mirrored = world.Linear.Determinant < 0;
        foreach (var (a, b, c) in geometry.Triangles.Across(new(_toFall * world.Linear, _toFall * world.Offset), _bounds))
        {
            _spend?.Invoke(1);
            var up = (b.X - a.X) * (c.Y - a.Y) - (b.Y - a.Y) * (c.X - a.X);
            if (up != 0)
            {
                yield return new(a, b, c, mirrored ? -up : up);
            }
        }
    }

    private IEnumerable<Triangle> Triangles(Geometry geometry, Affine world)
    {
        var toFall = new Affine(_toFall * world.Linear, _toFall * world.Offset);
        var mirrored = world.Linear.Determinant < 0;
        foreach (var part in geometry.Parts.Where(p => p.Mode == PartMode.Triangles))
        {
            Vec3 At(int i) => toFall.Point(new(part.Positions[3 * i], part.Positions[3 * i + 1], part.Positions[3 * i + 2]));
            for (var i = 0; i + 2 < part.Indices.Length; i += 3)
            {
                var (a, b, c) = (At(part.Indices[i]), At(part.Indices[i + 1]), At(part.Indices[i + 2]));
                var up = (b.X - a.X) * (c.Y - a.Y) - (b.Y - a.Y) * (c.X - a.X);
                if (up != 0)
                {
                    yield return new(a, b, c, mirrored ? -up : up);
                }
            }
        }
    }

    /// <summary>A triangle in the frame of the fall.</summary>
    /// <param name="Up">Twice its area across the fall; positive where its outside looks along the fall.</param>
    private readonly record struct Triangle(Vec3 A, Vec3 B, Vec3 C, double Up)
    {
        public double LowX => Math.Min(A.X, Math.Min(B.X, C.X));

        public double HighX => Math.Max(A.X, Math.Max(B.X, C.X));

        public double LowY => Math.Min(A.Y, Math.Min(B.Y, C.Y));

        public double HighY => Math.Max(A.Y, Math.Max(B.Y, C.Y));

        /// <summary>No gap between the two is smaller than this.</summary>
        public double LeastGap(Triangle below) =>
            Math.Min(below.A.Z, Math.Min(below.B.Z, below.C.Z)) - Math.Max(A.Z, Math.Max(B.Z, C.Z));

        /// <summary>The least way to fall until this touches the other; null where they pass each other.</summary>
        public double? Gap(Triangle below, double size)
        {
            Span<Vec3> polygon = stackalloc Vec3[12];
            Span<Vec3> next = stackalloc Vec3[12];
            (polygon[0], polygon[1], polygon[2]) = (A, B, C);
            var count = 3;
            ReadOnlySpan<Vec3> corners = [below.A, below.B, below.C];
            var turn = Math.Sign((below.B.X - below.A.X) * (below.C.Y - below.A.Y) - (below.B.Y - below.A.Y) * (below.C.X - below.A.X));
            for (var side = 0; side < 3 && count > 0; side++)
            {
                count = Clip(polygon[..count], corners[side], corners[(side + 1) % 3], turn, next);
                next[..count].CopyTo(polygon);
            }

            if (count < 3 || AreaOf(polygon[..count]) < size * size * Least)
            {
                return null;
            }

            var least = double.PositiveInfinity;
            foreach (var p in polygon[..count])
            {
                least = Math.Min(least, below.DepthAt(p.X, p.Y) - DepthAt(p.X, p.Y));
            }

            return least;
        }

        /// <summary>How far a point falls until it meets this triangle.</summary>
        public double? GapBelow(Vec3 p, double tolerance)
        {
            double Side(Vec3 a, Vec3 b) => (b.X - a.X) * (p.Y - a.Y) - (b.Y - a.Y) * (p.X - a.X);
            var (u, v, w) = (Side(A, B), Side(B, C), Side(C, A));
            var inside = (u >= 0 && v >= 0 && w >= 0) || (u <= 0 && v <= 0 && w <= 0);
            var gap = inside ? DepthAt(p.X, p.Y) - p.Z : -1;
            return inside && gap >= -tolerance ? gap : null;
        }

        private double DepthAt(double x, double y)
        {
            var normal = (B - A).Cross(C - A);
            return A.Z - (normal.X * (x - A.X) + normal.Y * (y - A.Y)) / normal.Z;
        }

        /// <summary>Sutherland and Hodgman's clipping of a polygon by one side of a triangle.</summary>
        private static int Clip(ReadOnlySpan<Vec3> polygon, Vec3 from, Vec3 to, int turn, Span<Vec3> into)
        {
            var count = 0;
            for (var i = 0; i < polygon.Length; i++)
            {
                var (p, q) = (polygon[i], polygon[(i + 1) % polygon.Length]);
                var here = turn * ((to.X - from.X) * (p.Y - from.Y) - (to.Y - from.Y) * (p.X - from.X));
                var there = turn * ((to.X - from.X) * (q.Y - from.Y) - (to.Y - from.Y) * (q.X - from.X));
                if (here >= 0)
                {
                    into[count++] = p;
                }

                if (here >= 0 != there >= 0)
                {
                    into[count++] = p + (q - p) * (here / (here - there));
                }
            }

            return count;
        }

        private static double AreaOf(ReadOnlySpan<Vec3> polygon)
        {
            var sum = 0.0;
            for (var i = 0; i < polygon.Length; i++)
            {
                var (p, q) = (polygon[i], polygon[(i + 1) % polygon.Length]);
                sum += p.X * q.Y - q.X * p.Y;
            }

            return Math.Abs(sum) / 2;
        }
    }

    /// <summary>The falling triangles by squares across the fall, so that each still one meets only those above it.</summary>
    private sealed class Grid(Bounds bounds)
    {
        private const int Cells = 48;
        private readonly List<int>?[] _cells = new List<int>?[Cells * Cells];
        private readonly HashSet<int> _seen = [];

        public void Add(int index, Triangle triangle)
        {
            foreach (var cell in Over(triangle))
            {
                (_cells[cell] ??= []).Add(index);
            }
        }

        public IEnumerable<int> Near(Triangle triangle)
        {
            if (triangle.HighX < bounds.Low.X || triangle.LowX > bounds.High.X || triangle.HighY < bounds.Low.Y || triangle.LowY > bounds.High.Y)
            {
                yield break;
            }

            _seen.Clear();
            foreach (var cell in Over(triangle))
            {
                foreach (var index in _cells[cell] ?? [])
                {
                    if (_seen.Add(index))
                    {
                        yield return index;
                    }
                }
            }
        }

        private IEnumerable<int> Over(Triangle t)
        {
            var (x0, x1) = (Cell(t.LowX, 0), Cell(t.HighX, 0));
            var (y0, y1) = (Cell(t.LowY, 1), Cell(t.HighY, 1));
            for (var y = y0; y <= y1; y++)
            {
                for (var x = x0; x <= x1; x++)
                {
                    yield return y * Cells + x;
                }
            }
        }

        private int Cell(double at, int axis)
        {
            var room = bounds.High[axis] - bounds.Low[axis];
            return room > 0 ? Math.Clamp((int)((at - bounds.Low[axis]) / room * Cells), 0, Cells - 1) : 0;
        }
    }
}
