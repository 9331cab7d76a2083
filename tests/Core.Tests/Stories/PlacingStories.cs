using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Placing as it is asked for in calls and at the panels: refusals, sentences, text for the clipboard, stray pivots.</summary>
public sealed class PlacingStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("desk", null),
        Some.Box("lamp", "desk", Placement.Default with { Position = new(0, 2, 0) }),
        Some.Box("globe", null, Placement.Default with { Position = new(5, 0, 0) }, 1));

    [Fact]
    public void Standing_on_top_and_centred_is_one_edit()
    {
        _scene.Keep(Read("""
            {"do":"align","nodes":["globe"],"to":"lamp","space":{"kind":"world"},
             "axes":{"x":{"from":"middle","to":"middle"},"y":{"from":"min","to":"max"},"z":{"from":"pivot","to":"pivot"}}}
            """));
        Some.Near(new Vec3(0, 4, 0), _scene.World("globe").Offset);
    }

    [Fact]
    public void A_block_keeps_its_distances_and_the_targets_own_riders_do_not_count()
    {
        var scene = Some.Scene(
            Some.Box("desk", null),
            Some.Box("a", "desk", Placement.Default with { Position = new(0, 9, 0) }),
            Some.Box("b", null, Placement.Default with { Position = new(3, 20, 0) }, 1));
        scene.Keep(new Align(["a", "b"], "desk", new(Y: new(AlignPlace.Min, AlignPlace.Max)), new WorldSpace(), MoveAs.Block));
        Assert.Equal(2, scene.World("a").Offset.Y, 1e-12);
        Assert.Equal(13, scene.World("b").Offset.Y, 1e-12);
    }

    [Fact]
    public void Nothing_can_be_aligned_to_what_rides_on_it()
    {
        var refusal = _scene.Refused(new Align(["desk"], "lamp", new(X: new(AlignPlace.Min, AlignPlace.Min)), new WorldSpace()));
        Assert.Equal(Refusals.WouldLoop, refusal.Word);
        Assert.Contains("desk", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Locked_things_are_neither_aligned_nor_set_nor_dropped()
    {
        _scene.Keep(new LockNodes(["globe"], true));
        Edit[] edits =
        [
            new Align(["globe"], "desk", new(X: new(AlignPlace.Min, AlignPlace.Min)), new WorldSpace()),
            new SetChannel(["globe"], ChannelName.Position, [1, null, null]),
            new Drop(["globe"]),
            new Bring(["globe"], new("desk")),
            new Mirror(["globe"], Vec3.UnitX, new WorldSpace(), new AboutZero()),
            new SetOrder(["globe"], EulerOrder.ZYX),
            new DropShear(["globe"]),
            new SetTakes(["globe"], new(Rotation: false)),
        ];
        Assert.All(edits, edit => Assert.Equal(Refusals.Locked, _scene.Refused(edit).Word));
    }

    [Theory]
    [InlineData("""{"do":"set","nodes":["globe"],"channel":"scale","values":[0,null,null]}""", Refusals.ZeroScale)]
    [InlineData("""{"do":"set","nodes":["globe"],"channel":"size","values":[0,null,null]}""", Refusals.ZeroScale)]
    [InlineData("""{"do":"set","nodes":["globe"],"channel":"position","values":[1,2]}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"set","nodes":["globe"],"channel":"position","values":[1e999,2,3]}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"set","nodes":[],"channel":"position","values":[1,2,3]}""", Refusals.NothingPicked)]
    [InlineData("""{"do":"spread","nodes":["globe","desk"],"along":"x","space":{"kind":"world"},"equal":"gaps"}""", Refusals.NothingPicked)]
    [InlineData("""{"do":"rotate","nodes":["globe"],"by":5,"axis":[1,1,0],"space":{"kind":"channels"},"about":{"kind":"own"}}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"move","nodes":["globe"],"by":[1,0,0],"space":{"kind":"channels"}}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"move","nodes":["globe"],"by":[1,0,0],"space":{"kind":"mark","mark":"gone"}}""", Refusals.NotFound)]
    [InlineData("""{"do":"mirror","nodes":["globe"],"axis":[0,0,0],"space":{"kind":"world"},"about":{"kind":"zero"}}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"rotate","nodes":["globe"],"by":5,"axis":"x","space":{"kind":"surface","y":[0,0,0]},"about":{"kind":"own"}}""", Refusals.NotUnderstood)]
    [InlineData("""{"do":"bring","nodes":["globe"],"to":{"node":"globe"}}""", Refusals.WouldLoop)]
    [InlineData("""{"do":"follow","mark":"globe","node":null}""", Refusals.NotFound)]
    public void What_cannot_be_done_is_refused_and_nothing_changes(string json, string word)
    {
        var before = _scene.Nodes.ToList();
        Assert.Equal(word, Assert.Throws<Refusal>(() => _scene.Keep(Read(json))).Word);
        Assert.Equal(before, _scene.Nodes);
    }

    [Fact]
    public void A_size_cannot_be_given_to_what_has_no_thickness()
    {
        var plane = Some.Box("plane", null) with { Shape = new Plane(1, 1, 1) };
        var scene = Some.Scene(plane);
        Assert.Contains("no extent along its Y", scene.Refused(new SetChannel(["plane"], ChannelName.Size, [null, 1, null])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Every_edit_says_itself()
    {
        _scene.Apply(new([new("mark", null, Some.Mark("Ramp", null, Vec3.Zero, Vec3.Zero) with { Id = "mark" })]));
        var say = new Speaker(_scene);
        var said = new Edit[]
        {
            new Align(["globe"], "desk", new(Y: new(AlignPlace.Min, AlignPlace.Max)), new WorldSpace(), Rotation: true),
            new Spread(["globe", "desk", "lamp"], SpreadAlong.Line, new WorldSpace(), SpreadEqual.Pivots),
            new Drop(["globe", "lamp"], By: DropBy.Pivot, As: MoveAs.Block),
            new Mirror(["globe"], Vec3.UnitX, new MarkSpace("mark"), new AboutMark("mark"), MirrorHow.Turn),
            new SetChannel(["globe"], ChannelName.Position, [1, null, 2], In: ReadIn.World),
            new SetChannel(["globe"], ChannelName.Scale, [2, 2, 2], AmountMode.Multiply),
            new Bring(["globe"], new(Mark: "mark"), Rotation: true),
            new MovePivot(["globe"], Shift: new(new(0.5, 0, 0), new OwnSpace())),
            new MovePivot(["globe"], Spin: new(15, Vec3.UnitY, new WorldSpace())),
            new MovePivot(["globe"], new(Node: "desk")),
            new SetOrder(["globe"], EulerOrder.ZYX),
            new SetTakes(["globe"], new(Rotation: false)),
            new FollowNode("mark", "desk"),
        }.Select(e => e.Say(say));
        Assert.Equal(
            [
                "Aligned globe to desk: Y low to high, rotation",
                "Spread 3 objects along the line from the first to the last, with equal steps between pivots",
                "Dropped 2 objects, by the pivot, as one block",
                "Mirrored globe about the mark Ramp, across the mark Ramp's X, position and heading only",
                "Set the position of globe in the world to X 1 m, Z 2 m",
                "Changed the scale of globe by X × 2, Y × 2, Z × 2",
                "Brought globe to the mark Ramp, turned with it",
                "Moved the pivot of globe +0.5 m along its own X",
                "Turned the pivot of globe +15° along the world's Y",
                "Put the pivot of globe at desk's pivot",
                "Read the rotation of globe in the order ZYX",
                "globe: leaves its parent's rotation",
                "Let the mark Ramp follow desk",
            ],
            said);
    }

    [Fact]
    public void A_placement_goes_to_a_spreadsheet_and_back()
    {
        _scene.With("lamp", p => p with { Position = new(0.1, -2, 3e-7), Rotation = new(400, 12.5, -90), Scale = new(1, 2, -3) });
        var text = PlacementText.Write(_scene.Find("lamp")!.Placement);
        Assert.Equal("position\t0.1\t-2\t3E-07\nrotation\t400\t12.5\t-90\nscale\t1\t2\t-3", text);
        _scene.Keep([.. PlacementText.Read(text, ["globe"])]);
        Assert.Equal(_scene.Find("lamp")!.Placement with { }, _scene.Find("globe")!.Placement);
        _scene.Keep([.. PlacementText.Read("1; 2; 3", ["globe"], ChannelName.Rotation)]);
        Assert.Equal(new Vec3(1, 2, 3), _scene.Find("globe")!.Placement.Rotation);
        Assert.All(["", "hello", "position 1 2", "turn 1 2 3", "position 1 2 x", "1 2 3 4 5"], bad => Some.Refuses(Refusals.NotUnderstood, () => PlacementText.Read(bad, ["globe"])));
    }

    [Fact]
    public void Pivots_away_from_what_they_turn_are_found_and_mended()
    {
        _scene.With("globe", p => p with { Pivot = new(0.9, 0, 0), Position = p.Position + new Vec3(0.9, 0, 0) });
        _scene.With("lamp", p => p with { Pivot = new(30, 0, 0), Position = p.Position + new Vec3(30, 0, 0) });
        var strays = PivotCheck.Of(_scene);
        Assert.Equal(["lamp", "globe"], strays.Select(s => s.Node));
        Assert.Equal([true, false], strays.Select(s => s.Far));
        Assert.Equal(0.4, strays[1].Away, 1e-9);
        var world = _scene.World("lamp");
        _scene.Keep(new MovePivot([.. strays.Select(s => s.Node)], new(new Vec3(0, -1, 0))));
        Assert.Empty(PivotCheck.Of(_scene));
        Some.Near(world, _scene.World("lamp"));
    }

    [Fact]
    public void Equal_values_are_shown_and_differing_ones_are_mixed()
    {
        var common = CommonChannels.Of(new SceneDraft(_scene), ["lamp", "globe"], world: true, size: true);
        Assert.Equal([null, null, 0.0], common.Position);
        Assert.Equal([0.0, 0, 0], common.Rotation);
        Assert.Equal([1.0, 2, 3], common.Size);
        Assert.Equal(EulerOrder.XYZ, common.Order);
    }

    [Fact]
    public void Pressed_near_a_vertex_or_an_edge_the_mean_of_its_faces_counts()
    {
        // Two faces of a roof: one looks to +X and up, the other to −X and up.
        double[] roof = [0, 1, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 0, 1, 0, -1, 0, 0];
        var onFace = Faces.Pressed(Affine.Identity, roof, new(0.5, 0.5, 0.2), 0.05);
        Assert.Equal(SurfacePart.Face, onFace.Part);
        Some.Near(new Vec3(1, 1, 0).Unit(), onFace.Upright);
        var onRidge = Faces.Pressed(Affine.Identity, roof, new(0.01, 0.99, 0.3), 0.05);
        Assert.Equal(SurfacePart.Edge, onRidge.Part);
        Some.Near(Vec3.UnitY, onRidge.Upright);
        Some.Near(new Vec3(0, 1, 0.3), onRidge.Point);
        var amid = Faces.Pressed(Affine.Identity, roof, new(0.01, 0.99, 0.49), 0.05);
        Assert.Equal(SurfacePart.Middle, amid.Part);
        Some.Near(new Vec3(0, 1, 0.5), amid.Point);
        var onTip = Faces.Pressed(Affine.Identity, roof, new(0.01, 0.99, 0.01), 0.05);
        Assert.Equal(SurfacePart.Vertex, onTip.Part);
        Assert.Equal(Vec3.Zero, Faces.Mean([
            (Affine.Identity, Vec3.Zero, Vec3.UnitX, Vec3.UnitY),
            (Affine.Identity, Vec3.Zero, Vec3.UnitY, Vec3.UnitX)]));
    }

    private static Edit Read(string json) => WireJson.Read<Edit>(json);
}
