using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>A ball of even triangles: an icosahedron, each division cutting every triangle into four.</summary>
public sealed record Icoball(double Radius, int Divisions) : Shape
{
    public const int MostDivisions = 6;

    public override string Type => "icoball";

    public override Geometry Tessellate()
    {
        var g = (1 + Math.Sqrt(5)) / 2;
        List<Vec3> corners =
        [
            new(-1, g, 0), new(1, g, 0), new(-1, -g, 0), new(1, -g, 0), new(0, -1, g), new(0, 1, g),
            new(0, -1, -g), new(0, 1, -g), new(g, 0, -1), new(g, 0, 1), new(-g, 0, -1), new(-g, 0, 1),
        ];
        List<(int A, int B, int C)> faces =
        [
            (0, 11, 5), (0, 5, 1), (0, 1, 7), (0, 7, 10), (0, 10, 11), (1, 5, 9), (5, 11, 4), (11, 10, 2), (10, 7, 6), (7, 1, 8),
            (3, 9, 4), (3, 4, 2), (3, 2, 6), (3, 6, 8), (3, 8, 9), (4, 9, 5), (2, 4, 11), (6, 2, 10), (8, 6, 7), (9, 8, 1),
        ];
        for (var k = 0; k < Divisions; k++)
        {
            faces = Divide(corners, faces);
        }

        var mesh = new MeshBuilder();
        foreach (var corner in corners)
        {
            var n = corner.Unit();
            var aside = Math.Sqrt(n.X * n.X + n.Z * n.Z);
            mesh.Vertex(n * Radius, n, 0.5 + Trigonometry.Atan2(n.X, n.Z) / (2 * Math.PI), 0.5 + Trigonometry.Atan2(n.Y, aside) / Math.PI);
        }

        foreach (var (a, b, c) in faces)
        {
            mesh.Triangle(a, b, c);
        }

        return mesh.Build();
    }

    public override ShapePatch ToPatch() => new() { Type = Type, Radius = Radius, Divisions = Divisions };

    protected override Shape Fit(ShapeTaker take) => new Icoball(
        take.Length("radius", take.Patch.Radius, Radius),
        take.Count("divisions", take.Patch.Divisions, Divisions, 0, MostDivisions));

    private static List<(int A, int B, int C)> Divide(List<Vec3> corners, List<(int A, int B, int C)> faces)
    {
        var middles = new Dictionary<(int, int), int>();
        int Middle(int a, int b)
        {
            var key = (Math.Min(a, b), Math.Max(a, b));
            if (!middles.TryGetValue(key, out var middle))
            {
                corners.Add(corners[a].Unit() + corners[b].Unit());
                middles[key] = middle = corners.Count - 1;
            }

            return middle;
        }

        var finer = new List<(int A, int B, int C)>(faces.Count * 4);
        foreach (var (a, b, c) in faces)
        {
            var (ab, bc, ca) = (Middle(a, b), Middle(b, c), Middle(c, a));
            finer.AddRange([(a, ab, ca), (b, bc, ab), (c, ca, bc), (ab, bc, ca)]);
        }

        return finer;
    }
}
