using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What panels read and type: channels in the parent and in the world, text for the clipboard, edits on the wire.</summary>
public sealed class ChannelLaws
{
    [Fact]
    public void Without_a_parent_the_world_reads_as_stored() =>
        Some.TakingChains.Sample(scene =>
        {
            var draft = new SceneDraft(scene);
            var (stored, world) = (Channels.Of(draft, draft.Get("other"), false), Channels.Of(draft, draft.Get("other"), true));
            Some.Near(stored.Position, world.Position);
            Some.Near(stored.Scale, world.Scale, 1e-8);
            Some.Near(stored.Size, world.Size, 1e-8);
            var order = draft.Get("other").Placement.Order;
            Assert.True(Euler.ToMatrix(stored.Rotation, order).Distance(Euler.ToMatrix(world.Rotation, order)) < 1e-7);
        });

    [Fact]
    public void The_scale_in_the_world_spans_the_volume_that_the_world_matrix_does() =>
        Some.TakingChains.Sample(scene =>
        {
            var draft = new SceneDraft(scene);
            var scale = Channels.WorldScale(draft, draft.Get("child"));
            var volume = draft.World(draft.Get("child")).Linear.Determinant;
            Assert.Equal(1, scale.X * scale.Y * scale.Z / volume, 1e-6);
        });

    [Fact]
    public void Scaling_by_one_edit_scales_the_reading_and_the_size_alike() =>
        Gen.Select(Some.TakingChains, Some.Factors).Sample((scene, factors) =>
        {
            var before = Channels.Of(new SceneDraft(scene), scene.Find("child")!, world: true);
            try
            {
                scene.Keep(new Scale(["child"], factors, new OwnSpace(), new AboutOwn()));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.Equal(Refusals.TooThin, refusal.Word);
                return;
            }

            var after = Channels.Of(new SceneDraft(scene), scene.Find("child")!, world: true);
            Some.Near(before.Scale.Times(factors), after.Scale, 1e-6);
            Some.Near(before.Size.Times(factors.Map(Math.Abs)), after.Size, 1e-6);
        });

    [Fact]
    public void Setting_what_is_read_changes_nothing() =>
        Gen.Select(Some.TakingChains, Gen.Bool, Gen.Int[0, 3]).Sample((scene, world, which) =>
        {
            var before = scene.World("child");
            var read = Channels.Of(new SceneDraft(scene), scene.Find("child")!, world);
            var values = which switch { 0 => read.Position, 1 => read.Rotation, 2 => read.Scale, _ => read.Size };
            double?[] set = [values.X, values.Y, values.Z];
            scene.Keep(new SetChannel(["child"], (ChannelName)which, set, In: world ? ReadIn.World : ReadIn.Parent));
            Some.Near(before, scene.World("child"), 1e-5);
        });

    [Fact]
    public void A_placement_survives_the_clipboard_to_the_bit() =>
        Gen.Select(Some.Placements, Some.Placements).Sample((from, to) =>
        {
            var scene = Some.Scene(Some.Box("from", null, from), Some.Box("to", null, to, 1));
            scene.Keep([.. PlacementText.Read(PlacementText.Write(from), ["to"])]);
            var after = scene.Find("to")!.Placement;
            Assert.Equal(to with { Position = from.Position, Rotation = from.Rotation, Scale = from.Scale }, after);
        });

    /// <summary>What a placement is written as; in every other one a character is typed over.</summary>
    private static readonly Gen<string> Mistyped = Gen.Select(Some.Placements, Gen.Double[0, 2], Gen.Char["0123456789"]).Select((placement, at, instead) =>
    {
        var text = PlacementText.Write(placement).ToCharArray();
        if (at < 1)
        {
            text[(int)(at * text.Length)] = instead;
        }

        return new string(text);
    });

