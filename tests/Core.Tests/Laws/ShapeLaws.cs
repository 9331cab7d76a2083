using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Shapes of any parameters that are allowed: whole, as large as they say, and the same whenever they are made.</summary>
public sealed class ShapeLaws
{
    private static readonly Gen<double> Lengths = Gen.Double[0.01, 50];

    private static readonly Gen<ShapePatch> Patches = Gen.Select(
        Some.Of("box", "ball", "icoball", "cylinder", "cone", "ring", "plane", "capsule", "disc"),
        Lengths,
        Lengths,
        Gen.Double[0.05, 0.95],
        Gen.Int[3, 40],
        Gen.Int[2, 20],
        Gen.Bool,
        (type, a, b, share, many, few, caps) => type switch
        {
            "box" => new ShapePatch { Type = type, Size = [a, b, a * share] },
            "ball" => new ShapePatch { Type = type, Radius = a, Segments = many, Rings = few },
            "icoball" => new ShapePatch { Type = type, Radius = a, Divisions = few % 5 },
            "cylinder" => new ShapePatch { Type = type, Radius = a, Height = b, Segments = many, Caps = caps },
            "cone" => new ShapePatch { Type = type, Radius = a, TopRadius = a * share, Height = b, Segments = many, Caps = caps },
            "ring" => new ShapePatch { Type = type, Radius = a, Tube = a * share, Segments = many, Sides = few + 1 },
            "plane" => new ShapePatch { Type = type, Size = [a, b], Divisions = few },
            "capsule" => new ShapePatch { Type = type, Radius = a, Height = 2 * a + b, Segments = many, Rings = few },
            _ => new ShapePatch { Type = type, Radius = a, Inner = a * share, Segments = many },
        });

    [Fact]
    public void Every_triangle_has_its_corners_and_every_corner_a_normal() => Made((shape, part) =>
    {
        Assert.Equal(0, part.Indices.Length % 3);
        Assert.All(part.Indices, i => Assert.InRange(i, 0, part.VertexCount - 1));
        Assert.All(part.Positions, p => Assert.True(double.IsFinite(p)));
        Assert.Equal(part.Positions.Length, part.Normals!.Length);
        Assert.Equal(2 * part.VertexCount, part.TexCoords[0].Length);
        for (var i = 0; i < part.VertexCount; i++)
        {
            var normal = new Vec3(part.Normals[3 * i], part.Normals[3 * i + 1], part.Normals[3 * i + 2]);
            Assert.Equal(1, normal.Length, tolerance: 1e-5);
        }
    });

    [Fact]
    public void Texture_coordinates_lie_on_the_picture() => Made((_, part) =>
        Assert.All(part.TexCoords[0], t => Assert.InRange(t, -1e-6, 1 + 1e-6)));

    [Fact]
    public void A_shape_stands_about_the_middle_and_is_as_high_as_it_says() => Made((shape, part) =>
    {
        var bounds = new Geometry([part]).OwnBounds;
        var patch = shape.ToPatch();
        Assert.Equal(0, bounds.Middle.Y, 1e-9);
        if (patch.Height is { } height)
        {
            Assert.Equal(height, bounds.Size.Y, 1e-9 * (1 + height));
        }

        if (patch.Size is { Length: 3 } size)
        {
            Some.Near(new(size[0], size[1], size[2]), bounds.Size);
        }

        // Round shapes of few segments may stay inside their radius, never outside it.
        if (patch.Radius is { } radius)
        {
            var reach = Math.Max(radius, patch.TopRadius ?? 0) + (patch.Tube ?? 0);
            Assert.True(bounds.Size.X <= 2 * reach * (1 + 1e-9));
            Assert.True(bounds.Size.Z <= 2 * reach * (1 + 1e-9));
        }
    });

    [Fact]
    public void Equal_parameters_make_equal_shapes_and_come_back_as_they_were() => Patches.Sample(patch =>
    {
        var shape = Shape.Default(patch.Type!).With(patch);
        Assert.Equal(shape, Shape.Default("box").With(shape.ToPatch()));
        Assert.Equal(shape.GetHashCode(), Shape.Default("box").With(shape.ToPatch()).GetHashCode());
        Assert.Equal(shape.Tessellate().Parts[0].Positions, shape.Tessellate().Parts[0].Positions);
    });

    [Fact]
    public void Other_normals_move_no_point_and_lose_no_triangle() => Gen.Select(Patches, Gen.Bool, Gen.Double[0, 180]).Sample(
        (patch, facets, angle) =>
        {
            var made = Shape.Default(patch.Type!).With(patch).Tessellate();
            var dressed = new Normals(facets ? NormalsHow.Facets : NormalsHow.Smooth, angle).On(made);
            var (before, after) = (made.Parts[0], dressed.Parts[0]);
            Assert.Equal(before.Indices.Length, after.Indices.Length);
            for (var i = 0; i < before.Indices.Length; i++)
            {
                Assert.Equal(At(before, before.Indices[i]), At(after, after.Indices[i]));
            }

            Assert.All(after.Normals!, n => Assert.True(float.IsFinite(n)));
            Assert.Equal(made.OwnBounds, dressed.OwnBounds);
        },
        iter: 60);

    private static void Made(Action<Shape, Part> check) => Patches.Sample(patch =>
    {
        var shape = Shape.Default(patch.Type!).With(patch);
        check(shape, shape.Tessellate().Parts.Single());
    });

    private static Vec3 At(Part part, int i) => new(part.Positions[3 * i], part.Positions[3 * i + 1], part.Positions[3 * i + 2]);
}
