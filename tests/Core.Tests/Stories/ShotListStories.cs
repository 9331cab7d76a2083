using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Shots are compared, given cameras of their own, and brought up to date by lists.</summary>
public sealed class ShotListStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("lamp", null, Placement.Default with { Position = new(1, 0, 0) }, 1),
        Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Rank = 2, Camera = new() });

    public ShotListStories() => _scene.Keep(
        new MakeShot(new("room", Name: "Room", Camera: "eye", Frames: 144, Note: "slow")),
        new MakeShot(new("dome", Name: "Dome", Camera: "eye", Frames: 96)),
        new MakeShot(new("lens", Name: "Lens", Frames: 48)));

    private string[] Order => [.. _scene.AllShots().Select(s => s.Name)];

    [Fact]
    public void A_list_changes_what_is_there_by_name_and_makes_the_rest_in_its_order()
    {
        ListShots list = new([new(Name: "dome", Frames: 120), new(Name: "Dawn", Frames: 10), new(Name: "Room", Note: "slow"), new(Name: "Dusk")]);
        Assert.Equal("2 made, 1 changed, 1 as they are; 1 other stays in the scene.", list.Foretell(_scene));
        Assert.Equal([("020 Dome", "frames 96 → 120"), ("Dawn", "new, 10 frames"), ("010 Room", ""), ("Dusk", "new, 96 frames")], list.Changes(_scene).Select(c => (c.Title, string.Join(", ", c.Changes))));
        Assert.True(list.IsMoved(_scene));
        var (change, sentence) = Batch.Run(_scene, [list]);
        Assert.Equal("Took in a list of 4 shots: 2 made, 1 changed", sentence);
        _scene.Apply(change);
        Assert.Equal(["Dome", "Dawn", "Room", "Dusk", "Lens"], Order);
        Assert.Equal(120, _scene.FindShot("dome")!.Frames);

        // Once more it changes nothing.
        Assert.Equal("Every shot of this list is in the scene already, as the list has it.", list.Foretell(_scene));
        Assert.Empty(Batch.Run(_scene, [list]).Change.All);
    }

    [Fact]
    public void The_same_name_twice_is_two_shots_that_are_found_again()
    {
        ListShots list = new([new(Number: "1", Name: "Cut", Frames: 5), new(Number: "2", Name: "Cut", Frames: 6)]);
        _scene.Keep(list);
        Assert.Equal([5, 6], _scene.AllShots().Where(s => s.Name == "Cut").Select(s => s.Frames));
        Assert.Empty(Batch.Run(_scene, [list]).Change.All);

        // By their numbers, also the other way round.
        _scene.Keep(new ListShots([new(Number: "2", Name: "Cut", Frames: 60), new(Number: "1", Name: "Cut", Frames: 50)]));
        Assert.Equal([60, 50], _scene.AllShots().Where(s => s.Name == "Cut").Select(s => s.Frames));
    }

    [Fact]
    public void A_list_that_is_too_long_or_damaged_changes_nothing()
    {
        var before = _scene.Revision;
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => _scene.Keep(new ListShots([.. Enumerable.Range(0, 2001).Select(i => new NewShot(Name: $"{i}"))]))).Word);
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => _scene.Keep(new ListShots([new(Name: "New"), new(Name: "Room", Frames: 0)]))).Word);
        Assert.Equal((before, 3), (_scene.Revision, _scene.Shots.Count));
    }

    [Fact]
    public void A_camera_of_its_own_stands_where_the_shot_has_it_and_leaves_the_others_alone()
    {
        _scene.Apply(Batch.Run(_scene, [new Move(["eye"], new(0, 0, 3), new WorldSpace()), new SetCamera(["eye"], Fov: 20)], new("dome", Narrow: true)).Change);
        _scene.Keep(new OwnCamera("dome", "new"));
        var (own, there) = (_scene.Find("new")!, _scene.FindShot("dome")!);
        Assert.Equal(("new", new Vec3(0, 0, 3), 20.0, "Eye 020 Dome"), (there.Camera, own.Placement.Position, own.Camera!.Fov, own.Name));
        Assert.Empty(_scene.CheatsOf("dome"));
        Assert.Equal(("eye", 38.0), (_scene.FindShot("room")!.Camera, _scene.Find("eye")!.Camera!.Fov));
        Assert.Contains("has no camera", Some.Refuses(Refusals.NotUnderstood, () => _scene.Keep(new OwnCamera("lens"))).Message, StringComparison.Ordinal);
        Assert.Equal(["010 Room"], CameraReading.Of(new SceneDraft(_scene), "eye", null)!.UsedBy);
    }

    [Fact]
    public void Beside_each_other_two_shots_are_told_with_both_values()
    {
        _scene.Apply(Batch.Run(_scene, [new Move(["lamp"], new(0.5, 0, 0), new WorldSpace())], new("dome", Narrow: true)).Change);
        _scene.Keep(new SeeIn(["dome"], ["lamp"], false));
        var reading = DiffReading.Of(_scene, "dome", "room");
        Assert.Equal("The shot itself and 1 thing are otherwise in 020 Dome than in 010 Room.", reading.Text);
        Assert.Equal(
            [("length", "4 s · 96", "6 s · 144"), ("seen", "off", "on"), ("position X", "1.5 m", "1 m")],
            reading.Things.SelectMany(t => t.Lines).Select(l => (l.Words, l.A, l.B)));
        Assert.Equal("020 Dome and 020 Dome are the same but for their names.", DiffReading.Of(_scene, "dome", "dome").Text);

        // The other's stands as a shadow beside what is shown.
        var shadow = Assert.Single(Shadow.OfDiff(_scene, _scene, "room", "dome"));
        Assert.Equal(("lamp", new Vec3(1.5, 0, 0), new Vec3(1, 0, 0)), (shadow.Id, shadow.World.Offset, shadow.Now));
        Assert.Equal("Gave 010 Room what 020 Dome has of lamp", Batch.Run(_scene, [new TakeFrom("room", "dome", ["lamp"])]).Sentence);
        _scene.Keep(new TakeFrom("room", "dome", [], Frames: true));
        Assert.Equal(96, _scene.FindShot("room")!.Frames);
        Assert.Empty(_scene.CheatsOf("room"));
        _scene.Keep(new TakeFrom("lens", "dome", [], Camera: true));
        Assert.Equal(("eye", 48), (_scene.FindShot("lens")!.Camera, _scene.FindShot("lens")!.Frames));
        Assert.Contains("There is nothing to take", Some.Refuses(Refusals.NotUnderstood, () => _scene.Keep(new TakeFrom("lens", "dome", [], Camera: true))).Message, StringComparison.Ordinal);

        // To look at two shots costs what they have of their own, however little is taken.
        var draft = new SceneDraft(_scene) { Bound = 1 };
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => new TakeFrom("room", "dome", ["lamp"]).ApplyTo(draft)).Word);
        _scene.Keep(new RemoveShot("room"));
        Assert.Contains("is not in the scene any more", Some.Refuses(Refusals.NotFound, () => ShotDiff.Of(_scene, "dome", "room")).Message, StringComparison.Ordinal);
    }
}
