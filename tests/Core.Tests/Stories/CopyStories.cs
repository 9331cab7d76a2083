using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>A chair with its cushion, copied in rows, rings and grids; and pasted elsewhere.</summary>
public sealed class CopyStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("chair", null, Placement.Default with { Position = new(3, 0, 0) }, 1) with { Name = "Chair 01" },
        Some.Box("cushion", "chair", Placement.Default with { Position = new(0, 1, 0) }),
        Some.Box("desk", null, rank: 2));

    [Fact]
    public void What_left_those_it_shared_with_is_not_shared_with_them_again_by_its_copies()
    {
        var scene = Some.Scene(
            Some.Box("cup", null, rank: 1) with { Shares = "cup" },
            Some.Box("mug", null, rank: 2) with { Shares = "cup" },
            Some.Box("jug", null, rank: 3) with { Shares = "cup" });
        scene.Keep(new Unshare(["cup"]));
        scene.Keep(new Duplicate(["cup"], Sharing: true, Ids: [["copy"]]));
        scene.Keep(new Paste(SceneText.Read(SceneText.Write(new(scene), ["mug", "jug"])), ["cup-3", "cup-4"]));
        Assert.Equal(scene.Find("cup")!.Shares, scene.Find("copy")!.Shares);
        Assert.NotEqual(scene.Find("mug")!.Shares, scene.Find("cup")!.Shares);
        scene.Keep(new SetShape("copy", new() { Size = [5, 5, 5] }));
        Assert.Equal(scene.Find("mug")!.Shape, scene.Find("jug")!.Shape);
        Assert.NotEqual(scene.Find("cup")!.Shape, scene.Find("jug")!.Shape);
    }

    [Fact]
    public void The_former_words_for_sharing_are_understood_as_well()
    {
        var scene = Some.Scene(Some.Box("cup", null, rank: 1));
        scene.Keep(CalmPivot.Core.Wire.WireJson.Read<Edit>("""{"do":"duplicate","nodes":["cup"],"linked":true,"ids":[["copy"]]}"""));
        Assert.NotNull(scene.Find("cup")!.Shares);
        Assert.Equal(scene.Find("cup")!.Shares, scene.Find("copy")!.Shares);
        scene.Keep(CalmPivot.Core.Wire.WireJson.Read<Edit>("""{"do":"unlink","nodes":["copy"]}"""));
        Assert.Null(scene.Find("copy")!.Shares);
    }

    [Fact]
    public void A_copy_of_what_is_locked_is_not_locked()
    {
        var scene = Some.Scene(Some.Box("wall", null, rank: 1), Some.Box("hook", "wall", rank: 1));
        scene.Keep(new Gather("Built in", "built", Nodes: ["wall"]), new LockNodes(["wall", "hook", "built"], true));
        var wall = scene.Find("wall");
        scene.Keep(new Duplicate(["wall"], By: [new Move(["wall"], new(1, 0, 0), new WorldSpace())], Ids: [["copy"]]));
        Assert.Same(wall, scene.Find("wall"));
        Assert.All(scene.Branch("copy"), n => Assert.False(n.Switches.Locked));
        Assert.Empty(scene.Find("copy")!.Collections);
        Assert.Equal(new(1, 0, 0), scene.World("copy").Offset);
        scene.Keep(new Paste(Wire.SceneText.Read(Wire.SceneText.Write(new(scene), ["wall"])), ["pasted"]));
        Assert.False(scene.Find("pasted")!.Switches.Locked);
    }

    [Fact]
    public void Twelve_chairs_stand_in_a_ring()
    {
        _scene.Keep(new Duplicate(["chair"], 11, [new Rotate([], 30, Vec3.UnitY, new WorldSpace(), new AboutZero())], Ids: Ids(11)));
        string[] chairs = ["chair", .. Enumerable.Range(0, 11).Select(i => $"copy{i}")];
        Assert.Equal([.. chairs, "desk"], _scene.Children(null));
        Assert.Equal([.. Enumerable.Range(1, 12).Select(i => $"Chair {i:D2}")], chairs.Select(id => _scene.Find(id)!.Name));
        for (var i = 0; i < 12; i++)
        {
            var turned = Affine.About(Vec3.Zero, Mat3.Rotation(Vec3.UnitY, 30 * i));
            Some.Near(turned * _scene.World("chair"), _scene.World(chairs[i]));
            Some.Near(turned * _scene.World("cushion"), _scene.World(_scene.Children(chairs[i])[0]));
        }
    }

    [Fact]
    public void A_ring_about_the_middle_of_what_is_copied_has_one_middle()
    {
        // The bounds of chair, cushion and desk together; those of a turned copy would have another middle.
        _scene.Keep(new Duplicate(["chair", "desk"], 3, [new Rotate([], 90, Vec3.UnitY, new WorldSpace(), new AboutBounds())], Ids: Pairs(3)));
        var middle = new Vec3(1.5, 0.5, 0);
        for (var i = 0; i < 3; i++)
        {
            var turned = Affine.About(middle with { Y = 0 }, Mat3.Rotation(Vec3.UnitY, 90 * (i + 1)));
            Some.Near(turned * _scene.World("chair"), _scene.World($"c{i}"));
            Some.Near(turned * _scene.World("desk"), _scene.World($"d{i}"));
        }

        static string[][] Pairs(int count) => [.. Enumerable.Range(0, count).Select(i => new[] { $"c{i}", $"d{i}" })];
    }

    [Fact]
    public void A_spiral_about_the_mean_goes_about_that_of_the_originals()
    {
        By(new AboutMean(), "m");
        By(new AboutPoint(new(1.5, 0, 0)), "p");
        for (var i = 0; i < 3; i++)
        {
            Some.Near(_scene.World($"p{i}"), _scene.World($"m{i}"));
        }

        void By(About about, string name) => _scene.Keep(new Duplicate(
            ["chair", "desk"],
            3,
            [new Move([], new(0, 1, 0), new WorldSpace()), new Rotate([], 40, Vec3.UnitY, new WorldSpace(), about)],
            Ids: [.. Enumerable.Range(0, 3).Select(i => new[] { $"{name}{i}", $"{name}{i}-desk" })]));
    }

    [Fact]
    public void What_happens_from_copy_to_copy_is_said_without_the_name_whatever_it_is()
    {
        _scene.Keep(new Rename("desk", "m"));
        var said = new Duplicate(["desk"], 2, [new Move([], new(1, 0, 0), new WorldSpace())]).Say(new Speaker(_scene));
        Assert.Equal("Made 2 copies of m, each next one moved +1 m along the world's X", said);
    }

    [Fact]
    public void The_usual_step_sets_a_copy_beside_its_original()
    {
        Assert.Equal(1.2, Duplicate.UsualStep(_scene, ["desk"]), tolerance: 1e-12);
        Assert.Equal(4.8, Duplicate.UsualStep(_scene, ["desk", "chair"]), tolerance: 1e-12);
        Assert.Equal(1, Duplicate.UsualStep(_scene, ["gone"]));
        _scene.With("desk", p => p with { Scale = new(1e-6, 1, 1) });
        Assert.Equal(0.1, Duplicate.UsualStep(_scene, ["desk"]));
    }

    [Fact]
    public void A_row_repeated_across_is_a_grid_and_several_steps_make_a_spiral()
    {
        Move Along(double x, double z) => new([], new(x, 0, z), new WorldSpace());
        _scene.Keep(new Duplicate(["desk"], 2, [Along(2, 0)], new(1, [Along(0, 5)])));
        var places = _scene.Children(null).Where(id => id != "chair").Select(id => _scene.Find(id)!.Placement.Position).ToList();
        Assert.Equal([new(0, 0, 0), new(2, 0, 0), new(4, 0, 0), new(0, 0, 5), new(2, 0, 5), new Vec3(4, 0, 5)], places);

        _scene.Keep(new Duplicate(["chair"], 2, [Along(0, 1), new Scale([], new(0.5, 0.5, 0.5), new WorldSpace(), new AboutOwn())], Ids: Ids(2)));
        Assert.Equal(0.25, _scene.Find("copy1")!.Placement.Scale.X, tolerance: 1e-12);
        Assert.Equal(new Vec3(3, 0, 2), _scene.Find("copy1")!.Placement.Position);
    }

    [Fact]
    public void Copies_that_share_share_their_shape_until_it_is_made_their_own()
    {
        _scene.Keep(new Duplicate(["chair"], 1, Sharing: true, Ids: Ids(1)));
        _scene.Keep(new SetShape("copy0", new() { Size = [5, 5, 5] }));
        Assert.Equal(_scene.Find("copy0")!.Shape, _scene.Find("chair")!.Shape);
        Assert.Equal(new Box(new Vec3(5, 5, 5)), _scene.Find("chair")!.Shape);
        Assert.Equal(["chair", "copy0"], Sharing.With(_scene, _scene.Find("chair")!).Select(n => n.Id));

        _scene.Keep(new SetNormals(["chair"], SurfaceLook.Facets));
        Assert.NotNull(_scene.Find("copy0")!.Normals);
        _scene.Keep(new Unshare(["copy0"]));
        Assert.Null(_scene.Find("chair")!.Shares);
        _scene.Keep(new SetShape("copy0", new() { Size = [1, 1, 1] }));
        Assert.Equal(new Box(new Vec3(5, 5, 5)), _scene.Find("chair")!.Shape);
        Assert.NotNull(_scene.Find("cushion")!.Shares);
    }

    [Fact]
    public void A_copied_branch_keeps_its_relations_to_itself()
    {
        _scene.Keep(new Duplicate(["cushion"], 1, Sharing: true, Ids: [["pillow"]]));
        _scene.Keep(new Duplicate(["chair"], 1, Ids: Ids(1)));
        var copies = _scene.Children("copy0").Select(id => _scene.Find(id)!).ToList();
        Assert.Equal(2, copies.Count);
        Assert.Equal(copies[0].Shares, copies[1].Shares);
        Assert.NotEqual(_scene.Find("cushion")!.Shares, copies[0].Shares);
        Assert.Equal(["cushion", "cushion 2"], copies.Select(n => n.Name));
    }

    [Fact]
    public void A_mirrored_counterpart_is_one_copy_across_a_plane()
    {
        _scene.Keep(new Duplicate(["chair"], 1, [new Mirror([], Vec3.UnitX, new WorldSpace(), new AboutZero())], Ids: Ids(1)));
        Some.Near(new Vec3(-3, 0, 0), _scene.World("copy0").Offset);
        Assert.True(_scene.World("copy0").Linear.Determinant < 0);
    }

    [Fact]
    public void Copies_are_shown_before_they_are_made_with_the_way_from_their_original()
    {
        var draft = Batch.Draft(_scene, [new Duplicate(["chair"], 2, [new Move([], new(1, 0, 0), new WorldSpace())])]);
        var ghosts = Ghost.Of(_scene, draft);
        Assert.Equal(["chair", "cushion", "chair", "cushion"], ghosts.Select(g => g.LooksLike));
        Assert.Equal([new Vec3(3, 0, 0), null, new Vec3(3, 0, 0), null], ghosts.Select(g => g.From));
        Assert.Equal([4, 4, 5, 5], ghosts.Select(g => g.Pivot.X));
        Assert.Equal(3, _scene.Count);
    }

    [Fact]
    public void Too_many_are_refused_with_the_way_on()
    {
        var refusal = _scene.Refused(new Duplicate(["chair"], 100_000));
        Assert.Equal(Refusals.TooLarge, refusal.Word);
        Assert.Contains("200000 new objects", refusal.Message, StringComparison.Ordinal);
        Assert.Contains("at most 5000 copies now", refusal.Message, StringComparison.Ordinal);
        Assert.Equal(Refusals.TooLarge, _scene.Refused(new Duplicate(["chair"], int.MaxValue, null, new(int.MaxValue, []))).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Duplicate(["chair"], 0)).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Duplicate(["chair"], 2, Ids: Ids(1))).Word);
        Assert.Contains("moved, rotated", _scene.Refused(new Duplicate(["chair"], 1, [new Rename("x", "y")])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Copies_come_through_their_json_and_the_sentence_says_them()
    {
        const string Json = """{"do":"duplicate","nodes":["chair"],"count":2,"by":{"do":"move","by":[1,0,0],"space":{"kind":"world"}},"across":{"count":1,"by":[{"do":"move","by":[0,0,1],"space":{"kind":"world"}}]}}""";
        var edit = Assert.IsType<Duplicate>(WireJson.Read<Edit>(Json));
        Assert.Equal(5, edit.Copies);
        Assert.Equal("Made 5 copies of Chair 01 with 1 below it, each next one moved +1 m along the world's X", edit.Say(new Speaker(_scene)));
        var again = WireJson.Write<Edit>(edit);
        _scene.Keep(WireJson.Read<Edit>(again));
        Assert.Equal(3 + 10, _scene.Count);
        Some.Refuses(Refusals.NotUnderstood, () => WireJson.Read<Edit>(Json.Replace("\"by\":[1", "\"nodes\":[],\"by\":[1", StringComparison.Ordinal)));
    }

    [Fact]
    public void What_is_copied_is_pasted_where_it_stood_in_another_scene()
    {
        _scene.Keep(new Gather("Set", "set", Nodes: ["cushion"]));
        var text = SceneText.Write(new SceneDraft(_scene), ["cushion", "desk"]);
        var other = Some.Scene(Some.Box("floor", null, Placement.Default with { Position = new(1, 2, 3), Rotation = new(0, 40, 0) }));
        other.Keep(new Paste(SceneText.Read(text), ["a", "b"], "floor"));
        Some.Near(_scene.World("cushion"), other.World("a"));
        Some.Near(_scene.World("desk"), other.World("b"));
        Assert.Equal(["a", "b"], other.Children("floor"));
        Assert.Empty(other.Find("a")!.Collections);

        _scene.Keep(new Paste(SceneText.Read(SceneText.Write(new SceneDraft(_scene), ["chair"]))));
        Assert.Equal(["Chair 01", "desk", "Chair 02"], _scene.Children(null).Select(id => _scene.Find(id)!.Name));
        Assert.Equal("set", Assert.Single(_scene.Find(_scene.Children(_scene.Children(null)[2])[0])!.Collections));
    }

    [Theory]
    [InlineData("a shopping list")]
    [InlineData("{}")]
    [InlineData("{\"calmPivot\":7,\"nodes\":[],\"worlds\":[]}")]
    [InlineData("[1,2]")]
    public void Foreign_text_is_refused_in_a_sentence(string text) =>
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => SceneText.Read(text)).Word);

    [Fact]
    public void A_damaged_copy_is_refused_whole()
    {
        var copied = SceneText.Read(SceneText.Write(new SceneDraft(_scene), ["chair"]));
        var damaged = new[]
        {
            copied with { Worlds = [] },
            copied with { Nodes = [copied.Nodes[1], copied.Nodes[0]] },
            copied with { Nodes = [copied.Nodes[0], copied.Nodes[0]] },
            copied with { Nodes = [new(copied.Nodes[0].Node with { Shape = null })] },
            copied with { Nodes = [new(copied.Nodes[0].Node with { Kind = NodeKind.Mark })] },
            copied with { Nodes = [new(copied.Nodes[0].Node with { Kind = NodeKind.Mesh, Shape = null, Geometry = "unknown" })] },
        };
        Assert.All(damaged, d => _scene.Refused(new Paste(d)));
    }

    private static string[][] Ids(int count) => [.. Enumerable.Range(0, count).Select(i => new[] { $"copy{i}" })];
}
