namespace CalmPivot.Core.Shapes;

/// <summary>A cone along Y, cut off where its top radius is not zero.</summary>
public sealed record Cone(double Radius, double TopRadius, double Height, int Segments, bool Caps) : Shape
{
    public override string Type => "cone";

    public override Geometry Tessellate()
    {
        var mesh = new MeshBuilder();
        var half = Height / 2;
        var slant = Math.Sqrt(Height * Height + (Radius - TopRadius) * (Radius - TopRadius));
        var (outward, upward) = (Height / slant, (Radius - TopRadius) / slant);
        mesh.Revolve(Segments, [new(Radius, -half, outward, upward, 0), new(TopRadius, half, outward, upward, 1)]);
        if (Caps && Radius > 0)
        {
            mesh.Cap(Segments, Radius, 0, -half, up: false);
        }

        if (Caps && TopRadius > 0)
        {
            mesh.Cap(Segments, TopRadius, 0, half, up: true);
        }

        return mesh.Build();
    }

    public override ShapePatch ToPatch() =>
        new() { Type = Type, Radius = Radius, TopRadius = TopRadius, Height = Height, Segments = Segments, Caps = Caps };

    protected override Shape Fit(ShapeTaker take)
    {
        var cone = new Cone(
            take.Length("radius", take.Patch.Radius, Radius, least: 0),
            take.Length("topRadius", take.Patch.TopRadius, TopRadius, least: 0),
            take.Length("height", take.Patch.Height, Height),
            take.Count("segments", take.Patch.Segments, Segments, 3),
            take.Flag("caps", take.Patch.Caps, Caps));
        return cone.Radius + cone.TopRadius > 0
            ? cone
            : throw new Refusal(Refusals.NotUnderstood, "A cone needs a radius at its base or at its top.");
    }
}
