using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>A ball of longitudes (segments) and latitudes (rings).</summary>
public sealed record Ball(double Radius, int Segments, int Rings) : Shape
{
    public override string Type => "ball";

    public override Geometry Tessellate()
    {
        var mesh = new MeshBuilder();
        mesh.Revolve(Segments, [.. Arc(-90, 90, Rings, Radius, 0, 0, 1)]);
        return mesh.Build();
    }

    public override ShapePatch ToPatch() => new() { Type = Type, Radius = Radius, Segments = Segments, Rings = Rings };

    protected override Shape Fit(ShapeTaker take) => new Ball(
        take.Length("radius", take.Patch.Radius, Radius),
        take.Count("segments", take.Patch.Segments, Segments, 3),
        take.Count("rings", take.Patch.Rings, Rings, 2));

    /// <summary>Points of a circle's arc between two latitudes, about a centre on the axis.</summary>
    internal static IEnumerable<OutlinePoint> Arc(double from, double to, int parts, double radius, double centre, double v0, double v1)
    {
        for (var j = 0; j <= parts; j++)
        {
            var t = (double)j / parts;
            var (s, c) = Degrees.SinCos(from + (to - from) * t);
            yield return new(radius * c, centre + radius * s, c, s, v0 + (v1 - v0) * t);
        }
    }
}
