using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>
/// Finds triangles of a geometry fast, in whatever world they are seen: the nearest point of them, and where a line meets them. A tree
/// of bounds over the triangles, halved by their middles along the longest way; what is stored of it is only their order.
/// Triangles have the numbers in which the geometry lists them; where two are as near, the lower number counts.
/// <code>
/// geometry.Triangles.Nearest(world, pivot, out var point, out var number);
/// var outwards = geometry.Triangles.Shown(number, world, point);
/// </code>
/// </summary>
public sealed unsafe class TriangleIndex
{
    /// <summary>Of more triangles none is made: each takes a hundred bytes.</summary>
    public const int Most = 1_000_000;

    private const int PerLeaf = 4;

    /// <summary>Distances that differ by less, relatively, are the same.</summary>
    private const double Same = 1e-12;

    private readonly double[] _corners;
    private readonly int[] _order;
    private readonly int _leaves;

    /// <summary>Middle and half extent of the bounds of each branch of the tree, six numbers each; the children of i are 2i and 2i + 1.</summary>
    private readonly double[] _bounds;

    /// <summary>What the triangles are of, for the normals by which they are shown.</summary>
    private readonly Geometry _of;

    private TriangleIndex(Geometry of, double[] corners, int[] order)
    {
        (_of, _corners, _order) = (of, corners, order);
        _leaves = LeavesOf(order.Length);
        _bounds = new double[12 * _leaves];
        Bound();
    }

    public bool IsEmpty => _order.Length == 0;

    /// <summary>The numbers of the triangles as the tree holds them: all that has to be stored.</summary>
    public ReadOnlySpan<int> Order => _order;

    /// <summary>Builds the tree.</summary>
    public static TriangleIndex Of(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        var corners = CornersOf(geometry);
        var order = SoundOnes(corners);
        var middles = new double[3 * corners.Length / 9];
        for (var t = 0; t < corners.Length / 9; t++)
        {
            for (var axis = 0; axis < 3; axis++)
            {
                middles[3 * t + axis] = corners[9 * t + axis] + corners[9 * t + 3 + axis] + corners[9 * t + 6 + axis];
            }
        }

        var leaves = LeavesOf(order.Length);
        Halve(order, middles, new double[order.Length], 0, leaves, leaves);
        return new(geometry, corners, order);
    }

    /// <summary>The tree as it was stored; null: it does not belong to this geometry.</summary>
    public static TriangleIndex? Stored(Geometry geometry, int[] order)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        ArgumentNullException.ThrowIfNull(order);
        var corners = CornersOf(geometry);
        var seen = new bool[corners.Length / 9];
        foreach (var t in order)
        {
            if (t < 0 || t >= seen.Length || seen[t])
            {
                return null;
            }

            seen[t] = true;
        }

        // All but those without any area.
        for (var t = 0; t < seen.Length; t++)
        {
            if (!seen[t] && IsSound(corners, 9 * t))
            {
                return null;
            }
        }

