using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Seeing;

/// <summary>
/// What falls in the frame of a camera: the objects of the final picture of which some part of some triangle lies within its sides and between its near and far
/// plane. What stands wholly behind others counts or not, as asked.
/// <code>
/// var all = InFrame.Of(scene, evaluator, SeenThrough.Of(lens, world), behindOthers: true);
/// </code>
/// </summary>
public static class InFrame
{
    /// <summary>How many points of the picture are looked at for what stands behind what.</summary>
    private const int Samples = 400_000;

    /// <param name="scene">The scene, or a shot of it.</param>
    /// <param name="evaluator">The world matrices of that.</param>
    /// <param name="behindOthers">Whether what others hide counts as well.</param>
    /// <returns>Ids in no order.</returns>
    public static IReadOnlyList<string> Of(IScene scene, Evaluator evaluator, Sight sight, SeenThrough through, bool behindOthers)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(evaluator);
        ArgumentNullException.ThrowIfNull(sight);
        var frustum = new Frustum(through);
        List<(Node Node, Geometry Geometry, Affine Into)> found = [];
        foreach (var node in scene.Branch(null))
        {
            var bits = sight.Of(node.Id);
            if ((bits & SightBits.Final) == 0 || (bits & SightBits.Controller) != 0 || Extents.DrawnGeometryOf(scene, node) is not { } geometry)
            {
                continue;
            }

            var into = frustum.View * evaluator.World(node.Id);
            if (!frustum.Misses(geometry.OwnBounds, into) && Any(geometry, into, frustum, _ => true))
            {
                found.Add((node, geometry, into));
            }
        }

        return behindOthers ? [.. found.Select(f => f.Node.Id)] : Foremost(scene, found, frustum, through.Aspect);
    }

    /// <summary>
    /// The fewest objects that, switched off, leave nothing in the picture but what is in the frame: tops of branches of which nothing is. Lamps and cameras stay,
    /// and so does what carries them: they do their part from outside.
    /// </summary>
    /// <param name="found">What is in the frame.</param>
    public static IReadOnlyList<string> Beyond(IScene scene, Sight sight, IEnumerable<string> found)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(sight);
        ArgumentNullException.ThrowIfNull(found);
        var (kept, shown, all) = (found.ToHashSet(), new HashSet<string>(), scene.Branch(null).ToList());
        foreach (var node in all)
        {
            var stays = kept.Contains(node.Id) || node.Light is not null || node.Camera is not null;
            var isShown = (sight.Of(node.Id) & SightBits.Final) != 0 && !node.IsController && (node.Shape is not null || node.Geometry is not null);
            foreach (var link in stays || isShown ? scene.Ancestors(node).Prepend(node) : [])
            {
                if (stays)
                {
                    kept.Add(link.Id);
                }

                if (isShown)
                {
                    shown.Add(link.Id);
                }
            }
        }

        return [.. all.Where(n => !kept.Contains(n.Id) && shown.Contains(n.Id) && (n.Parent is null || kept.Contains(n.Parent))).Select(n => n.Id)];
    }

    private static List<string> Foremost(IScene scene, List<(Node Node, Geometry Geometry, Affine Into)> found, Frustum frustum, double aspect)
    {
        var raster = new Raster(frustum, aspect, Samples);
        for (var thing = 0; thing < found.Count; thing++)
        {
            var (node, geometry, into) = found[thing];
            if (IsSolid(scene, node))
            {
                Any(geometry, into, frustum, corners =>
                {
                    raster.Fill(corners, thing);
                    return false;
                });
            }
        }

        // What covers no point of the picture may be small, or let through what is behind it.
        var foremost = raster.Foremost();
        return [.. found.Where((f, thing) => foremost.Contains(thing) || Any(f.Geometry, f.Into, frustum, corners => raster.Shows(corners, !IsSolid(scene, f.Node)))).Select(f => f.Node.Id)];
    }

    /// <summary>Whether what stands behind it is hidden by it.</summary>
    private static bool IsSolid(IScene scene, Node node) => node.Materials.All(m => scene.FindMaterial(m) is not { Surface.AlphaMode: not AlphaMode.Opaque });

    /// <summary>Asks of each piece that lies in the frame, until the answer is yes.</summary>
    private static bool Any(Geometry geometry, Affine into, Frustum frustum, Asked asks)
    {
        Span<Vec3> corners = stackalloc Vec3[Frustum.MostCorners];
        foreach (var part in geometry.Parts.Where(p => p.Mode == PartMode.Triangles))
        {
            var (positions, indices) = (part.Positions, part.Indices);
            for (var i = 0; i + 2 < indices.Length; i += 3)
            {
                for (var corner = 0; corner < 3; corner++)
                {
                    var at = 3 * indices[i + corner];
                    corners[corner] = into.Point(new(positions[at], positions[at + 1], positions[at + 2]));
                }

                var count = frustum.Clip(corners, 3);
                if (count > 0 && asks(corners[..count]))
                {
                    return true;
                }
            }
        }

        return false;
    }

    private delegate bool Asked(ReadOnlySpan<Vec3> corners);
}

