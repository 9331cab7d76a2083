using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Every shape, as it is drawn and measured.</summary>
public sealed class ShapeStories
{
    public static TheoryData<string, double, double, double> Sizes => new()
    {
        { "box", 1, 1, 1 },
        { "ball", 1, 1, 1 },
        { "cylinder", 1, 1, 1 },
        { "cone", 1, 1, 1 },
        { "ring", 1.25, 0.25, 1.25 },
        { "plane", 1, 0, 1 },
        { "capsule", 0.5, 1, 0.5 },
        { "disc", 1, 0, 1 },
    };

    public static TheoryData<string> Types => ["box", "ball", "icoball", "cylinder", "cone", "ring", "plane", "capsule", "disc"];

    [Theory]
    [MemberData(nameof(Sizes))]
    public void A_shape_fills_its_size_about_the_middle(string type, double x, double y, double z)
    {
        var bounds = Shape.Default(type).Tessellate().Extent(Affine.Identity);
        Some.Near(new Vec3(x, y, z), bounds.Size, 1e-12);
        Some.Near(Vec3.Zero, bounds.Middle, 1e-12);
    }

    [Theory]
    [MemberData(nameof(Types))]
    public void Triangles_face_outward_with_unit_normals(string type)
    {
        var part = Shape.Default(type).Tessellate().Parts.Single();
        Vec3 Position(int i) => new(part.Positions[3 * i], part.Positions[3 * i + 1], part.Positions[3 * i + 2]);
        Vec3 Normal(int i) => new(part.Normals![3 * i], part.Normals[3 * i + 1], part.Normals[3 * i + 2]);
        for (var t = 0; t < part.Indices.Length; t += 3)
        {
            var (a, b, c) = (part.Indices[t], part.Indices[t + 1], part.Indices[t + 2]);
            var face = (Position(b) - Position(a)).Cross(Position(c) - Position(a));
            Assert.True(face.Length > 1e-9, $"{type} has an empty triangle");
            Assert.True(face.Unit().Dot((Normal(a) + Normal(b) + Normal(c)).Unit()) > 0.5, $"{type} has a triangle turned inside out");
            Assert.Equal(1, Normal(a).Length, 1e-6);
        }

        Assert.Equal(part.VertexCount * 2, part.TexCoords.Single().Length);
    }

    [Theory]
    [InlineData("box")]
    [InlineData("ball")]
    [InlineData("icoball")]
    [InlineData("cylinder")]
    [InlineData("cone")]
    [InlineData("ring")]
    [InlineData("capsule")]
    public void Closed_shapes_have_no_gaps(string type)
    {
        var part = Shape.Default(type).Tessellate().Parts.Single();
        (double, double, double) Key(int i) => (Round(part.Positions[3 * i]), Round(part.Positions[3 * i + 1]), Round(part.Positions[3 * i + 2]));
        static double Round(double v) => Math.Round(v, 9) + 0.0;
        var edges = new Dictionary<((double, double, double), (double, double, double)), int>();
        for (var t = 0; t < part.Indices.Length; t += 3)
        {
            for (var k = 0; k < 3; k++)
            {
                var (a, b) = (Key(part.Indices[t + k]), Key(part.Indices[t + (k + 1) % 3]));
                edges[(a, b)] = edges.GetValueOrDefault((a, b)) + 1;
            }
        }

        Assert.All(edges.Keys, edge => Assert.True(edges.ContainsKey((edge.Item2, edge.Item1))));
    }

    [Fact]
    public void Bounds_along_turned_axes_are_those_of_the_points_not_of_a_turned_box()
    {
        var ball = Shape.Default("ball").With(new() { Segments = 256, Rings = 128 }).Tessellate();
        var turned = ball.Extent(new(Mat3.Rotation(new Vec3(1, 2, 3).Unit(), 40), Vec3.Zero));
        Assert.InRange(turned.Size.X, 0.999, 1.0000001);
    }

    [Fact]
    public void Parameters_change_one_by_one_and_types_change_too()
    {
        var cylinder = Shape.Default("cylinder").With(new() { Radius = 2 });
        Assert.Equal(new Cylinder(2, 1, 32, true), cylinder);
        Assert.Equal("cone", cylinder.With(new() { Type = "cone", TopRadius = 0.2 }).Type);
    }

    public static TheoryData<string, ShapePatch> Wrong => new()
    {
        { "box", new ShapePatch { Size = [1, 2] } },
        { "box", new ShapePatch { Size = [1, 0, 1] } },
        { "box", new ShapePatch { Size = [1, -1, 1] } },
        { "box", new ShapePatch { Radius = 1 } },
        { "ball", new ShapePatch { Segments = 2 } },
        { "ball", new ShapePatch { Segments = 1_000_000 } },
        { "ball", new ShapePatch { Radius = double.NaN } },
        { "icoball", new ShapePatch { Divisions = 7 } },
        { "ring", new ShapePatch { Tube = 0.6 } },
        { "capsule", new ShapePatch { Height = 0.4 } },
        { "disc", new ShapePatch { Inner = 0.5 } },
        { "cone", new ShapePatch { Radius = 0 } },
        { "box", new ShapePatch { Type = "teapot" } },
    };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void Parameters_that_make_no_shape_are_refused(string type, ShapePatch patch)
    {
        var refusal = Assert.Throws<Refusal>(() => Shape.Default(type).With(patch));
        Assert.Equal(Refusals.NotUnderstood, refusal.Word);
    }

    [Theory]
    [MemberData(nameof(Types))]
    public void Stored_geometry_comes_back_as_it_was(string type)
    {
        var geometry = Shape.Default(type).Tessellate();
        var bytes = GeometryBinary.Write(geometry);
        Assert.Equal(bytes, GeometryBinary.Write(GeometryBinary.Read(bytes)));
        Some.Refuses(Refusals.BrokenFile, () => GeometryBinary.Read(bytes.AsSpan(0, bytes.Length - 5)));
    }
}
