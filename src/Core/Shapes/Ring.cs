using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>A ring about Y: a tube bent to a circle.</summary>
/// <param name="Radius">From the axis to the middle of the tube.</param>
/// <param name="Tube">The tube's own radius.</param>
/// <param name="Segments">Around the axis.</param>
/// <param name="Sides">Around the tube.</param>
public sealed record Ring(double Radius, double Tube, int Segments, int Sides) : Shape
{
    public override string Type => "ring";

    public override Geometry Tessellate()
    {
        var outline = new List<OutlinePoint>();
        for (var j = 0; j <= Sides; j++)
        {
            var (s, c) = Degrees.SinCos(360.0 * (j % Sides) / Sides - 180);
            outline.Add(new(Radius + Tube * c, Tube * s, c, s, (double)j / Sides));
        }

        var mesh = new MeshBuilder();
        mesh.Revolve(Segments, outline);
        return mesh.Build();
    }

    public override ShapePatch ToPatch() =>
        new() { Type = Type, Radius = Radius, Tube = Tube, Segments = Segments, Sides = Sides };

    protected override Shape Fit(ShapeTaker take)
    {
        var ring = new Ring(
            take.Length("radius", take.Patch.Radius, Radius),
            take.Length("tube", take.Patch.Tube, Tube),
            take.Count("segments", take.Patch.Segments, Segments, 3),
            take.Count("sides", take.Patch.Sides, Sides, 3));
        return ring.Tube < ring.Radius
            ? ring
            : throw new Refusal(Refusals.NotUnderstood, "The tube must be thinner than the ring's radius.");
    }
}
