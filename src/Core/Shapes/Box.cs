using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>A box of the given extents.</summary>
public sealed record Box(Vec3 Size) : Shape
{
    public override string Type => "box";

    public override Geometry Tessellate()
    {
        var mesh = new MeshBuilder();
        for (var axis = 0; axis < 3; axis++)
        {
            foreach (var side in (double[])[-1, 1])
            {
                // across × up points outward on either side.
                var across = Vec3.Axis((axis + 1) % 3) * side;
                var up = Vec3.Axis((axis + 2) % 3);
                var corner = (Vec3.Axis(axis) * side - across - up).Times(Size) * 0.5;
                mesh.Sheet(corner, across.Times(Size), up.Times(Size), 1, 1);
            }
        }

        return mesh.Build();
    }

    public override ShapePatch ToPatch() => new() { Type = Type, Size = Size.ToArray() };

    protected override Shape Fit(ShapeTaker take)
    {
        var size = take.Size(3, Size.ToArray());
        return new Box(new Vec3(size[0], size[1], size[2]));
    }
}
