namespace CalmPivot.Core.Shapes;

/// <summary>A flat disc in X and Z that faces up, with a hole where its inner radius is not zero.</summary>
public sealed record Disc(double Radius, double Inner, int Segments) : Shape
{
    public override string Type => "disc";

    public override Geometry Tessellate()
    {
        var mesh = new MeshBuilder();
        mesh.Cap(Segments, Radius, Inner, 0, up: true);
        return mesh.Build();
    }

    public override ShapePatch ToPatch() => new() { Type = Type, Radius = Radius, Inner = Inner, Segments = Segments };

    protected override Shape Fit(ShapeTaker take)
    {
        var disc = new Disc(
            take.Length("radius", take.Patch.Radius, Radius),
            take.Length("inner", take.Patch.Inner, Inner, least: 0),
            take.Count("segments", take.Patch.Segments, Segments, 3));
        return disc.Inner < disc.Radius
            ? disc
            : throw new Refusal(Refusals.NotUnderstood, "The hole must be smaller than the disc.");
    }
}
