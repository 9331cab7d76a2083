using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>How surfaces are shown, and which way they face.</summary>
public sealed class SurfaceStories
{
    private readonly SceneDocument _scene = Some.Scene(Some.Box("desk", null), Some.Box("leg", "desk"));

    [Fact]
    public void Facets_give_every_corner_the_normal_of_its_face()
    {
        var ball = new Ball(1, 12, 6).Tessellate();
        var part = Assert.Single(new Normals(NormalsHow.Facets).On(ball).Parts);
        for (var face = 0; face < part.Indices.Length; face += 3)
        {
            var normals = Enumerable.Range(face, 3).Select(i => NormalAt(part, part.Indices[i])).Distinct().ToList();
            Assert.Single(normals);
        }
    }

    [Fact]
    public void Smooth_rounds_a_ball_and_leaves_the_edges_of_a_box_sharp()
    {
        var ball = new Normals(NormalsHow.Smooth).On(new Ball(1, 32, 16).Tessellate()).Parts[0];
        for (var i = 0; i < ball.VertexCount; i++)
        {
            Assert.True(NormalAt(ball, i).Dot(PositionAt(ball, i).Unit()) > 0.99);
        }

        var box = new Normals(NormalsHow.Smooth).On(new Box(Vec3.One).Tessellate()).Parts[0];
        for (var i = 0; i < box.VertexCount; i++)
        {
            Assert.Equal(1, NormalAt(box, i).Map(Math.Abs).ToArray().Max(), tolerance: 1e-6);
        }
    }

    [Fact]
    public void A_large_angle_rounds_a_box_too_and_no_vertex_moves()
    {
        var made = new Box(Vec3.One).Tessellate();
        var round = new Normals(NormalsHow.Smooth, 120).On(made);
        Assert.Equal(made.Extent(Affine.Identity), round.Extent(Affine.Identity));
        Assert.Equal(made.TriangleCount, round.TriangleCount);
        var part = round.Parts[0];
        Assert.All(Enumerable.Range(0, part.VertexCount), i => Assert.True(NormalAt(part, i).Dot(PositionAt(part, i).Unit()) > 0.99));
    }

    [Fact]
    public void Texture_coordinates_stay_with_their_corners()
    {
        var made = new Box(Vec3.One).Tessellate().Parts[0];
        var flat = new Normals(NormalsHow.Facets).On(new Geometry([made])).Parts[0];
        for (var i = 0; i < made.Indices.Length; i++)
        {
            Assert.Equal(Uv(made, made.Indices[i]), Uv(flat, flat.Indices[i]));
            Assert.Equal(PositionAt(made, made.Indices[i]), PositionAt(flat, flat.Indices[i]));
        }

        static (float, float) Uv(Part p, int i) => (p.TexCoords[0][2 * i], p.TexCoords[0][2 * i + 1]);
    }

    [Fact]
    public void Facets_can_be_chosen_and_taken_back()
    {
        var (change, sentence) = Batch.Run(_scene, [new SetNormals(["desk", "leg"], SurfaceLook.Facets)]);
        Assert.Equal("Showed 2 objects in facets", sentence);
        _scene.Apply(change);
        Assert.Equal(NormalsHow.Facets, _scene.Find("leg")!.Normals!.How);
        Assert.All(change.Nodes, n => Assert.Equal(Parts.Shape, n.Written()));
        Assert.NotSame(Extents.GeometryOf(_scene, _scene.Find("desk")!), Extents.DrawnGeometryOf(_scene, _scene.Find("desk")!));
        _scene.Keep(new SetNormals(["desk"], SurfaceLook.AsMade));
        Assert.Null(_scene.Find("desk")!.Normals);
        _scene.Apply(change.Reversed());
        Assert.Null(_scene.Find("leg")!.Normals);
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(181)]
    [InlineData(double.NaN)]
    public void An_angle_that_is_none_is_refused(double angle) =>
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => _scene.Run(new SetNormals(["desk"], SurfaceLook.Smooth, angle))).Word);

    [Fact]
    public void Degenerate_triangles_get_no_normal_that_is_not_a_number()
    {
        var part = new Part(PartMode.Triangles, 0, [0, 0, 0, 0, 0, 0, 1, 0, 0], null, [], null, null, [0, 1, 2]);
        var made = new Normals(NormalsHow.Smooth).On(new Geometry([part])).Parts[0];
        Assert.All(made.Normals!, n => Assert.True(float.IsFinite(n)));
    }

    /// <summary>The upright of a face stays square on the face, and on the same side, under every placement.</summary>
    [Fact]
    public void The_upright_of_a_face_is_square_on_it() => Gen.Select(Some.Placements, Some.Point, Some.Point, Some.Point)
        .Where(t => (t.Item3 - t.Item2).Cross(t.Item4 - t.Item2).Length > 0.1)
        .Sample((placement, a, b, c) =>
        {
            var world = placement.Local();
            var normal = Faces.Normal(world, a, b, c);
            var (p, q, r) = (world.Point(a), world.Point(b), world.Point(c));
            Assert.Equal(1, normal.Length, tolerance: 1e-9);
            Assert.True(Math.Abs(normal.Dot((q - p).Unit())) < 1e-6);
            Assert.True(Math.Abs(normal.Dot((r - p).Unit())) < 1e-6);

            // The side that the normal points to in the object's frame stays that side in the world.
            var own = (b - a).Cross(c - a).Unit();
            Assert.True(normal.Dot(world.Point(a + own) - p) > 0);
        });

    [Fact]
    public void A_face_without_area_has_no_upright() =>
        Assert.Equal(Vec3.Zero, Faces.Normal(Affine.Identity, Vec3.One, Vec3.One, Vec3.UnitX));

    private static Vec3 NormalAt(Part p, int i) => new(p.Normals![3 * i], p.Normals[3 * i + 1], p.Normals[3 * i + 2]);

    private static Vec3 PositionAt(Part p, int i) => new(p.Positions[3 * i], p.Positions[3 * i + 1], p.Positions[3 * i + 2]);
}
