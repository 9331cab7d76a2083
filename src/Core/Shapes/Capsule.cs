namespace CalmPivot.Core.Shapes;

/// <summary>A cylinder along Y with round ends; <paramref name="Height"/> is the whole, ends included.</summary>
/// <param name="Rings">Latitudes of each round end.</param>
public sealed record Capsule(double Radius, double Height, int Segments, int Rings) : Shape
{
    public override string Type => "capsule";

    public override Geometry Tessellate()
    {
        var straight = Height / 2 - Radius;
        var bend = Math.PI * Radius / 2 / (Math.PI * Radius + 2 * straight);
        var mesh = new MeshBuilder();
        mesh.Revolve(Segments, [
            .. Ball.Arc(-90, 0, Rings, Radius, -straight, 0, bend),
            .. Ball.Arc(0, 90, Rings, Radius, straight, 1 - bend, 1),
        ]);
        return mesh.Build();
    }

    public override ShapePatch ToPatch() =>
        new() { Type = Type, Radius = Radius, Height = Height, Segments = Segments, Rings = Rings };

    protected override Shape Fit(ShapeTaker take)
    {
        var capsule = new Capsule(
            take.Length("radius", take.Patch.Radius, Radius),
            take.Length("height", take.Patch.Height, Height),
            take.Count("segments", take.Patch.Segments, Segments, 3),
            take.Count("rings", take.Patch.Rings, Rings, 1));
        return capsule.Height > 2 * capsule.Radius
            ? capsule
            : throw new Refusal(Refusals.NotUnderstood, "A capsule must be higher than twice its radius. Make it higher, or thinner.");
    }
}