    [Fact]
    public void No_text_makes_anything_but_an_edit_or_a_refusal() =>
        Gen.OneOf(Gen.String, Gen.Char["position\t 0123456789.,;-eE\n"].Array[0, 40].Select(c => new string(c)), Mistyped).Sample(text =>
        {
            try
            {
                Assert.NotEmpty(PlacementText.Read(text, ["a"]));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.Equal(Refusals.NotUnderstood, refusal.Word);
            }
        });

    [Fact]
    public void What_many_have_in_common_is_what_each_of_them_has() =>
        Gen.Select(Some.TakingChains, Gen.Bool).Sample((scene, world) =>
        {
            var draft = new SceneDraft(scene);
            string[] ids = ["grand", "other"];
            var common = CommonChannels.Of(draft, ids, world, size: true);

            // The two stand alike, and have no parent.
            var one = Channels.Of(draft, draft.Get("grand"), world);
            Some.Near(one.Position, new(common.Position[0]!.Value, common.Position[1]!.Value, common.Position[2]!.Value));
            Some.Near(one.Scale, new(common.Scale[0]!.Value, common.Scale[1]!.Value, common.Scale[2]!.Value));
            scene.Keep(new SetChannel(["other"], ChannelName.Position, [null, 1, null], AmountMode.Add));
            var apart = CommonChannels.Of(new SceneDraft(scene), ids, world, size: true);
            Assert.Null(apart.Position[1]);
            Assert.NotNull(apart.Position[0]);
        });

    [Fact]
    public void Every_placing_edit_comes_through_the_wire_unchanged() =>
        Gen.Select(Edits, Some.Point).Sample((edit, _) =>
        {
            var json = WireJson.Write<Edit>(edit);
            var read = WireJson.Read<Edit>(json);
            Assert.Equal(edit.GetType(), read.GetType());
            Assert.Equal(json, WireJson.Write<Edit>(read));
        });

    [Fact]
    public void Null_need_not_be_written()
    {
        Assert.Null(((FollowNode)WireJson.Read<Edit>("""{"do":"follow","mark":"m"}""")).Node);
        Assert.Null(((PutUnder)WireJson.Read<Edit>("""{"do":"putUnder","nodes":["a"]}""")).Parent);
    }

    private static Gen<Edit> Edits { get; } =
        Gen.Select(Gen.Int[0, 12], Some.Point, Some.Direction, Gen.Bool, (int kind, Vec3 by, Vec3 axis, bool flag) => kind switch
        {
            0 => new Mirror(["a"], axis, new MarkSpace("m"), new AboutMark("m"), flag ? MirrorHow.Turn : MirrorHow.Mirror),
            1 => new Align(["a", "b"], "c", new(X: new(AlignPlace.Min, AlignPlace.Pivot)), new WorldSpace(), flag ? MoveAs.Block : MoveAs.Each, flag),
            2 => new Spread(["a", "b", "c"], SpreadAlong.Line, new LeadSpace(), flag ? SpreadEqual.Gaps : SpreadEqual.Pivots),
            3 => new Drop(["a"], flag ? axis : null, DropBy.Pivot),
            4 => new SetChannel(["a"], ChannelName.Size, [by.X, null, by.Z], AmountMode.Multiply, ReadIn.World),
            5 => new Bring(["a"], new(Mark: "m"), flag),
            6 => new CreateMark("Mark", new(by, axis, null, "a"), "m", flag),
            7 => new FollowNode("m", flag ? "a" : null),
            8 => new MovePivot(["a"], Shift: new(by, new ViewSpace(new(Mat3.Rotation(axis, 30), by)))),
            9 => new MovePivot(["a"], Spin: new(by.X, axis, new ChannelsSpace()), Keep: Keep.Numbers),
            10 => new SetTakes(["a"], new(Scale: flag)),
            11 => new SetOrder(["a"], flag ? EulerOrder.YXZ : EulerOrder.ZYX),
            _ => (Edit)new DropShear(["a"]),
        });
}