/// <summary>What a camera sees between its sides, its near and its far plane, in its own directions: it looks along −Z.</summary>
internal readonly struct Frustum
{
    /// <summary>A triangle cut by six planes has at most nine corners.</summary>
    public const int MostCorners = 9;

    /// <summary>From where on a lens sees that says nothing of it, in metres.</summary>
    private const double Nearest = 1e-6;

    private readonly Vec3[] _normals;
    private readonly double[] _offsets;

    public Frustum(SeenThrough through)
    {
        var lens = through.Lens;
        View = through.View.Inverse();
        IsParallel = lens.Projection == Projection.Parallel;
        High = IsParallel ? lens.Height / 2 : Math.Tan(lens.Fov * (Math.PI / 360));
        Wide = High * through.Aspect;

        // A point is within where normal · p ≤ offset.
        // The picture of a shifted lens lies beside the axis: from −wide + x to wide + x.
        var (x, y) = (2 * High * lens.ShiftX, 2 * High * lens.ShiftY);
        Shift = (x, y);
        var (sloped, inParallel) = (IsParallel ? 0 : 1, IsParallel ? 1 : 0);
        _normals = [new(1, 0, sloped * (Wide + x)), new(-1, 0, sloped * (Wide - x)), new(0, 1, sloped * (High + y)), new(0, -1, sloped * (High - y)), Vec3.UnitZ, -Vec3.UnitZ];
        _offsets = [(Wide + x) * inParallel, (Wide - x) * inParallel, (High + y) * inParallel, (High - y) * inParallel, -(lens.Near ?? Nearest), lens.Far ?? double.PositiveInfinity];
    }

    /// <summary>Leads from the world to how the camera sees it.</summary>
    public Affine View { get; }

    public bool IsParallel { get; }

    /// <summary>Half the height of the picture: in metres, or as a slope.</summary>
    public double High { get; }

    public double Wide { get; }

    /// <summary>How far the middle of the picture lies beside the axis, as <see cref="High"/> is measured.</summary>
    public (double X, double Y) Shift { get; }

    /// <summary>Whether a box lies wholly beyond one of the planes.</summary>
    public bool Misses(Bounds box, Affine into)
    {
        if (box.IsEmpty)
        {
            return true;
        }

        Span<Vec3> corners = stackalloc Vec3[8];
        for (var i = 0; i < 8; i++)
        {
            corners[i] = into.Point(new((i & 1) == 0 ? box.Low.X : box.High.X, (i & 2) == 0 ? box.Low.Y : box.High.Y, (i & 4) == 0 ? box.Low.Z : box.High.Z));
        }

        for (var plane = 0; plane < _normals.Length; plane++)
        {
            var beyond = true;
            foreach (var corner in corners)
            {
                beyond &= _normals[plane].Dot(corner) > _offsets[plane];
            }

            if (beyond)
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Cuts a polygon down to what lies within. Source: Sutherland and Hodgman, Reentrant polygon clipping, 1974.</summary>
    /// <param name="corners">As long as <see cref="MostCorners"/>; the first hold the polygon, before and after.</param>
    /// <returns>How many corners are left; 0: nothing lies within.</returns>
    public int Clip(Span<Vec3> corners, int count)
    {
        Span<Vec3> cut = stackalloc Vec3[MostCorners + 1];
        for (var plane = 0; plane < _normals.Length && count > 0; plane++)
        {
            var (normal, offset, left) = (_normals[plane], _offsets[plane], 0);
            var from = corners[count - 1];
            var fromBy = normal.Dot(from) - offset;
            for (var i = 0; i < count; i++)
            {
                var to = corners[i];
                var toBy = normal.Dot(to) - offset;
                if (fromBy <= 0 != toBy <= 0)
                {
                    cut[left++] = from + (to - from) * (fromBy / (fromBy - toBy));
                }

                if (toBy <= 0)
                {
                    cut[left++] = to;
                }

                (from, fromBy) = (to, toBy);
            }

            cut[..left].CopyTo(corners);
            count = left;
        }

        return count;
    }
}
