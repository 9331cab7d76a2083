using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>A flat rectangle in X and Z that faces up, cut into divisions × divisions.</summary>
public sealed record Plane(double Width, double Depth, int Divisions) : Shape
{
    public override string Type => "plane";

    public override Geometry Tessellate()
    {
        var mesh = new MeshBuilder();
        mesh.Sheet(new(-Width / 2, 0, Depth / 2), Vec3.UnitX * Width, Vec3.UnitZ * -Depth, Divisions, Divisions);
        return mesh.Build();
    }

    public override ShapePatch ToPatch() => new() { Type = Type, Size = [Width, Depth], Divisions = Divisions };

    protected override Shape Fit(ShapeTaker take)
    {
        var size = take.Size(2, [Width, Depth]);
        return new Plane(size[0], size[1], take.Count("divisions", take.Patch.Divisions, Divisions, 1));
    }
}
