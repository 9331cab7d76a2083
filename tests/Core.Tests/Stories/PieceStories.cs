using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Meshes are taken apart into their pieces and joined again; nothing moves.</summary>
public sealed class PieceStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("a", null, Placement.Default with { Position = new(-3, 0, 0), Rotation = new(10, 20, 30) }, 1),
        Some.Box("b", null, Placement.Default with { Position = new(3, 1, 0), Scale = new(-1, 2, 1) }, 2),
        Some.Box("rider", "a", Placement.Default with { Position = new(0, 3, 0) }),
        new Material("wood", "Wood"),
        Some.Box("lead", null, Placement.Default with { Position = new(0, 4, 0), Rotation = new(0, 0, 45) }, 3) with { Materials = ["wood"] });

    [Fact]
    public void Several_become_one_and_nothing_moves()
    {
        var (corners, rider) = (Corners("a", "b", "lead"), _scene.World("rider"));
        _scene.Keep(new Join(["a", "b", "lead"]));
        Assert.Equal(["lead"], _scene.Children(null));
        Assert.Equal(["rider"], _scene.Children("lead"));
        var lead = _scene.Find("lead")!;
        Assert.Equal(NodeKind.Mesh, lead.Kind);
        Assert.Equal(["wood", "", ""], Enumerable.Range(0, Materials.SlotsOf(_scene, lead)).Select(lead.MaterialOf));
        Same(corners, Corners("lead"));
        Some.Near(rider, _scene.World("rider"));
    }

    [Fact]
    public void Controllers_that_are_joined_are_drawn_in_full()
    {
        _scene.Keep(new Draw(["lead"], DrawnAs.Controller));
        _scene.Keep(new Draw(["a"], DrawnAs.Controller));
        Assert.True(_scene.Find("lead")!.IsController);
        _scene.Keep(new Join(["a", "lead"]));
        Assert.Equal(DrawnAs.Full, _scene.Find("lead")!.Switches.Drawn);
    }

    [Fact]
    public void Faces_face_outwards_still_after_a_mirrored_one_is_joined()
    {
        _scene.Keep(new Join(["b", "lead"]));
        var geometry = Extents.GeometryOf(_scene, _scene.Find("lead")!)!;
        foreach (var piece in Pieces.Of(geometry))
        {
            Assert.True(VolumeOf(piece) > 0);
            foreach (var part in piece.Parts)
            {
                for (var i = 0; i < part.Indices.Length; i += 3)
                {
                    var upright = (At(part, i + 1) - At(part, i)).Cross(At(part, i + 2) - At(part, i));
                    var v = 3 * part.Indices[i];
                    Assert.True(upright.Dot(new(part.Normals![v], part.Normals[v + 1], part.Normals[v + 2])) > 0);
                }
            }
        }
    }

    [Fact]
    public void One_of_several_pieces_becomes_several_and_joins_again()
    {
        _scene.Keep(new Join(["a", "b", "lead"]));
        var corners = Corners("lead");
        _scene.Keep(new Separate(["lead"]));
        var pieces = _scene.Children(null);
        Assert.Equal(["lead", "lead-piece-2", "lead-piece-3"], pieces);
        Assert.Equal(["lead", "lead 2", "lead 3"], pieces.Select(id => _scene.Find(id)!.Name));
        Assert.All(pieces, id => Assert.Equal(12, Extents.GeometryOf(_scene, _scene.Find(id)!)!.TriangleCount));
        Same(corners, Corners([.. pieces]));
        Assert.Equal(["rider"], _scene.Children("lead"));
        Assert.Contains("one piece", _scene.Refused(new Separate(["lead"])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_lead_that_rides_on_what_goes_into_it_is_taken_out_first()
    {
        var (corners, world) = (Corners("a", "rider"), _scene.World("rider"));
        _scene.Keep(new Join(["a", "rider"]));
        Assert.Null(_scene.Find("rider")!.Parent);
        Some.Near(world, _scene.World("rider"));
        Same(corners, Corners("rider"));
    }

    [Fact]
    public void What_has_no_geometry_or_one_piece_is_refused()
    {
        _scene.Keep(new Create(new() { Id = "g", Name = "Empty", Kind = NodeKind.Group }));
        Assert.Contains("“Empty” has no geometry", _scene.Refused(new Join(["g", "a"])).Message, StringComparison.Ordinal);
        Assert.Contains("made from parameters", _scene.Refused(new Separate(["a"])).Message, StringComparison.Ordinal);
        Assert.Contains("“Empty” has no geometry", _scene.Refused(new Separate(["g"])).Message, StringComparison.Ordinal);
        Assert.Contains("at least two", _scene.Refused(new Join(["a"])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_made_goes_with_the_change()
    {
        var change = _scene.Run(new Join(["a", "lead"]));
        var (hash, geometry) = Assert.Single(change.Made);
        Assert.Equal(hash, change.Nodes.Single(n => n.Id == "lead").After!.Geometry);
        Assert.Equal(24, geometry.TriangleCount);
        Assert.Equal(GeometryBinary.Write(geometry), GeometryBinary.Write(GeometryBinary.Read(GeometryBinary.Write(geometry))));
    }

    private static Vec3 At(Part part, int corner)
    {
        var v = 3 * part.Indices[corner];
        return new(part.Positions[v], part.Positions[v + 1], part.Positions[v + 2]);
    }

    private static double VolumeOf(Geometry geometry) => geometry.Parts.Sum(part => Enumerable.Range(0, part.Indices.Length / 3)
        .Sum(i => At(part, 3 * i).Dot(At(part, 3 * i + 1).Cross(At(part, 3 * i + 2))))) / 6;

    private List<Vec3> Corners(params string[] ids) => [.. ids.SelectMany(id =>
    {
        var points = Extents.GeometryOf(_scene, _scene.Find(id)!)!.Points.ToArray();
        return Enumerable.Range(0, points.Length / 3).Select(i => _scene.World(id).Point(new(points[3 * i], points[3 * i + 1], points[3 * i + 2])));
    })];

    /// <summary>Stored geometry has single precision.</summary>
    private static void Same(List<Vec3> expected, List<Vec3> actual)
    {
        Assert.Equal(expected.Count, actual.Count);
        Assert.All(expected, p => Assert.True(actual.Min(q => (p - q).Length) < 1e-5));
    }
}
