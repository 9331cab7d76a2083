using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Drags;

/// <summary>
/// Finds what a pointer can snap to. The page's index only proposes triangles; which points they offer, how far those are from
/// the pointer in pixels, and which one wins is decided here: by kind, within a kind by pixels, then by depth.
/// </summary>
/// <param name="focal">Pixels that a length of 1 takes at a distance of 1, or pixels a metre in parallel views.</param>
public sealed class SnapTargets(View view, Ray ray, double focal, double radius)
{
    /// <summary>Two faces closer than this to one plane have no edge between them.</summary>
    private const double Flat = 0.99999;

    private readonly Mat3 _toView = view.World.Linear.RotationPart().Transposed();
    private readonly List<SnapTarget> _found = [];

    public void Add(SnapKind kind, Vec3 point, string? node, Vec3? normal = null)
    {
        if (Pixels(point) is { } at && at.Pixels <= radius)
        {
            _found.Add(new(kind, point, normal, node, at.Pixels, at.Depth));
        }
    }

    /// <summary>The vertices, edges, middles of edges and faces of triangles near the pointer.</summary>
    public void AddTriangles(string node, Affine world, IReadOnlyList<double> corners, IReadOnlySet<SnapKind> kinds)
    {
        ArgumentNullException.ThrowIfNull(corners);
        ArgumentNullException.ThrowIfNull(kinds);
        var edges = new Dictionary<(Vec3 A, Vec3 B), (Vec3? Normal, bool Flat)>();
        var vertices = new Dictionary<Vec3, Vec3?>();
        for (var i = 0; i + 8 < corners.Count; i += 9)
        {
            Vec3 At(int k) => world.Point(new(corners[i + 3 * k], corners[i + 3 * k + 1], corners[i + 3 * k + 2]));
            var (a, b, c) = (At(0), At(1), At(2));
            var upright = (b - a).Cross(c - a).Unit() * (world.Linear.Determinant < 0 ? -1 : 1);
            AddFace(node, a, b, c, upright, kinds);

            // A triangle without area still has corners, but no upright.
            Vec3? normal = upright == Vec3.Zero ? null : upright;
            foreach (var vertex in (ReadOnlySpan<Vec3>)[a, b, c])
            {
                vertices.TryAdd(vertex, normal);
            }

            foreach (var (p, q) in (ReadOnlySpan<(Vec3, Vec3)>)[(a, b), (b, c), (c, a)])
            {
                var key = Ordered(p, q);
                edges[key] = edges.TryGetValue(key, out var other)
                    ? (other.Normal ?? normal, other.Normal is { } o && normal is { } n && Math.Abs(o.Dot(n)) > Flat)
                    : (normal, false);
            }
        }

        if (kinds.Contains(SnapKind.Vertex))
        {
            foreach (var (vertex, normal) in vertices)
            {
                Add(SnapKind.Vertex, vertex, node, normal);
            }
        }

        foreach (var ((a, b), (normal, flat)) in edges)
        {
            if (!flat)
            {
                AddEdge(node, a, b, normal, kinds);
            }
        }
    }

    /// <summary>The point of the ground's grid under the pointer.</summary>
    public void AddGrid(double spacing)
    {
        if (spacing > 0 && Math.Abs(ray.Direction.Y) > 1e-3 && -ray.Origin.Y / ray.Direction.Y is > 0 and var t)
        {
            var p = ray.Origin + ray.Direction * t;
            Add(SnapKind.Grid, new(Math.Round(p.X / spacing) * spacing, 0, Math.Round(p.Z / spacing) * spacing), null, Vec3.UnitY);
        }
    }

    /// <summary>All in reach, the best first, each point once.</summary>
    public IReadOnlyList<SnapTarget> Sorted()
    {
        var sorted = _found.OrderBy(t => t.Kind).ThenBy(t => Math.Round(t.Pixels, 3)).ThenBy(t => t.Depth);
        var kept = new List<SnapTarget>();
        foreach (var target in sorted)
        {
            if (!kept.Exists(k => (k.Point - target.Point).Length < 1e-9))
            {
                kept.Add(target);
            }
        }

        return kept;
    }

    private static (Vec3 A, Vec3 B) Ordered(Vec3 a, Vec3 b) =>
        a.X < b.X || (a.X == b.X && (a.Y < b.Y || (a.Y == b.Y && a.Z <= b.Z))) ? (a, b) : (b, a);

    private void AddFace(string node, Vec3 a, Vec3 b, Vec3 c, Vec3 normal, IReadOnlySet<SnapKind> kinds)
    {
        if (!kinds.Contains(SnapKind.Face))
        {
            return;
        }

        var toward = ray.Direction.Dot(normal);
        if (Math.Abs(toward) < 1e-9 || (a - ray.Origin).Dot(normal) / toward is not (> 0 and var t))
        {
            return;
        }

        var p = ray.Origin + ray.Direction * t;
        bool Left(Vec3 from, Vec3 to) => (to - from).Cross(p - from).Dot((b - a).Cross(c - a)) >= 0;
        if (Left(a, b) && Left(b, c) && Left(c, a))
        {
            Add(SnapKind.Face, p, node, normal);
        }
    }

    private void AddEdge(string node, Vec3 a, Vec3 b, Vec3? normal, IReadOnlySet<SnapKind> kinds)
    {
        if (kinds.Contains(SnapKind.EdgeMiddle))
        {
            Add(SnapKind.EdgeMiddle, (a + b) * 0.5, node, normal);
        }

        if (!kinds.Contains(SnapKind.Edge))
        {
            return;
        }

        // The point of the edge that is nearest to the ray.
        var (u, v, w) = (b - a, ray.Direction, a - ray.Origin);
        var (uu, uv, vv) = (u.Dot(u), u.Dot(v), v.Dot(v));
        var d = uu * vv - uv * uv;
        if (d > 1e-12 * uu * vv)
        {
            var t = Math.Clamp((uv * v.Dot(w) - vv * u.Dot(w)) / d, 0, 1);
            Add(SnapKind.Edge, a + u * t, node, normal);
        }
    }

    /// <summary>How far a point is from the pointer on the screen, and from the eye; null behind it.</summary>
    private (double Pixels, double Depth)? Pixels(Vec3 point)
    {
        var p = _toView * (point - view.World.Offset);
        var o = _toView * (ray.Origin - view.World.Offset);
        if (view.Parallel)
        {
            return (Math.Sqrt((p.X - o.X) * (p.X - o.X) + (p.Y - o.Y) * (p.Y - o.Y)) * focal, -p.Z);
        }

        var d = _toView * ray.Direction;
        if (p.Z > -1e-9 || d.Z > -1e-9)
        {
            return null;
        }

        var (x, y) = (p.X / -p.Z - d.X / -d.Z, p.Y / -p.Z - d.Y / -d.Z);
        return (Math.Sqrt(x * x + y * y) * focal, -p.Z);
    }
}
