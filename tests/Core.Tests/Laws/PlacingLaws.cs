using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Orders, channels, mirrors, values set in the world, alignment and spreading, against their formulas.</summary>
public sealed class PlacingLaws
{
    private static readonly Gen<Space> Spaces = Gen.OneOf(
        Gen.Const<Space>(new WorldSpace()),
        Gen.Const<Space>(new ParentSpace()),
        Gen.Const<Space>(new OwnSpace()),
        Gen.Const<Space>(new MarkSpace("pinned")),
        Gen.Const<Space>(new MarkSpace("following")),
        Some.Direction.Select(y => (Space)new SurfaceSpace(y)));

    [Fact]
    public void Another_order_keeps_the_orientation() =>
        Gen.Select(Some.TakingChains, Some.Orders).Sample((scene, order) =>
        {
            var (world, before) = (scene.World("child"), scene.Find("child")!.Placement);
            scene.Keep(new SetOrder(["child"], order));
            var after = scene.Find("child")!.Placement;
            Assert.Equal(order, after.Order);
            Assert.True(before.R.Distance(after.R) < 1e-7);
            Some.Near(world, scene.World("child"), 1e-6);
            Assert.Equal(before with { Order = order, Rotation = after.Rotation }, after);
        });

    [Fact]
    public void A_turn_along_a_channel_adds_to_that_angle_alone() =>
        Gen.Select(Some.TakingChains, Gen.Int[0, 2], Gen.Double[-500, 500]).Sample((scene, channel, degrees) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var axis = new ChannelsSpace().Axes(draft, node, node).Column(channel);
            scene.Keep(new Rotate(["child"], degrees, Vec3.Axis(channel), new ChannelsSpace(), new AboutOwn()));
            var after = scene.Find("child")!.Placement;
            Assert.Equal(node.Placement with { Rotation = node.Placement.Rotation.With(channel, node.Placement.Rotation[channel] + degrees) }, after);

            // What lies along the true axis stays where it is.
            var toOwn = draft.FrameOf(node).Basis * node.Placement.R;
            var toOwnAfter = draft.FrameOf(node).Basis * after.R;
            Some.Near(axis, toOwnAfter * (toOwn.Inverse() * axis), 1e-5);
        });

    [Fact]
    public void A_mirror_image_lies_across_the_plane_and_two_are_none() =>
        Gen.Select(Some.MarkedChains, Spaces, Some.Direction, Some.Point).Sample((scene, space, axis, centre) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var world = draft.World(node);
            var a = (space.Axes(draft, node, node) * axis).Unit();
            var about = new AboutPoint(centre);
            if (!TryKeep(scene, new Mirror(["child"], axis, space, about)))
            {
                return;
            }

            var flip = new Mat3(Vec3.UnitX - a * (2 * a.X), Vec3.UnitY - a * (2 * a.Y), Vec3.UnitZ - a * (2 * a.Z));
            Some.Near(Affine.About(centre, flip) * world, scene.World("child"), 1e-6);
            if (TryKeep(scene, new Mirror(["child"], a, new WorldSpace(), about)))
            {
                Some.Near(world, scene.World("child"), 1e-6);
            }
        });

    [Fact]
    public void A_mirrored_heading_keeps_the_geometry_the_right_way_round() =>
        Gen.Select(Some.MarkedChains, Spaces, Some.Direction, Some.Point).Sample((scene, space, axis, centre) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var (world, own) = (draft.World(node), OwnSpace.Of(draft, node));
            var a = (space.Axes(draft, node, node) * axis).Unit();
            scene.Keep(new Mirror(["child"], axis, space, new AboutPoint(centre), MirrorHow.Turn));
            var after = scene.Find("child")!.Placement;
            Assert.Equal(node.Placement.Scale, after.Scale);
            Assert.Equal(node.Placement.Shear, after.Shear);
            Vec3 Flip(Vec3 v) => v - a * (2 * a.Dot(v));
            var pivot = world.Point(node.Placement.Pivot);
            Some.Near(centre + Flip(pivot - centre), scene.World("child").Point(after.Pivot), 1e-7);
            var turned = OwnSpace.Of(new SceneDraft(scene), scene.Find("child")!);
            var same = Enumerable.Range(0, 3).Count(i => (turned.Column(i) - Flip(own.Column(i))).Length < 1e-6);
            Assert.True(same >= 2, "two of the three axes head where the image's head");
        });

    [Fact]
    public void A_value_set_in_the_world_is_read_there_again_and_the_others_stay() =>
        Gen.Select(Some.TakingChains, Gen.Int[0, 2], Some.Point, Gen.Int[0, 2]).Sample((scene, which, values, only) =>
        {
            var channel = (ChannelName)which;
            var before = Read();
            var wanted = channel == ChannelName.Scale ? Vec3.One + values.Map(Math.Abs) : channel == ChannelName.Rotation ? values * 8 : values;
            double?[] set = [null, null, null];
            set[only] = wanted[only];
            if (!TryKeep(scene, new SetChannel(["child"], channel, set, In: ReadIn.World)))
            {
                return;
            }

            var after = Read();
            switch (channel)
            {
                case ChannelName.Position:
                    Some.Near(before.Position.With(only, wanted[only]), after.Position, 1e-7);
                    Some.Near(before.Scale, after.Scale, 1e-7);
                    break;
                case ChannelName.Scale:
                    Some.Near(before.Scale.With(only, wanted[only]), after.Scale, 1e-6);
                    Some.Near(before.Position, after.Position, 1e-7);
                    break;
                default:
                    var order = scene.Find("child")!.Placement.Order;
                    var expected = Euler.ToMatrix(before.Rotation.With(only, wanted[only]), order);
                    Assert.True(expected.Distance(Euler.ToMatrix(after.Rotation, order)) < 1e-6);
                    Some.Near(before.Position, after.Position, 1e-7);
                    break;
            }

            Channels Read() => Channels.Of(new SceneDraft(scene), scene.Find("child")!, world: true);
        });

    [Fact]
    public void A_size_is_the_extent_of_the_bounds_along_the_pivots_directions() =>
        Gen.Select(Some.TakingChains, Gen.Double[0.05, 9], Gen.Int[0, 2]).Sample((scene, size, axis) =>
        {
            double?[] set = [null, null, null];
            set[axis] = size;
            var before = scene.Find("child")!.Placement;
            if (!TryKeep(scene, new SetChannel(["child"], ChannelName.Size, set)))
            {
                return;
            }

            var after = scene.Find("child")!.Placement;
            var read = Channels.Of(new SceneDraft(scene), scene.Find("child")!, world: false);
            Assert.Equal(size, read.Size[axis], 1e-9 * (1 + size));
            Assert.Equal(Math.Sign(before.Scale[axis]), Math.Sign(after.Scale[axis]));
            Assert.Equal(before.Rotation, after.Rotation);
        });

    [Fact]
    public void Relative_values_shift_each_by_itself() =>
        Some.TakingChains.Sample(scene =>
        {
            var (parent, other) = (scene.Find("parent")!.Placement, scene.Find("other")!.Placement);
            scene.Keep(new SetChannel(["parent", "other"], ChannelName.Position, [0.5, null, -2], AmountMode.Add));
            Assert.Equal(parent.Position + new Vec3(0.5, 0, -2), scene.Find("parent")!.Placement.Position);
            Assert.Equal(other.Position + new Vec3(0.5, 0, -2), scene.Find("other")!.Placement.Position);
        });

    [Fact]
    public void Alignment_brings_place_to_place_and_leaves_the_other_axes() =>
        Gen.Select(Some.MarkedChains, Spaces, Gen.Int[0, 2], Gen.Int[0, 3], Gen.Int[0, 3]).Sample((scene, space, axis, from, to) =>
        {
            var one = new AlignAxis((AlignPlace)from, (AlignPlace)to);
            var axes = new AlignAxes(axis == 0 ? one : null, axis == 1 ? one : null, axis == 2 ? one : null);
            var draft = new SceneDraft(scene);
            var b = space.Axes(draft, draft.Get("other"), draft.Get("grand"));
            var toAxes = new Affine(b.Transposed(), Vec3.Zero);
            var target = Spans.Of(draft, draft.Get("other"), toAxes);
            var before = Spans.Of(draft, draft.Get("grand"), toAxes);
            if (!TryKeep(scene, new Align(["grand"], "other", axes, space)))
            {
                return;
            }

            var after = Spans.Of(new SceneDraft(scene), scene.Find("grand")!, toAxes);
            Assert.Equal(target.At(one.To, axis), after.At(one.From, axis), 1e-7);
            for (var i = 0; i < 3; i++)
            {
                if (i != axis)
                {
                    Assert.Equal(before.Pivot[i], after.Pivot[i], 1e-7);
                }
            }
        });

    [Fact]
    public void Matched_rotation_and_scale_are_those_of_the_target() =>
        Some.TakingChains.Sample(scene =>
        {
            if (!TryKeep(scene, new Align(["child"], "other", new(), new WorldSpace(), Rotation: true, Scale: true)))
            {
                return;
            }

            var draft = new SceneDraft(scene);
            Assert.True(OwnSpace.Of(draft, draft.Get("other")).Distance(OwnSpace.Of(draft, draft.Get("child"))) < 1e-6);
            var (wanted, size) = (Channels.WorldScale(draft, draft.Get("other")), Channels.WorldScale(draft, draft.Get("child")));
            Some.Near(wanted.Map(Math.Abs), size.Map(Math.Abs), 1e-6);
        });

    [Fact]
    public void Spreading_makes_gaps_or_steps_equal_and_the_ends_stay() =>
        Gen.Select(Some.Vector(Gen.Double[-9, 9]).Array[5].Where(p => (p[^1] - p[0]).Length > 0.1), Gen.Int[0, 3], Gen.Bool).Sample((places, along, gaps) =>
        {
            var ids = places.Select((_, i) => $"n{i}").ToArray();
            var scene = Some.Scene([.. places.Select((p, i) => Some.Box(ids[i], null, Placement.Default with { Position = p, Rotation = p * 10 }))]);
            var edit = new Spread(ids, (SpreadAlong)along, new WorldSpace(), gaps ? SpreadEqual.Gaps : SpreadEqual.Pivots);
            var line = edit.Along == SpreadAlong.Line ? (places[^1] - places[0]).Unit() : Vec3.Axis(along);
            scene.Keep(edit);
            var toLine = new Affine(new Mat3(new(line.X, 0, 0), new(line.Y, 0, 0), new(line.Z, 0, 0)), Vec3.Zero);
            var draft = new SceneDraft(scene);
            var seats = ids.Select(id => Spans.Of(draft, draft.Get(id), toLine)).ToList();
            var order = Enumerable.Range(0, 5).OrderBy(i => places[i].Dot(line)).ToList();
            Assert.Equal(places[order[0]], scene.Find(ids[order[0]])!.Placement.Position);
            Assert.Equal(places[order[^1]], scene.Find(ids[order[^1]])!.Placement.Position);
            double Step(int k) => gaps
                ? seats[order[k + 1]].Bounds.Low.X - seats[order[k]].Bounds.High.X
                : seats[order[k + 1]].Pivot.X - seats[order[k]].Pivot.X;
            for (var k = 1; k < 4; k++)
            {
                Assert.Equal(Step(0), Step(k), 1e-9);
            }
        });

    [Fact]
    public void Turning_the_pivots_directions_moves_nothing_and_turns_them_by_the_angle() =>
        Gen.Select(Some.TakingChains, Some.Direction, Gen.Double[-170, 170]).Sample((scene, axis, degrees) =>
        {
            var (parent, child) = (scene.World("parent"), scene.World("child"));
            var own = OwnSpace.Of(new SceneDraft(scene), scene.Find("grand")!);
            if (TryKeep(scene, new MovePivot(["parent"], Spin: new(degrees, axis, new WorldSpace()))))
            {
                Some.Near(parent, scene.World("parent"), 1e-6);
                Some.Near(child, scene.World("child"), 1e-6);
            }

            if (TryKeep(scene, new MovePivot(["grand"], Spin: new(degrees, axis, new WorldSpace()))))
            {
                // Under strong shear two axes may come to point the other way; their lines are the same.
                var (wanted, turned) = (Mat3.Rotation(axis, degrees) * own, OwnSpace.Of(new SceneDraft(scene), scene.Find("grand")!));
                Assert.All(Enumerable.Range(0, 3), i => Assert.Equal(1, Math.Abs(wanted.Column(i).Dot(turned.Column(i))), 1e-6));
            }
        });

    [Fact]
    public void A_pivot_moves_by_the_same_way_in_the_world_wherever_it_is() =>
        Gen.Select(Some.MarkedChains, Spaces, Some.Point).Sample((scene, space, by) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var world = draft.World(node);
            var expected = world.Point(node.Placement.Pivot) + space.Axes(draft, node, node) * by;
            scene.Keep(new MovePivot(["child"], Shift: new(by, space)));
            Some.Near(world, scene.World("child"), 1e-7);
            Some.Near(expected, world.Point(scene.Find("child")!.Placement.Pivot), 1e-6);
        });

    [Fact]
    public void A_thousand_placing_edits_are_taken_back_to_the_bit() =>
        Gen.Select(Some.MarkedChains, AnyEdit.Array[1000]).Sample(
            (scene, edits) =>
            {
                var start = scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal).ToList();
                var done = new Stack<Change>();
                var kept = 0;
                foreach (var edit in edits)
                {
                    try
                    {
                        done.Push(scene.Keep(edit));
                        kept++;
                        Tally.Done();
                    }
                    catch (Refusal refusal)
                    {
                        Tally.Refused(refusal);
                        // Refused edits leave nothing behind; the comparison below would show it.
                    }

                    Assert.All(scene.Nodes, node => Assert.True(scene.World(node.Id).IsFinite));
                }

                Assert.True(kept > 20);
                while (done.TryPop(out var change))
                {
                    scene.Apply(change.Reversed());
                }

                Assert.Equal(start, scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal));
            },
            iter: 2);

    private static Gen<Edit> AnyEdit { get; } =
        Gen.Select(
            Gen.Int[0, 15],
            Some.Of("grand", "parent", "child", "other", "pinned", "following"),
            Some.Of("grand", "parent", "child", "other", "pinned"),
            Spaces,
            Some.Point,
            Some.Direction,
            Gen.Int[0, 3],
            (int kind, string node, string other, Space space, Vec3 by, Vec3 axis, int pick) => kind switch
            {
                0 => new Move([node], by, space),
                1 => new Rotate([node, other], by.X * 20, axis, space, new AboutMark("pinned")),
                2 => new Scale([node], Vec3.One + by * 0.05, space, new AboutMark("following")),
                3 => new Mirror([node], axis, space, new AboutOwn(), pick > 1 ? MirrorHow.Turn : MirrorHow.Mirror),
                4 => new SetOrder([node], (EulerOrder)pick),
                5 => new DropShear([node]),
                6 => new Align([node], other, new(Y: new((AlignPlace)pick, AlignPlace.Max)), space, Rotation: pick == 1),
                7 => new Spread(["grand", "parent", "other", node], SpreadAlong.X, space),
                8 => new SetChannel([node], ChannelName.Position, [by.X, null, null], In: ReadIn.World),
                9 => new SetChannel([node, other], ChannelName.Rotation, [null, by.Y * 9, null], AmountMode.Add),
                10 => new Bring([node], new(other), Rotation: pick > 1),
                11 => new MovePivot([node], Shift: new(by, space)),
                12 => new MovePivot([node], Spin: new(by.X * 10, axis, space)),
                13 => new SetTakes([node], new(Rotation: pick > 1)),
                14 => new FollowNode("pinned", other),
                _ => (Edit)new FollowNode("following", null),
            });

    private static bool TryKeep(SceneDocument scene, Edit edit)
    {
        try
        {
            scene.Keep(edit);
            Tally.Done();
            return true;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.Contains(refusal.Word, new[] { Refusals.TooThin, Refusals.SingularParent, Refusals.WouldLoop });
            return false;
        }
    }
}
