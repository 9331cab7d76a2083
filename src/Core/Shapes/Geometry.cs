using System.Numerics;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

public enum PartMode
{
    Points,
    Lines,
    Triangles,
}

/// <summary>
/// Vertices and the points, lines or triangles between them, drawn in one material. All arrays are flat: three numbers a
/// position and a normal, two a texture coordinate, four a colour and a tangent.
/// </summary>
public sealed record Part(
    PartMode Mode,
    int Slot,
    double[] Positions,
    float[]? Normals,
    IReadOnlyList<float[]> TexCoords,
    float[]? Colors,
    float[]? Tangents,
    int[] Indices)
{
    public const int MostTexCoords = 8;

    /// <summary>A mesh does not have more materials.</summary>
    private const int MostSlots = 65_536;

    /// <summary>Farther from the origin of its frame than this a vertex could not be computed with.</summary>
    private const double MostPosition = 1e30;

    public int VertexCount => Positions.Length / 3;

    /// <summary>Whether every array has its length, every number can be computed with, and every index names a vertex.</summary>
    public bool IsSound
    {
        get
        {
            var count = VertexCount;
            bool Fits(float[]? numbers, int each) => numbers is null || (numbers.Length == each * count && AreNumbers(numbers));
            return Enum.IsDefined(Mode) && IsSlot(Slot) && Positions.Length == 3 * count && ArePlaces<double>(Positions)
                && Fits(Normals, 3) && Fits(Colors, 4) && Fits(Tangents, 4)
                && TexCoords.Count <= MostTexCoords && TexCoords.All(set => Fits(set, 2))
                && Name(Indices, count) && Indices.Length % Each(Mode) == 0;
        }
    }

    internal static bool IsSlot(int slot) => slot is >= 0 and < MostSlots;

    /// <summary>How many indices an element has.</summary>
    internal static int Each(PartMode mode) => mode switch { PartMode.Triangles => 3, PartMode.Lines => 2, _ => 1 };

    internal static bool ArePlaces<T>(ReadOnlySpan<T> numbers)
        where T : IBinaryFloatingPointIeee754<T>
    {
        var most = T.CreateChecked(MostPosition);
        foreach (var number in numbers)
        {
            if (!(T.Abs(number) <= most))
            {
                return false;
            }
        }

        return true;
    }

    internal static bool AreNumbers(ReadOnlySpan<float> numbers)
    {
        foreach (var number in numbers)
        {
            if (!float.IsFinite(number))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Whether indices name nothing but vertices.</summary>
    internal static bool Name(ReadOnlySpan<int> indices, int vertices) => !indices.ContainsAnyExceptInRange(0, vertices - 1);
}

/// <summary>
/// What a node looks like in its own frame; never changes once made.
/// <code>
/// var geometry = new Box(new(1, 1, 1)).Tessellate();
/// var bounds = geometry.Extent(world); // exact, along the world's axes
/// </code>
/// </summary>
public sealed class Geometry(IReadOnlyList<Part> parts)
{
    private double[]? _points;
    private TriangleIndex? _triangles;
    private System.Runtime.CompilerServices.StrongBox<Bounds>? _bounds;

    public IReadOnlyList<Part> Parts { get; } = parts;

    /// <summary>The distinct vertices that are drawn, flat, in the node's frame.</summary>
    public ReadOnlySpan<double> Points => _points ??= Distinct();

    /// <summary>The bounds along the axes of the node's own frame.</summary>
    public Bounds OwnBounds => (_bounds ??= new(Extent(Affine.Identity))).Value;

    /// <summary>Whether its triangles can be found fast at once.</summary>
    public bool IsIndexed => _triangles is not null;

    /// <summary>Finds its triangles fast; built when it is asked for first, unless it was <see cref="Index">stored</see>.</summary>
    public TriangleIndex Triangles => _triangles ??= TriangleIndex.Of(this);

    public int TriangleCount => Parts.Where(p => p.Mode == PartMode.Triangles).Sum(p => p.Indices.Length / 3);

    /// <summary>Takes in the order of its triangles as it was stored.</summary>
    /// <returns>False: it does not fit, and the index is built when it is asked for.</returns>
    public bool Index(int[] order)
    {
        _triangles ??= TriangleIndex.Stored(this, order);
        return _triangles is not null;
    }

    /// <summary>
    /// The exact extent of the vertices along the axes that <paramref name="toAxes"/> leads to; never the extent of a turned box.
    /// </summary>
    public Bounds Extent(Affine toAxes)
    {
        var points = Points;
        if (points.Length == 0)
        {
            return Bounds.Empty;
        }

        var (m, o) = toAxes;
        double lx = double.PositiveInfinity, ly = lx, lz = lx, hx = double.NegativeInfinity, hy = hx, hz = hx;
        for (var i = 0; i + 2 < points.Length; i += 3)
        {
            var (px, py, pz) = (points[i], points[i + 1], points[i + 2]);
            var x = m.X.X * px + m.Y.X * py + m.Z.X * pz;
            var y = m.X.Y * px + m.Y.Y * py + m.Z.Y * pz;
            var z = m.X.Z * px + m.Y.Z * py + m.Z.Z * pz;
            lx = Math.Min(lx, x);
            ly = Math.Min(ly, y);
            lz = Math.Min(lz, z);
            hx = Math.Max(hx, x);
            hy = Math.Max(hy, y);
            hz = Math.Max(hz, z);
        }

        return new(new Vec3(lx, ly, lz) + o, new Vec3(hx, hy, hz) + o);
    }

    private double[] Distinct()
    {
        var seen = new HashSet<Vec3>();
        var points = new List<double>();
        foreach (var part in Parts)
        {
            var used = new bool[part.VertexCount];
            foreach (var index in part.Indices)
            {
                if (used[index])
                {
                    continue;
                }

                used[index] = true;
                var p = new Vec3(part.Positions[3 * index], part.Positions[3 * index + 1], part.Positions[3 * index + 2]);
                if (seen.Add(p))
                {
                    points.Add(p.X);
                    points.Add(p.Y);
                    points.Add(p.Z);
                }
            }
        }

        return [.. points];
    }
}