        return new(geometry, corners, order);
    }

    /// <summary>The point of the triangles that is nearest in the world.</summary>
    /// <param name="world">The frame that they are seen in.</param>
    /// <param name="number">Of the triangle that it lies on.</param>
    /// <returns>False: there are none.</returns>
    public bool Nearest(Affine world, Vec3 from, out Vec3 point, out int number)
    {
        (point, number) = (default, -1);
        var best = double.PositiveInfinity;
        int* walk = stackalloc int[128];
        double* far = stackalloc double[128], w = stackalloc double[12];
        var (m, o) = world;
        (w[0], w[1], w[2], w[3], w[4], w[5], w[6], w[7], w[8]) = (m.X.X, m.X.Y, m.X.Z, m.Y.X, m.Y.Y, m.Y.Z, m.Z.X, m.Z.Y, m.Z.Z);
        (w[9], w[10], w[11]) = o - from;
        var count = 0;
        if (!IsEmpty)
        {
            (walk[0], far[0], count) = (1, 0, 1);
        }

        fixed (double* bounds = _bounds, corners = _corners)
        {
            while (count > 0)
            {
                count--;
                var at = walk[count];
                if (far[count] > best * (1 + Same))
                {
                    continue;
                }

                if (at >= _leaves)
                {
                    var (low, high) = Range(at - _leaves);
                    for (var i = low; i < high; i++)
                    {
                        // About the point as the origin.
                        var near = Nearest(corners + 9 * _order[i], w);
                        var distance = near.LengthSquared;
                        if (distance < best * (1 - Same) || (distance <= best * (1 + Same) && (number < 0 || _order[i] < number)))
                        {
                            (best, number, point) = (Math.Min(distance, best), _order[i], near);
                        }
                    }

                    continue;
                }

                // The nearer one is looked into first.
                var (left, right) = (Distance(bounds + 12 * at, w), Distance(bounds + 12 * at + 6, w));
                var leftLast = left <= right;
                walk[count] = leftLast ? 2 * at + 1 : 2 * at;
                far[count] = leftLast ? right : left;
                count++;
                walk[count] = leftLast ? 2 * at : 2 * at + 1;
                far[count] = leftLast ? left : right;
                count++;
            }
        }

        point = number < 0 ? default : point + from;
        return number >= 0;
    }

    /// <summary>Where a line through a point meets the triangles, the hit nearest to the point on either side.</summary>
    /// <param name="along">A direction in the world.</param>
    /// <returns>False: it meets none.</returns>
    public bool Meet(Affine world, Vec3 from, Vec3 along, out Vec3 point, out int number)
    {
        (point, number) = (default, -1);
        if (IsEmpty || !(Triangular.Condition(world.Linear) < 1e12))
        {
            return false;
        }

        var into = world.Inverse();
        var (start, way) = (into.Point(from), into.Linear * along);
        var best = double.PositiveInfinity;
        Span<int> walk = stackalloc int[128];
        (walk[0], var count) = (1, 1);
        while (count > 0)
        {
            var at = walk[--count];
            if (!(Entry(at, start, way) <= Math.Abs(best) * (1 + Same)))
            {
                continue;
            }

            if (at < _leaves)
            {
                var leftFirst = Entry(2 * at, start, way) <= Entry(2 * at + 1, start, way);
                walk[count++] = leftFirst ? 2 * at + 1 : 2 * at;
                walk[count++] = leftFirst ? 2 * at : 2 * at + 1;
                continue;
            }

            var (low, high) = Range(at - _leaves);
            for (var i = low; i < high; i++)
            {
                if (Hit(_order[i], start, way) is { } hit
                    && (Math.Abs(hit) < Math.Abs(best) * (1 - Same) || (Math.Abs(hit) <= Math.Abs(best) * (1 + Same) && (number < 0 || _order[i] < number))))
                {
                    (best, number) = (hit, _order[i]);
                }
            }
        }

        if (number < 0)
        {
            return false;
        }

        point = from + along * best;
        return true;
    }

    /// <summary>
    /// The direction outwards by which a place on a triangle is shown: the normals of its corners, shared by how near they are; of what has none that of the triangle.
    /// </summary>
    /// <param name="point">In the world.</param>
    public Vec3 Shown(int number, Affine world, Vec3 point)
    {
        var first = 0;
        foreach (var part in _of.Parts)
        {
            if (part.Mode != PartMode.Triangles)
            {
                continue;
            }

            if (number >= first + part.Indices.Length / 3)
            {
                first += part.Indices.Length / 3;
                continue;
            }

            return part.Normals is { } normals && Shared(normals, part.Indices, 3 * (number - first), number, world, point) is { } shown ? shown : Normal(number, world);
        }

        return Normal(number, world);
    }

    /// <returns>Null: they say nothing.</returns>
    private Vec3? Shared(float[] normals, int[] indices, int at, int number, Affine world, Vec3 point)
    {
        var (a, b, c) = Corners(number, world);
        var whole = (b - a).Cross(c - a);
        var all = whole.LengthSquared;
        if (!(all > 0))
        {
            return null;
        }

        Vec3 At(int corner) => new(normals[3 * indices[at + corner]], normals[3 * indices[at + corner] + 1], normals[3 * indices[at + corner] + 2]);
        var (u, v) = ((c - b).Cross(point - b).Dot(whole) / all, (a - c).Cross(point - c).Dot(whole) / all);
        var own = At(0) * u + At(1) * v + At(2) * (1 - u - v);

        // Normals go by the inverse transpose, which keeps outwards outwards where the world is mirrored.
        var shown = world.Linear.Inverse().Transposed() * own;
        return shown.Length is > 0 and var length && double.IsFinite(length) ? shown * (1 / length) : null;
    }

    /// <summary>The corners of the triangles that may lie within bounds along X and Y of some axes, whatever their Z.</summary>
    /// <param name="toAxes">Leads from the frame of the geometry to the axes.</param>
    public IEnumerable<(Vec3 A, Vec3 B, Vec3 C)> Across(Affine toAxes, Bounds bounds)
    {
        var walk = new Stack<int>();
        if (!IsEmpty)
        {
            walk.Push(1);
        }

        while (walk.TryPop(out var at))
        {
            if (!Meets(at, toAxes, bounds))
            {
                continue;
            }

            if (at < _leaves)
            {
                walk.Push(2 * at);
                walk.Push(2 * at + 1);
                continue;
            }

            var (low, high) = Range(at - _leaves);
            for (var i = low; i < high; i++)
            {
                yield return Corners(_order[i], toAxes);
            }
        }
    }

    private bool Meets(int at, Affine toAxes, Bounds bounds)
    {
        var (m, o) = toAxes;
        var b = 6 * at;
        var (cx, cy, cz) = (_bounds[b], _bounds[b + 1], _bounds[b + 2]);
        var (hx, hy, hz) = (_bounds[b + 3], _bounds[b + 4], _bounds[b + 5]);
        var (x, y) = (m.X.X * cx + m.Y.X * cy + m.Z.X * cz + o.X, m.X.Y * cx + m.Y.Y * cy + m.Z.Y * cz + o.Y);
        var (dx, dy) = (Math.Abs(m.X.X) * hx + Math.Abs(m.Y.X) * hy + Math.Abs(m.Z.X) * hz, Math.Abs(m.X.Y) * hx + Math.Abs(m.Y.Y) * hy + Math.Abs(m.Z.Y) * hz);
        return hx >= 0 && x + dx >= bounds.Low.X && x - dx <= bounds.High.X && y + dy >= bounds.Low.Y && y - dy <= bounds.High.Y;
    }

    private static int LeavesOf(int triangles)
    {
        var leaves = 1;
        while (leaves * PerLeaf < triangles)
        {
            leaves *= 2;
        }

        return leaves;
    }

    private static double[] CornersOf(Geometry geometry)
    {
        var corners = new double[9 * geometry.TriangleCount];
        var at = 0;
        foreach (var part in geometry.Parts)
        {
            if (part.Mode != PartMode.Triangles)
            {
                continue;
            }

            fixed (double* positions = part.Positions, into = corners)
            fixed (int* indices = part.Indices)
            {
                for (var i = 0; i < part.Indices.Length; i++)
                {
                    var from = positions + 3 * indices[i];
                    into[at] = from[0];
                    into[at + 1] = from[1];
                    into[at + 2] = from[2];
                    at += 3;
                }
            }
        }

        return corners;
    }

    /// <summary>Triangles without any area have no side that anything could stay on.</summary>
    private static int[] SoundOnes(double[] corners)
    {
        var sound = new List<int>(corners.Length / 9);
        for (var at = 0; at < corners.Length; at += 9)
        {
            if (IsSound(corners, at))
            {
                sound.Add(at / 9);
            }
        }

        return [.. sound];
    }

    private static bool IsSound(double[] corners, int at)
    {
        var (ax, ay, az) = (corners[at + 3] - corners[at], corners[at + 4] - corners[at + 1], corners[at + 5] - corners[at + 2]);
        var (bx, by, bz) = (corners[at + 6] - corners[at], corners[at + 7] - corners[at + 1], corners[at + 8] - corners[at + 2]);
        var (nx, ny, nz) = (ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx);
        return nx * nx + ny * ny + nz * nz > 0;
    }

    private static void Halve(int[] order, double[] middles, double[] keys, int from, int leaves, int all)
    {
        var (low, high) = ((int)((long)from * order.Length / all), (int)((long)(from + leaves) * order.Length / all));
        if (leaves < 2 || high - low < 2)
        {
            return;
        }

        var axis = 0;
        var most = -1.0;
        for (var i = 0; i < 3; i++)
        {
            var (least, greatest) = (double.PositiveInfinity, double.NegativeInfinity);
            for (var t = low; t < high; t++)
            {
                var m = middles[3 * order[t] + i];
                (least, greatest) = (Math.Min(least, m), Math.Max(greatest, m));
            }

            (axis, most) = greatest - least > most ? (i, greatest - least) : (axis, most);
        }

        for (var t = low; t < high; t++)
        {
            keys[t] = middles[3 * order[t] + axis];
        }

        Array.Sort(keys, order, low, high - low);
        Halve(order, middles, keys, from, leaves / 2, all);
        Halve(order, middles, keys, from + leaves / 2, leaves / 2, all);
    }

    private (int Low, int High) Range(int leaf) =>
        ((int)((long)leaf * _order.Length / _leaves), (int)((long)(leaf + 1) * _order.Length / _leaves));

    private void Bound()
    {
        fixed (double* bounds = _bounds, corners = _corners)
        fixed (int* order = _order)
        {
            for (var at = 2 * _leaves - 1; at >= _leaves; at--)
            {
                var (low, high) = Range(at - _leaves);
                double lx = double.PositiveInfinity, ly = lx, lz = lx, hx = double.NegativeInfinity, hy = hx, hz = hx;
                for (var i = low; i < high; i++)
                {
                    var c = corners + 9 * order[i];
                    for (var k = 0; k < 9; k += 3)
                    {
                        var (x, y, z) = (c[k], c[k + 1], c[k + 2]);
                        lx = x < lx ? x : lx;
                        ly = y < ly ? y : ly;
                        lz = z < lz ? z : lz;
                        hx = x > hx ? x : hx;
                        hy = y > hy ? y : hy;
                        hz = z > hz ? z : hz;
                    }
                }

                Put(bounds + 6 * at, lx, ly, lz, hx, hy, hz);
            }

            // From the leaves up: what holds two branches. Empty ones have a negative extent.
            for (var at = _leaves - 1; at > 0; at--)
            {
                double* a = bounds + 12 * at, b = a + 6;
                if (b[3] < 0 || a[3] < 0)
                {
                    var from = a[3] < 0 ? b : a;
                    for (var k = 0; k < 6; k++)
                    {
                        bounds[6 * at + k] = from[k];
                    }

                    continue;
                }

                Put(
                    bounds + 6 * at,
                    Math.Min(a[0] - a[3], b[0] - b[3]),
                    Math.Min(a[1] - a[4], b[1] - b[4]),
                    Math.Min(a[2] - a[5], b[2] - b[5]),
                    Math.Max(a[0] + a[3], b[0] + b[3]),
                    Math.Max(a[1] + a[4], b[1] + b[4]),
                    Math.Max(a[2] + a[5], b[2] + b[5]));
            }
        }
    }

    /// <summary>As middle and half extent, a little larger than rounding leaves them.</summary>
    private static void Put(double* at, double lx, double ly, double lz, double hx, double hy, double hz)
    {
        if (!(lx <= hx))
        {
            at[3] = -1;
            return;
        }

        at[0] = lx / 2 + hx / 2;
        at[1] = ly / 2 + hy / 2;
        at[2] = lz / 2 + hz / 2;
        at[3] = (hx / 2 - lx / 2) * (1 + Same) + Math.Abs(at[0]) * Same;
        at[4] = (hy / 2 - ly / 2) * (1 + Same) + Math.Abs(at[1]) * Same;
        at[5] = (hz / 2 - lz / 2) * (1 + Same) + Math.Abs(at[2]) * Same;
    }

    /// <summary>No point of a branch is nearer than this in the world, squared: that of the bounds of its turned bounds.</summary>
    /// <param name="w">Nine numbers of the linear part, column by column, and the offset less the point.</param>
    private static double Distance(double* b, double* w)
    {
        var (hx, hy, hz) = (b[3], b[4], b[5]);
        if (hx < 0)
        {
            return double.PositiveInfinity;
        }

        var (cx, cy, cz) = (b[0], b[1], b[2]);
        var x = Math.Abs(w[0] * cx + w[3] * cy + w[6] * cz + w[9]) - (Math.Abs(w[0]) * hx + Math.Abs(w[3]) * hy + Math.Abs(w[6]) * hz);
        var y = Math.Abs(w[1] * cx + w[4] * cy + w[7] * cz + w[10]) - (Math.Abs(w[1]) * hx + Math.Abs(w[4]) * hy + Math.Abs(w[7]) * hz);
        var z = Math.Abs(w[2] * cx + w[5] * cy + w[8] * cz + w[11]) - (Math.Abs(w[2]) * hx + Math.Abs(w[5]) * hy + Math.Abs(w[8]) * hz);
        x = x > 0 ? x : 0;
        y = y > 0 ? y : 0;
        z = z > 0 ? z : 0;
        return x * x + y * y + z * z;
    }

    /// <summary>How far along the line, on either side, the bounds of a branch begin at the least; infinite: it misses them.</summary>
    private double Entry(int at, Vec3 start, Vec3 way)
    {
        var (near, far) = (double.NegativeInfinity, double.PositiveInfinity);
        for (var axis = 0; axis < 3; axis++)
        {
            var half = _bounds[6 * at + 3 + axis];
            if (half < 0)
            {
                return double.PositiveInfinity;
            }

            var off = _bounds[6 * at + axis] - start[axis];
            half += 1e-12 * Math.Abs(off);
            if (way[axis] == 0)
            {
                if (Math.Abs(off) > half)
                {
                    return double.PositiveInfinity;
                }

                continue;
            }

            var (a, b) = ((off - half) / way[axis], (off + half) / way[axis]);
            (near, far) = (Math.Max(near, Math.Min(a, b)), Math.Min(far, Math.Max(a, b)));
        }

        return near > far ? double.PositiveInfinity : near > 0 ? near : far < 0 ? -far : 0;
    }

    /// <summary>How far along the line a triangle is met (Möller and Trumbore 1997); null: it is not.</summary>
    private double? Hit(int number, Vec3 start, Vec3 way)
    {
        var (a, b, c) = Corners(number, Affine.Identity);
        var (ab, ac) = (b - a, c - a);
        var p = way.Cross(ac);
        var det = ab.Dot(p);
        if (det == 0)
        {
            return null;
        }

        var to = start - a;
        var u = to.Dot(p) / det;
        var q = to.Cross(ab);
        var v = way.Dot(q) / det;
        var hit = ac.Dot(q) / det;

        // What lies on an edge belongs to both, so that a line never slips through between two.
        return u >= -1e-9 && v >= -1e-9 && u + v <= 1 + 1e-9 && double.IsFinite(hit) ? hit : null;
    }

    private (Vec3 A, Vec3 B, Vec3 C) Corners(int number, Affine world)
    {
        var at = 9 * number;
        var (m, o) = world;
        Vec3 At(int i)
        {
            var (x, y, z) = (_corners[i], _corners[i + 1], _corners[i + 2]);
            return new(
                m.X.X * x + m.Y.X * y + m.Z.X * z + o.X,
                m.X.Y * x + m.Y.Y * y + m.Z.Y * z + o.Y,
                m.X.Z * x + m.Y.Z * y + m.Z.Z * z + o.Z);
        }

        return (At(at), At(at + 3), At(at + 6));
    }

    private Vec3 Normal(int number, Affine world)
    {
        var (a, b, c) = Corners(number, world);
        var normal = (b - a).Cross(c - a).Unit();
        return world.Linear.Determinant < 0 ? -normal : normal;
    }

    /// <summary>The point of a triangle nearest to the origin (Ericson, Real-Time Collision Detection, 5.1.5).</summary>
    /// <param name="c">Nine numbers: its corners, before <paramref name="w"/> leads them on.</param>
    private static Vec3 Nearest(double* c, double* w)
    {
        var (ax, ay, az) = (w[0] * c[0] + w[3] * c[1] + w[6] * c[2] + w[9], w[1] * c[0] + w[4] * c[1] + w[7] * c[2] + w[10], w[2] * c[0] + w[5] * c[1] + w[8] * c[2] + w[11]);
        var (bx, by, bz) = (w[0] * c[3] + w[3] * c[4] + w[6] * c[5] + w[9], w[1] * c[3] + w[4] * c[4] + w[7] * c[5] + w[10], w[2] * c[3] + w[5] * c[4] + w[8] * c[5] + w[11]);
        var (cx, cy, cz) = (w[0] * c[6] + w[3] * c[7] + w[6] * c[8] + w[9], w[1] * c[6] + w[4] * c[7] + w[7] * c[8] + w[10], w[2] * c[6] + w[5] * c[7] + w[8] * c[8] + w[11]);
        var (ux, uy, uz) = (bx - ax, by - ay, bz - az);
        var (vx, vy, vz) = (cx - ax, cy - ay, cz - az);
        var (d1, d2) = (-(ux * ax + uy * ay + uz * az), -(vx * ax + vy * ay + vz * az));
        if (d1 <= 0 && d2 <= 0)
        {
            return new(ax, ay, az);
        }

        var (d3, d4) = (-(ux * bx + uy * by + uz * bz), -(vx * bx + vy * by + vz * bz));
        if (d3 >= 0 && d4 <= d3)
        {
            return new(bx, by, bz);
        }

        var onC = d1 * d4 - d3 * d2;
        double k;
        if (onC <= 0 && d1 >= 0 && d3 <= 0)
        {
            k = d1 / (d1 - d3);
            return new(ax + ux * k, ay + uy * k, az + uz * k);
        }

        var (d5, d6) = (-(ux * cx + uy * cy + uz * cz), -(vx * cx + vy * cy + vz * cz));
        if (d6 >= 0 && d5 <= d6)
        {
            return new(cx, cy, cz);
        }

        var onB = d5 * d2 - d1 * d6;
        if (onB <= 0 && d2 >= 0 && d6 <= 0)
        {
            k = d2 / (d2 - d6);
            return new(ax + vx * k, ay + vy * k, az + vz * k);
        }

        var onA = d3 * d6 - d5 * d4;
        if (onA <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0)
        {
            k = (d4 - d3) / (d4 - d3 + (d5 - d6));
            return new(bx + (cx - bx) * k, by + (cy - by) * k, bz + (cz - bz) * k);
        }

        k = 1 / (onA + onB + onC);
        var (v, t) = (onB * k, onC * k);
        return new(ax + ux * v + vx * t, ay + uy * v + vy * t, az + uz * v + vz * t);
    }
}
