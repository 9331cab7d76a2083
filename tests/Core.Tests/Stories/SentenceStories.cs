using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Every edit says itself as an artist would, with names, units and signs.</summary>
public sealed class SentenceStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("Arm", null, rank: 1),
        Some.Box("Lamp", "Arm", rank: 1),
        Some.Box("Desk", null, rank: 2));

    [Fact]
    public void Spaces_are_said_for_one_and_for_many()
    {
        (Space, string, string)[] said =
        [
            (new WorldSpace(), "the world's", "the world's"),
            (new ParentSpace(), "its parent's", "their parents'"),
            (new OwnSpace(), "its own", "their own"),
            (new LeadSpace(), "its own", "Desk's own"),
            (new ViewSpace(Affine.Identity), "the view's", "the view's"),
            (new SurfaceSpace(Vec3.UnitY), "the surface's", "the surface's"),
        ];
        var say = new Speaker(_scene);
        foreach (var (space, one, many) in said)
        {
            Assert.Equal(one, say.Of(space, ["Desk"]));
            Assert.Equal(many, say.Of(space, ["Arm", "Desk"]));
        }
    }

    [Fact]
    public void Copies_that_are_moved_and_a_shot_with_its_camera_are_one_thing_that_was_done()
    {
        string Told(params Edit[] edits) => Batch.Run(_scene, edits).Sentence;
        var copy = new Duplicate(["Desk"], Ids: [["copy"]]);
        Assert.Equal("Made a copy of Desk, moved +2 m along the world's X", Told(copy, new Move(["copy"], new(2, 0, 0), new WorldSpace())));
        Assert.Equal("Made a copy of Desk, and 1 other edit", Told(copy, new Move(["Arm"], new(2, 0, 0), new WorldSpace())));
        var camera = new Create(new() { Id = "eye", Name = "Eye", Kind = NodeKind.Camera, Camera = new() });
        Assert.Equal("Made the shot Wide", Told(camera, new MakeShot(new(Name: "Wide", Camera: "eye"))));
        Assert.Equal("Added Eye, and 1 other edit", Told(camera, new MakeShot(new(Name: "Wide"))));
        Assert.Equal("Made the shot Wide, and 1 more", Told(new MakeShot(new(Name: "Wide")), new MakeShot(new(Name: "Close"))));
    }

    [Fact]
    public void Turns_that_go_by_no_letter_orders_and_stops_are_said_as_they_are()
    {
        string Told(params Edit[] edits) => Batch.Run(_scene, edits).Sentence;
        Assert.Equal("Rotated Desk +30° about its pivot, freely about (0.6, 0.8, 0) of its parent's axes", Told(new Rotate(["Desk"], 30, new(3, 4, 0), new ParentSpace(), new AboutOwn())));
        Assert.Equal("Rotated Desk +30° about its pivot, along the world's Y", Told(new Rotate(["Desk"], 30, new(0, 2, 0), new WorldSpace(), new AboutOwn())));
        Assert.Equal("Changed the exposure to 1 stop", Told(new SetSurroundings(Exposure: 1)));
        Assert.Equal("Changed the exposure +2 stops", Told(new SetSurroundings(Exposure: 2, Mode: Core.Amounts.AmountMode.Add)));
        _scene.Keep(new MakeShot(new("a", "010", "One")), new MakeShot(new("b", "020", "Two")), new MakeShot(new("c", "030", "Three")));
        Assert.Equal("Shot 030 Three: first in the order", Told(new SetShot("c", Index: 0)));
        Assert.Equal("Shot 030 Three: before 020 Two", Told(new SetShot("c", Index: 1)));
        Assert.Equal("Shot 010 One: last in the order", Told(new SetShot("a", Index: 9)));
        _scene.Keep(new Constrain(["Desk"], new() { Kind = "aim", Target = "Arm" }), new Constrain(["Desk"], new() { Kind = "limit", Of = "rotation", Low = [null, 0, null] }));
        Assert.Equal("Desk: Limit of rotation first in the order", Told(new SetConstraint([new("Desk", "limit")], Index: 0)));
    }

    [Fact]
    public void What_is_made_in_one_shot_only_is_seen_in_that_one()
    {
        _scene.Keep(new MakeShot(new("a", "010", "One")), new MakeShot(new("b", "020", "Two")));
        var (change, sentence) = Batch.Run(_scene, [new Create(new() { Name = "Cone", Kind = NodeKind.Shape, Shape = new() { Type = "cone" } })], new("a", Narrow: true));
        Assert.Equal("Added Cone, seen in 010 One only", sentence);
        _scene.Apply(change);
        var id = Assert.Single(change.Nodes).Id;
        Assert.Equal([true, false], new[] { "a", "b" }.Select(shot => CalmPivot.Core.Seeing.Seen.Of(new ShotScene(_scene, shot), new ShotScene(_scene, shot).Find(id)!).Final));
    }

    [Fact]
    public void Points_are_said_for_one_and_for_many()
    {
        (About, string, string)[] said =
        [
            (new AboutOwn(), "its pivot", "their pivots"),
            (new AboutLead(), "its pivot", "Desk's pivot"),
            (new AboutBounds(), "the middle of the bounds", "the middle of the bounds"),
            (new AboutMean(), "its pivot", "the mean of the pivots"),
            (new AboutZero(), "world zero", "world zero"),
            (new AboutPoint(Vec3.One), "a picked point", "a picked point"),
        ];
        var say = new Speaker(_scene);
        foreach (var (about, one, many) in said)
        {
            Assert.Equal(one, say.Point(about, ["Desk"]));
            Assert.Equal(many, say.Point(about, ["Arm", "Desk"]));
        }
    }

    [Fact]
    public void What_is_unusual_is_said_too()
    {
        Assert.Equal(
            "Rotated 2 objects −90° about Desk's pivot, along the world's X, places only, children stay",
            Said(new Rotate(["Arm", "Desk"], -90, Vec3.UnitX, new WorldSpace(), new AboutLead(), Effect.Places, ChildrenMode.Stay)));
        Assert.Equal(
            "Scaled Desk × (1.2, 0.9129, 0.9129) about its pivot, along its own X, volume kept",
            Said(new Scale(["Desk"], new(1.2, 1, 1), new OwnSpace(), new AboutOwn(), new(['x']))));
        Assert.Equal("Put Lamp under Desk, numbers kept", Said(new PutUnder(["Lamp"], "Desk", null, Keep.Numbers)));
        Assert.Equal("Removed Arm, children lifted", Said(new Remove(["Arm"], RemovedChildren.Lift)));
        Assert.Equal("Put the pivot of Desk at a picked point, numbers kept", Said(new MovePivot(["Desk"], new(Point: Vec3.One), null, Keep.Numbers)));
        Assert.Equal("Turned the pivot of Desk to 0°, 90°, 0°", Said(new MovePivot(["Desk"], Turn: new(0, 90, 0))));
        Assert.Equal("Locked 2 objects", Said(new LockNodes(["Arm", "Desk"], true)));
        Assert.Equal("Switched Arm on in the working view and off in the final picture", Said(new See(["Arm"], true, false)));
        Assert.Equal("Placed Desk: rotation (0°, 45°, 0°), order ZXY", Said(new Place("Desk", new() { Rotation = new(0, 45, 0), Order = EulerOrder.ZXY })));
        Assert.Equal("Showed Desk smooth up to 40°", Said(new SetNormals(["Desk"], SurfaceLook.Smooth)));
        Assert.Equal("Steered Desk", Said(new Steer("Desk", Affine.Identity)));
    }

    [Theory]
    [InlineData("m", "Moved Desk +1.5 m along the world's X")]
    [InlineData("cm", "Moved Desk +150 cm along the world's X")]
    [InlineData("mm", "Moved Desk +1500 mm along the world's X")]
    [InlineData("ft", "Moved Desk +4.921 ft along the world's X")]
    [InlineData("in", "Moved Desk +59.055 in along the world's X")]
    [InlineData("units", "Moved Desk +1.5 along the world's X")]
    public void Lengths_are_said_in_the_scenes_unit(string unit, string sentence)
    {
        _scene.Unit = unit;
        Assert.Equal(sentence, Said(new Move(["Desk"], new(1.5, 0, 0), new WorldSpace())));
    }

    [Fact]
    public void Several_edits_are_one_step_and_long_names_are_cut_in_the_middle()
    {
        var name = new string('a', 30) + new string('z', 30);
        Assert.Equal($"Renamed Desk to {new string('a', 20)}…{new string('z', 18)}, and 1 more", Said(new Rename("Desk", name), new Rename("Arm", "b")));
    }

    [Theory]
    [InlineData(0, "0")]
    [InlineData(-0.0, "0")]
    [InlineData(1234.5678, "1234.568")]
    [InlineData(0.0001234, "0.000123")]
    [InlineData(-2, "-2")]
    [InlineData(2e12, "2E+12")]
    public void Figures_have_few_decimals_and_never_hide_a_small_amount(double value, string said) =>
        Assert.Equal(said, Unit.Figure(value, 3));

    private string Said(params Edit[] edits) => Batch.Run(_scene, edits).Sentence;
}
