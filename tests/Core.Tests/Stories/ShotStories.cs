using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>A room is arranged for its pictures.</summary>
public sealed class ShotStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("desk", null, Placement.Default with { Position = new(1, 0, 0) }, 1),
        Some.Box("lamp", "desk", Placement.Default with { Position = new(0, 1, 0) }, 1),
        Some.Box("stool", null, Placement.Default, 2),
        Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Rank = 3, Camera = new(Far: 100) },
        new Collection("set", "Scaffold", null, 1));

    public ShotStories()
    {
        _scene.Keep(new MakeShot(new("room", Name: "Room", Camera: "eye", Frames: 144)), new MakeShot(new("dome", Name: "Dome", Camera: "eye", Frames: 96)));
        _scene.Keep(new Collect(["stool"], "set", true));
    }

    private ShotScene In(string shot) => new(_scene, shot);

    private string Do(Scope scope, params Edit[] edits)
    {
        var (change, sentence) = Batch.Run(_scene, edits, scope);
        _scene.Apply(change);
        return sentence;
    }

    private static Scope Only(string shot) => new(shot, Narrow: true);

    private static Move Along(Vec3 by, params string[] nodes) => new(nodes, by, new WorldSpace());

    [Fact]
    public void The_sentence_says_first_that_it_is_one_shot_only_and_last_that_it_is_every()
    {
        Assert.Equal("In 020 Dome only: moved lamp +0.2 m along the world's X", Do(Only("dome"), Along(new(0.2, 0, 0), "lamp")));
        Assert.Equal("Moved stool +1 m along the world's Y, in every shot", Do(new("dome"), Along(new(0, 1, 0), "stool")));
        Assert.Equal("Renamed stool to Seat, in every shot", Do(Only("dome"), new Rename("stool", "Seat")));
        Assert.Equal("Moved Seat +1 m along the world's Y", Do(Scope.Every, Along(new(0, 1, 0), "stool")));
    }

    [Fact]
    public void What_is_not_cheated_follows_the_scene_also_later()
    {
        Do(Only("dome"), Along(new(0.2, 0, 0), "lamp"));
        Do(Scope.Every, Along(new(5, 0.5, 0), "lamp"));
        Assert.Equal(new(0.2, 1.5, 0), In("dome").Find("lamp")!.Placement.Position);
        Assert.Equal(new(5, 1.5, 0), In("room").Find("lamp")!.Placement.Position);

        // It stands until it is taken back, also where it is the same as the scene's.
        Do(Scope.Every, Along(new(-4.8, 0, 0), "lamp"));
        Assert.Single(_scene.CheatsOf("dome"));
        Do(Scope.Every, new TakeBack("dome", ["lamp"], ["position"]));
        Assert.Empty(_scene.CheatsOf("dome"));
    }

    [Fact]
    public void In_every_shot_what_has_its_own_is_passed_over_and_the_others_go_on()
    {
        Do(Only("dome"), Along(new(0.2, 0, 0), "desk"));
        Do(new("dome"), Along(new(1, 0, 0), "desk", "stool"));
        Assert.Equal(1, _scene.Find("desk")!.Placement.Position.X);
        Assert.Equal(1, _scene.Find("stool")!.Placement.Position.X);
        var refusal = Assert.Throws<Refusal>(() => Do(new("dome"), Along(new(1, 0, 0), "desk")));
        Assert.Equal("“desk” has a position X of its own in 020 Dome. Edit the cheat, take it back, or edit the scene's.", refusal.Message);

        // Along another channel it goes with the others, and a trial says who stays.
        Do(new("dome"), Along(new(0, 1, 0), "desk"));
        Assert.Equal(1, _scene.Find("desk")!.Placement.Position.Y);
        using var evaluator = new Evaluator(In("dome"));
        var trial = new Trial(In("dome"), evaluator, Along(Vec3.Zero, "desk", "stool"), new WorldSpace(), new("dome"));
        trial.Try(new(2, 0, 0));
        Assert.Equal("desk stays: it has of its own in 020 Dome what this would change.", trial.Reading.Warning);
        Assert.Equal(3, evaluator.World("stool").Offset.X);
        Assert.Equal(1.2, evaluator.World("desk").Offset.X, tolerance: 1e-12);
    }

    [Fact]
    public void What_keeps_its_own_can_be_carried_along()
    {
        Do(Only("dome"), Along(new(0.2, 0, 0), "lamp"));
        var (change, _) = Batch.Run(_scene, [Along(new(3, 1, 0), "lamp")]);
        _scene.Apply(change);
        var carry = CarryAlong.Offered(_scene, change, Scope.Every)!;
        Assert.Equal("020 Dome", carry.InWords(_scene));
        Do(Scope.Every, carry);
        Assert.Equal(3.2, In("dome").Find("lamp")!.Placement.Position.X, tolerance: 1e-12);
        Assert.Null(CarryAlong.Offered(_scene, Batch.Run(_scene, [Along(new(1, 0, 0), "stool")]).Change, Scope.Every));
    }

    [Fact]
    public void Putting_under_what_a_shot_has_elsewhere_says_that_it_needs_a_place_of_its_own()
    {
        Do(Only("dome"), Along(new(0.5, 0, 0), "desk"), new Rotate(["desk"], 30, Vec3.UnitY, new OwnSpace(), new AboutOwn()));
        var before = new SceneDraft(In("dome")).World(In("dome").Find("stool")!);
        var (change, _) = Batch.Run(_scene, [new PutUnder(["stool"], "desk")]);
        Assert.Equal([("stool", "020 Dome")], Promises.NewlyCheating(_scene, change).Select(s => (s.Node, s.Shot.Title)));
        _scene.Apply(change);
        Assert.Equal("desk", In("dome").Find("stool")!.Parent);
        Some.Near(before, new SceneDraft(In("dome")).World(In("dome").Find("stool")!));
        Assert.Empty(_scene.CheatsOf("room"));
    }

    [Fact]
    public void Numbers_that_do_not_fit_together_in_a_shot_are_refused_with_its_name()
    {
        Do(Only("dome"), new SetCamera(["eye"], Near: 50));
        var refusal = Assert.Throws<Refusal>(() => Do(Scope.Every, new SetCamera(["eye"], Far: 40)));
        Assert.StartsWith("In 020 Dome: “Eye” needs", refusal.Message, StringComparison.Ordinal);
        Assert.Equal(100, _scene.Find("eye")!.Camera!.Far);
    }

    [Fact]
    public void What_fits_in_a_shot_need_not_fit_in_the_scene()
    {
        Do(Only("dome"), new SetCamera(["eye"], Near: 200, Far: 300));
        Some.Refuses(Refusals.NotUnderstood, () => Do(Scope.Every, new Everywhere("dome", ["eye"], ["camera.near"])));
        Some.Refuses(Refusals.NotUnderstood, () => Do(Scope.Every, new TakeBack("dome", ["eye"], ["camera.far"])));
        Do(Scope.Every, new Everywhere("dome", ["eye"], ["camera"]));
        Assert.Equal((200, 300), (_scene.Find("eye")!.Camera!.Near, _scene.Find("eye")!.Camera!.Far));
    }

    [Fact]
    public void A_thing_is_out_of_one_picture_with_the_reason_and_the_working_view_goes_along()
    {
        Do(Scope.Every, new SeeIn(["dome"], ["set"], false));
        var seen = Seen.Of(In("dome"), In("dome").Find("stool")!);
        Assert.Equal("not in 020 Dome: it is in “Scaffold” only, and “Scaffold” is off there", Assert.Single(seen.Reasons).Text);
        Assert.Equal("set", seen.Reasons[0].Switch);
        Assert.True(Seen.Of(In("room"), _scene.Find("stool")!).Final);
        using var replica = new Replica(_scene);
        replica.SetScope(new("dome"));
        Assert.True(replica.Sight.Of("stool").HasFlag(SightBits.NotInShot));
        Assert.False(replica.Sight.Of("desk").HasFlag(SightBits.NotInShot));
        replica.SetScope(new("dome"), asInShot: false);
        Assert.False(replica.Sight.Of("stool").HasFlag(SightBits.NotInShot));
        replica.SetScope(new("room"));
        Assert.False(replica.Sight.Of("stool").HasFlag(SightBits.NotInShot));
        Assert.Equal(["scene", "off"], SeenInReading.Of(_scene, ["set"]).Select(s => s.State));
        Assert.Equal(["scene", "mixed"], SeenInReading.Of(_scene, ["stool", "set"]).Select(s => s.State));
    }

    [Fact]
    public void A_replica_goes_from_shot_to_shot_and_answers_by_what_is_shown()
    {
        Do(Only("dome"), Along(new(0.2, 0, 0), "desk"));
        using var replica = new Replica(_scene);
        Assert.Equal(1, replica.Evaluator.World("desk").Offset.X);
        replica.SetScope(Only("dome"));
        Assert.Equal(1.2, replica.Evaluator.World("lamp").Offset.X, tolerance: 1e-12);
        replica.Keep([Along(new(1, 0, 0), "lamp")]);
        Assert.Equal(2.2, replica.Evaluator.World("lamp").Offset.X, tolerance: 1e-12);
        Assert.Equal((1, 0), (replica.Versions.Of("dome"), replica.Versions.Of("room")));
        replica.SetScope(Scope.Every);
        Assert.Equal(1, replica.Evaluator.World("lamp").Offset.X);
        Some.Refuses(Refusals.NotFound, () => replica.SetScope(new("none")));
        replica.Keep([Along(new(1, 0, 0), "stool")]);
        Assert.Equal((2, 1), (replica.Versions.Of("dome"), replica.Versions.Of("room")));
    }

    [Fact]
    public void What_is_made_in_one_shot_is_in_no_other_picture()
    {
        Do(Only("dome"), new Duplicate(["desk"], 1, [Along(new(0, 0, 2))], Ids: [["copy"]]));
        Assert.False(_scene.Find("copy")!.Switches.Final);
        Assert.True(In("dome").Find("copy")!.Switches.Final);
        Assert.True(_scene.Find(_scene.Children("copy")[0])!.Switches.Final);
    }

    [Fact]
    public void What_was_removed_comes_back_with_what_shots_had_of_it()
    {
        Do(Only("dome"), Along(new(0.2, 0, 0), "lamp"));
        var cheats = _scene.CheatsOf("dome").ToList();
        Assert.Contains("what it has of its own in 020 Dome goes too", new Remove(["desk"]).Foretell(_scene), StringComparison.Ordinal);
        var (change, _) = Batch.Run(_scene, [new Remove(["desk"])]);
        _scene.Apply(change);
        Assert.Empty(_scene.CheatsOf("dome"));
        _scene.Apply(change.Reversed());
        Assert.Equal(cheats, _scene.CheatsOf("dome"));
        Assert.Contains("2 shots are left without their camera", new Remove(["eye"]).Foretell(_scene), StringComparison.Ordinal);
        Do(Scope.Every, new Remove(["eye"]));
        Assert.StartsWith("Its camera is not in the scene any more.", ShotReading.All(_scene)[0].CameraNote, StringComparison.Ordinal);
    }

    [Fact]
    public void A_constraint_that_is_taken_off_takes_what_shots_had_of_it_along()
    {
        Do(Scope.Every, new Constrain(["stool"], new() { Kind = "follow", Target = "desk" }));
        var entry = _scene.Find("stool")!.Constraints[0].Id;
        Do(Only("dome"), new SetConstraint([new("stool", entry)], Weight: 0.25));
        Assert.Equal($"constraint:{entry}.weight", Assert.Single(_scene.CheatsOf("dome")).Channel);
        Assert.Equal(0.25, In("dome").Find("stool")!.Constraints[0].Weight);
        Some.Refuses(Refusals.EveryShotOnly, () => Do(Only("dome"), new Unconstrain([new("stool")])));
        Do(Scope.Every, new Unconstrain([new("stool")]));
        Assert.Empty(_scene.CheatsOf("dome"));

        // Another kind has offsets of its own.
        Do(Scope.Every, new Constrain(["stool"], new() { Kind = "follow", Id = "link", Target = "desk" }));
        Do(Only("dome"), Along(new(-3, 0, 0), "stool"));
        Assert.Equal("constraint:link.offset", Assert.Single(_scene.CheatsOf("dome")).Channel);
        Do(Scope.Every, new SetConstraint([new("stool", "link")], Kind: "matchScale"));
        Assert.DoesNotContain(_scene.CheatsOf("dome"), c => c.Channel == "constraint:link.offset");
        Assert.Equal(-3, new SceneDraft(In("dome")).World(In("dome").Find("stool")!).Offset.X, tolerance: 1e-9);
    }

    [Fact]
    public void Shots_are_numbered_by_tens_with_room_between_and_keep_their_numbers()
    {
        Do(Scope.Every, new MakeShot(new("between", Index: 1)), new MakeShot(new("last")));
        Assert.Equal(["010", "015", "020", "030"], _scene.AllShots().Select(s => s.Number));
        Do(Scope.Every, new SetShot("last", Index: 0));
        Assert.Equal(["030", "010", "015", "020"], _scene.AllShots().Select(s => s.Number));
        Do(Scope.Every, new CopyShot("room", "split", SplitAt: 100));
        Assert.Equal((100, 44), (_scene.FindShot("room")!.Frames, _scene.FindShot("split")!.Frames));
        Some.Refuses(Refusals.NotUnderstood, () => Do(Scope.Every, new CopyShot("room", SplitAt: 100)));
        var readings = ShotReading.All(_scene);
        Assert.Equal([1, 97, 197, 241, 337], readings.Select(r => r.First));
        Assert.Equal("00:00:04:01", readings[1].Code);
    }

    [Theory]
    [InlineData("96", 24, 96)]
    [InlineData(" 4s ", 24, 96)]
    [InlineData("1.5 s", 30, 45)]
    [InlineData("2:12", 24, 60)]
    [InlineData("1:00:00", 25, 1500)]
    [InlineData("4 s · 96", 24, 96)]
    [InlineData("0.04 s · 1", 24, 1)]
    public void Lengths_are_typed_as_frames_or_as_time(string text, double fps, int frames) => Assert.Equal(frames, FrameTime.Read(text, fps));

    [Fact]
    public void A_length_that_is_shown_is_understood_as_what_it_is()
    {
        var random = new Random(4);
        for (var i = 0; i < 2_000; i++)
        {
            var (frames, fps) = (random.Next(1, 100_000), new[] { 12, 23.976, 24, 25, 29.97, 30, 60, 120 }[random.Next(8)]);
            Assert.Equal(frames, FrameTime.Read(FrameTime.Say(frames, fps), fps));
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData("0")]
    [InlineData("-3")]
    [InlineData("1.5")]
    [InlineData("2:24")]
    [InlineData("1:60:00")]
    [InlineData("1:2:3:4:5")]
    [InlineData("9999999999s")]
    [InlineData("NaN")]
    [InlineData("soon")]
    [InlineData("5 s · 96")]
    [InlineData("4 s · 96 · 1")]
    public void What_is_no_length_is_refused(string text) => Some.Refuses(Refusals.NotUnderstood, () => FrameTime.Read(text, 24));

    [Theory]
    [InlineData("1.5")]
    [InlineData("[1,2,3]")]
    [InlineData("true")]
    [InlineData("\"#FFCC88\"")]
    [InlineData("""{"angles":[0,90,0],"order":"XZY"}""")]
    public void Values_go_through_JSON_and_back(string json) => Assert.Equal(json, WireJson.Write(WireJson.Read<CheatValue>(json)));

    [Theory]
    [InlineData("null")]
    [InlineData("1e999")]
    [InlineData("[1,\"a\"]")]
    [InlineData("""{"angles":[0,90],"order":"XYZ"}""")]
    [InlineData("""{"angles":[0,90,0],"order":"4"}""")]
    public void What_is_no_value_is_not_read(string json) => Assert.ThrowsAny<Exception>(() => WireJson.Read<CheatValue>(json)!.Numbers.Length);
}
