using System.Globalization;
using System.Runtime.CompilerServices;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// How the pictures of a node's materials lie on it, where they do not by its own texture coordinates: projected from the sides of its frame. Source of
/// the formulas: model.md, Box projection.
/// <code>
/// var drawn = Laying.Of(scene, board, world)?.On(geometry) ?? geometry; // with texture coordinates so many metres a picture
/// </code>
/// </summary>
public sealed class Laying
{
    private const int MostKept = 16;

    /// <summary>The directions of a picture on each side, in the order of <see cref="LiesFrom"/>.</summary>
    private static readonly (Vec3 Right, Vec3 Up)[] Sides =
    [
        (Vec3.Axis(0), -Vec3.Axis(2)),
        (Vec3.Axis(0), Vec3.Axis(2)),
        (Vec3.Axis(0), Vec3.Axis(1)),
        (-Vec3.Axis(0), Vec3.Axis(1)),
        (Vec3.Axis(2), Vec3.Axis(1)),
        (-Vec3.Axis(2), Vec3.Axis(1)),
    ];

    private static readonly ConditionalWeakTable<Geometry, Dictionary<string, Geometry>> Made = [];

    private readonly Dictionary<int, Lies> _slots;
    private readonly Vec3 _sizes;

    private Laying(Dictionary<int, Lies> slots, Vec3 sizes)
    {
        (_slots, _sizes) = (slots, sizes);
        var size = slots.Values.Any(l => l.True) ? string.Join(',', sizes.ToArray().Select(v => v.ToString("R", CultureInfo.InvariantCulture))) : "";
        Key = string.Join(';', slots.OrderBy(s => s.Key).Select(s => string.Create(CultureInfo.InvariantCulture, $"{s.Key}:{s.Value.How}{s.Value.From}{s.Value.Metres:R}/{s.Value.Aspect:R}{(s.Value.True ? "t" : "")}"))) + size;
    }

    /// <summary>The same for all nodes on which pictures lie alike.</summary>
    public string Key { get; }

    /// <summary>Null: by the node's own coordinates.</summary>
    /// <param name="world">Where the node stands: true metres are those of the world.</param>
    public static Laying? Of(IScene scene, Node node, Affine world)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        Dictionary<int, Lies>? slots = null;
        for (var slot = 0; slot < node.Materials.Length; slot++)
        {
            if (scene.FindMaterial(node.Materials[slot])?.Surface is { Lies: { How: not LiesHow.Own } lies, Textures.Length: > 0 })
            {
                (slots ??= [])[slot] = lies;
            }
        }

        var (x, y, z) = world.Linear;
        return slots is null ? null : new(slots, new(x.Length, y.Length, z.Length));
    }

    /// <summary>The geometry with the texture coordinates of the projections; made once for each.</summary>
    public Geometry On(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        var known = Made.GetOrCreateValue(geometry);
        lock (known)
        {
            if (!known.TryGetValue(Key, out var made))
            {
                if (known.Count >= MostKept)
                {
                    known.Clear();
                }

                known[Key] = made = new([.. geometry.Parts.Select(part => part.Mode == PartMode.Triangles && _slots.TryGetValue(part.Slot, out var lies) ? On(part, lies) : part)]);
            }

            return made;
        }
    }

    /// <summary>Which side a face belongs to: the largest component of its normal in the node's frame; ties X, Y, Z.</summary>
    public static LiesFrom SideOf(Vec3 normal)
    {
        var (x, y, z) = (Math.Abs(normal.X), Math.Abs(normal.Y), Math.Abs(normal.Z));
        return x >= y && x >= z ? (normal.X < 0 ? LiesFrom.Left : LiesFrom.Right)
            : y >= z ? (normal.Y < 0 ? LiesFrom.Bottom : LiesFrom.Top)
            : normal.Z < 0 ? LiesFrom.Back : LiesFrom.Front;
    }

    /// <summary>The coordinate of a point of the node's frame on a side.</summary>
    /// <param name="sizes">How long the node's unit vectors are in the world.</param>
    public static (double U, double V) At(Vec3 point, LiesFrom side, Lies lies, Vec3 sizes)
    {
        ArgumentNullException.ThrowIfNull(lies);
        var (right, up) = Sides[(int)side];
        var x = lies.True ? new Vec3(point.X * sizes.X, point.Y * sizes.Y, point.Z * sizes.Z) : point;
        return (right.Dot(x) / lies.Metres, -up.Dot(x) * lies.Aspect / lies.Metres);
    }

    /// <summary>Vertices that two sides share become two; tangents no longer fit and are left out.</summary>
    private Part On(Part part, Lies lies)
    {
        var known = new Dictionary<(int, LiesFrom), int>();
        var (kept, coordinates, indices) = (new List<int>(), new List<float>(), new int[part.Indices.Length]);
        Vec3 Point(int index) => new(part.Positions[3 * index], part.Positions[3 * index + 1], part.Positions[3 * index + 2]);
        for (var face = 0; face + 2 < indices.Length; face += 3)
        {
            var (a, b, c) = (Point(part.Indices[face]), Point(part.Indices[face + 1]), Point(part.Indices[face + 2]));
            var side = lies.How == LiesHow.Flat ? lies.From : SideOf((b - a).Cross(c - a));
            for (var corner = face; corner < face + 3; corner++)
            {
                if (!known.TryGetValue((part.Indices[corner], side), out var at))
                {
                    known[(part.Indices[corner], side)] = at = kept.Count;
                    kept.Add(part.Indices[corner]);
                    var (u, v) = At(Point(part.Indices[corner]), side, lies, _sizes);
                    coordinates.AddRange([(float)u, (float)v]);
                }

                indices[corner] = at;
            }
        }

        T[]? Of<T>(T[]? numbers, int each) => numbers is null ? null : [.. kept.SelectMany(i => numbers[(each * i)..(each * i + each)])];
        return part with
        {
            Positions = Of(part.Positions, 3)!,
            Normals = Of(part.Normals, 3),
            Colors = Of(part.Colors, 4),
            Tangents = null,
            TexCoords = [[.. coordinates]],
            Indices = indices,
        };
    }
}
