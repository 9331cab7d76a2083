namespace CalmPivot.Core.Shapes;

/// <summary>A cylinder along Y, open or closed by caps.</summary>
public sealed record Cylinder(double Radius, double Height, int Segments, bool Caps) : Shape
{
    public override string Type => "cylinder";

    public override Geometry Tessellate() => new Cone(Radius, Radius, Height, Segments, Caps).Tessellate();

    public override ShapePatch ToPatch() =>
        new() { Type = Type, Radius = Radius, Height = Height, Segments = Segments, Caps = Caps };

    protected override Shape Fit(ShapeTaker take) => new Cylinder(
        take.Length("radius", take.Patch.Radius, Radius),
        take.Length("height", take.Patch.Height, Height),
        take.Count("segments", take.Patch.Segments, Segments, 3),
        take.Flag("caps", take.Patch.Caps, Caps));
}
