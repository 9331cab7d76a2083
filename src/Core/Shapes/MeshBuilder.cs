using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>One point of an outline that is turned about Y: distance from the axis, height, normal in that half-plane, texture height.</summary>
internal readonly record struct OutlinePoint(double Radius, double Y, double NormalOut, double NormalUp, double V);

/// <summary>Gathers vertices and triangles of the shapes.</summary>
internal sealed class MeshBuilder
{
    private readonly List<double> _positions = [];
    private readonly List<float> _normals = [];
    private readonly List<float> _texCoords = [];
    private readonly List<int> _indices = [];

    public int Vertex(Vec3 position, Vec3 normal, double u, double v)
    {
        _positions.AddRange([position.X, position.Y, position.Z]);
        _normals.AddRange([(float)normal.X, (float)normal.Y, (float)normal.Z]);
        _texCoords.AddRange([(float)u, (float)v]);
        return _positions.Count / 3 - 1;
    }

    public void Triangle(int a, int b, int c) => _indices.AddRange([a, b, c]);

    /// <summary>A flat grid of quads from a corner along two sides; the normal is across × up.</summary>
    public void Sheet(Vec3 corner, Vec3 across, Vec3 up, int columns, int rows)
    {
        var normal = across.Cross(up).Unit();
        var first = _positions.Count / 3;
        for (var j = 0; j <= rows; j++)
        {
            for (var i = 0; i <= columns; i++)
            {
                var (u, v) = ((double)i / columns, (double)j / rows);
                Vertex(corner + across * u + up * v, normal, u, v);
            }
        }

        Quads(first, columns, rows, (_, _) => true, (_, _) => true);
    }

    /// <summary>Turns an outline about Y. Its points go so that the outside lies to the right when they go up.</summary>
    public void Revolve(int segments, IReadOnlyList<OutlinePoint> outline)
    {
        var first = _positions.Count / 3;
        foreach (var p in outline)
        {
            for (var i = 0; i <= segments; i++)
            {
                // The last column repeats the first one to the bit; only its texture coordinate differs.
                var (s, c) = Degrees.SinCos(360.0 * (i % segments) / segments);
                Vertex(
                    new(p.Radius * s, p.Y, p.Radius * c),
                    new(p.NormalOut * s, p.NormalUp, p.NormalOut * c),
                    (double)i / segments,
                    p.V);
            }
        }

        // At a pole one of a quad's two triangles has no area.
        Quads(first, segments, outline.Count - 1, (_, j) => outline[j].Radius > 0, (_, j) => outline[j + 1].Radius > 0);
    }

    /// <summary>A flat ring or disc at a height, facing up or down.</summary>
    public void Cap(int segments, double radius, double inner, double y, bool up)
    {
        var n = up ? 1 : -1;
        OutlinePoint rim = new(radius, y, 0, n, 0), middle = new(inner, y, 0, n, 1);
        Revolve(segments, up ? [rim, middle] : [middle, rim]);
    }

    public Geometry Build() => new([
        new Part(PartMode.Triangles, 0, [.. _positions], [.. _normals], [[.. _texCoords]], null, null, [.. _indices]),
    ]);

    private void Quads(int first, int columns, int rows, Func<int, int, bool> lower, Func<int, int, bool> upper)
    {
        for (var j = 0; j < rows; j++)
        {
            for (var i = 0; i < columns; i++)
            {
                var a = first + j * (columns + 1) + i;
                var c = a + columns + 1;
                if (lower(i, j))
                {
                    Triangle(a, a + 1, c + 1);
                }

                if (upper(i, j))
                {
                    Triangle(a, c + 1, c);
                }
            }
        }
    }
}
