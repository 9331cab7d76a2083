using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Each edit against its formula, under random parents with shear, mirrors and all orders.</summary>
public sealed class EditLaws
{
    private static readonly Gen<Space> AllSpaces = Gen.OneOf(
        Gen.Const<Space>(new WorldSpace()),
        Gen.Const<Space>(new ParentSpace()),
        Gen.Const<Space>(new OwnSpace()),
        Gen.Const<Space>(new LeadSpace()),
        Some.Placements.Select(p => (Space)new ViewSpace(p.Local())),
        Some.Direction.Select(y => (Space)new SurfaceSpace(y)));

    private static readonly Gen<About> Abouts = Gen.OneOf(
        Gen.Const<About>(new AboutOwn()),
        Gen.Const<About>(new AboutLead()),
        Gen.Const<About>(new AboutBounds()),
        Gen.Const<About>(new AboutMean()),
        Gen.Const<About>(new AboutZero()),
        Some.Point.Select(p => (About)new AboutPoint(p)));

    [Fact]
    public void Axes_are_unit_square_and_right_handed() =>
        Gen.Select(Some.TakingChains, AllSpaces).Sample((scene, space) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var b = space.Axes(draft, node, node);
            Assert.True((b.Transposed() * b).Distance(Mat3.Identity) < 1e-9);
            Assert.Equal(1, b.Determinant, 1e-9);
        });

    [Fact]
    public void A_move_carries_everything_by_the_same_way_in_the_world() =>
        Gen.Select(Some.TakingChains, AllSpaces, Some.Point).Sample((scene, space, by) =>
        {
            var draft = new SceneDraft(scene);
            var d = space.Axes(draft, draft.Get("parent"), draft.Get("parent")) * by;
            var before = scene.World("parent");
            var child = scene.World("child");
            var numbers = scene.Find("parent")!.Placement;
            scene.Keep(new Move(["parent"], by, space));
            Some.Near(before with { Offset = before.Offset + d }, scene.World("parent"), 1e-8);
            var along = scene.Find("child")!.Placement.Takes.Position ? d : Vec3.Zero;
            Some.Near(child with { Offset = child.Offset + along }, scene.World("child"), 1e-8);
            Assert.Equal(numbers with { Position = Vec3.Zero }, scene.Find("parent")!.Placement with { Position = Vec3.Zero });
        });

    [Fact]
    public void A_turn_along_foreign_axes_is_rigid_in_the_world() =>
        Gen.Select(Some.TakingChains, AllSpaces, Abouts, Some.Direction, Gen.Double[-200, 200]).Sample(
            (scene, space, about, axis, degrees) =>
            {
                if (space is OwnSpace or ParentSpace)
                {
                    return;
                }

                var draft = new SceneDraft(scene);
                var node = draft.Get("child");
                var world = draft.World(node);
                var centre = about.Centre(draft, [node], node) ?? world.Point(node.Placement.Pivot);
                var turn = Affine.About(centre, Mat3.Rotation(space.Axes(draft, node, node) * axis, degrees));
                if (TryKeep(scene, new Rotate(["child"], degrees, axis, space, about)))
                {
                    Some.Near(turn * world, scene.World("child"), 1e-6);
                }
            },
            iter: 400);

    [Fact]
    public void A_turn_along_own_or_the_parents_axes_leaves_scale_and_shear_to_the_bit() =>
        Gen.Select(Some.TakingChains, Gen.Bool, Abouts, Some.Direction, Gen.Double[-800, 800]).Sample((scene, own, about, axis, degrees) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var world = draft.World(node);
            var centre = about.Centre(draft, [node], node);
            Space space = own ? new OwnSpace() : new ParentSpace();
            scene.Keep(new Rotate(["child"], degrees, axis, space, about));
            var after = scene.Find("child")!.Placement;
            Assert.Equal(node.Placement.Scale, after.Scale);
            Assert.Equal(node.Placement.Shear, after.Shear);
            var turn = Mat3.Rotation(axis, degrees);
            var expected = own ? node.Placement.R * turn : turn * node.Placement.R;
            Assert.True(expected.Distance(after.R) < 1e-6);
            if (centre is { } c)
            {
                Some.Near(c, scene.World("child").Point(world.Inverse().Point(c)), 1e-6);
            }
            else
            {
                Assert.Equal(node.Placement.Position, after.Position);
            }
        });

    [Fact]
    public void A_scale_along_foreign_axes_follows_its_formula() =>
        Gen.Select(Some.TakingChains, AllSpaces, Abouts, Some.Factors).Sample((scene, space, about, factors) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("child");
            var world = draft.World(node);
            var centre = about.Centre(draft, [node], node) ?? world.Point(node.Placement.Pivot);
            if (space is OwnSpace)
            {
                scene.Keep(new Scale(["child"], factors, space, about));
                Assert.Equal(node.Placement.Scale.Times(factors), scene.Find("child")!.Placement.Scale);
                Assert.Equal(node.Placement.Rotation, scene.Find("child")!.Placement.Rotation);
                return;
            }

            var b = space.Axes(draft, node, node);
            var stretch = Affine.About(centre, b * Mat3.Diagonal(factors) * b.Transposed());
            if (TryKeep(scene, new Scale(["child"], factors, space, about)))
            {
                Some.Near(stretch * world, scene.World("child"), 1e-6);
            }
        });

    [Fact]
    public void Children_that_stay_keep_their_place_in_the_world() =>
        Gen.Select(Some.TakingChains, AllSpaces, Some.Point, Some.Direction, Gen.Int[0, 2]).Sample((scene, space, by, axis, verb) =>
        {
            var child = scene.World("child");
            Edit edit = verb switch
            {
                0 => new Move(["parent"], by, space, ChildrenMode.Stay),
                1 => new Rotate(["parent"], by.X * 20, axis, space, new AboutOwn(), Effect.Whole, ChildrenMode.Stay),
                _ => new Scale(["parent"], Vec3.One + by * 0.05, space, new AboutOwn(), null, Effect.Whole, ChildrenMode.Stay),
            };
            if (TryKeep(scene, edit))
            {
                Some.Near(child, scene.World("child"), 1e-5);
            }
        });

    [Fact]
    public void Putting_under_and_taking_out_keeps_the_place_in_the_world() =>
        Some.TakingChains.Sample(scene =>
        {
            var world = scene.World("child");
            if (TryKeep(scene, new PutUnder(["child"], "other")))
            {
                Some.Near(world, scene.World("child"), 1e-7);
                if (TryKeep(scene, new PutUnder(["child"], null)))
                {
                    Some.Near(world, scene.World("child"), 1e-7);
                }
            }
        });

    [Fact]
    public void Putting_under_with_numbers_kept_keeps_the_numbers() =>
        Some.TakingChains.Sample(scene =>
        {
            var placement = scene.Find("child")!.Placement;
            scene.Keep(new PutUnder(["child"], "other", Keep: Keep.Numbers));
            Assert.Equal(placement, scene.Find("child")!.Placement);
            Assert.Equal("other", scene.Find("child")!.Parent);
        });

    [Fact]
    public void Moving_a_pivot_moves_neither_the_node_nor_what_rides_on_it() =>
        Gen.Select(Some.TakingChains, Some.Vector(Some.Of(-1.0, 0, 1)), Gen.Bool).Sample((scene, anchor, alongWorld) =>
        {
            var (parent, child) = (scene.World("parent"), scene.World("child"));
            scene.Keep(new MovePivot(["parent"], new(anchor, alongWorld ? AnchorAxes.World : AnchorAxes.Own)));
            Some.Near(parent, scene.World("parent"), 1e-8);
            Some.Near(child, scene.World("child"), 1e-8);
            if (!alongWorld)
            {
                Assert.Equal(anchor.Times(new(0.5, 1, 1.5)), scene.Find("parent")!.Placement.Pivot);
            }
        });

    [Fact]
    public void Whatever_a_node_takes_its_pivot_moves_and_turns_without_it() =>
        Gen.Select(Some.TakingChains, Gen.Int[0, 8], Some.Point, Some.Direction, Some.Vector(Some.Of(-1.0, 0, 1)), AllSpaces).Sample(
            (scene, way, point, axis, anchor, space) =>
            {
                var edit = way switch
                {
                    0 => new MovePivot(["parent"], new(anchor)),
                    1 => new MovePivot(["parent"], new(anchor, AnchorAxes.World)),
                    2 => new MovePivot(["parent"], new(Point: point)),
                    3 => new MovePivot(["parent"], new(Own: point)),
                    4 => new MovePivot(["parent"], new(Node: "other")),
                    5 => new MovePivot(["parent"], new(Parts: [point.X, null, point.Z])),
                    6 => new MovePivot(["parent"], Shift: new(point, space)),
                    7 => new MovePivot(["parent"], Turn: point * 20),
                    _ => new MovePivot(["parent"], Spin: new(point.X * 20, axis, space)),
                };
                var (parent, child) = (scene.World("parent"), scene.World("child"));
                if (TryKeep(scene, edit))
                {
                    var linedUp = Euler.FromLiningUp(scene.Find("parent")!.Placement.Rotation, scene.Find("parent")!.Placement.Order) < 1e-6;
                    Some.Near(parent, scene.World("parent"), linedUp ? 1e-6 : 1e-8);
                    Some.Near(child, scene.World("child"), linedUp ? 1e-6 : 1e-7);
                    if (way is 2 or 4)
                    {
                        var at = way == 2 ? point : scene.World("other").Point(scene.Find("other")!.Placement.Pivot);
                        Some.Near(at, scene.World("parent").Point(scene.Find("parent")!.Placement.Pivot), 1e-6);
                    }
                }
            },
            iter: 600);

    [Fact]
    public void Turning_a_pivot_turns_the_own_axes_by_just_that_however_mirrored_and_sheared() =>
        Gen.Select(Some.TakingChains, Gen.Double[-400, 400], Some.Direction, AllSpaces).Sample((scene, by, axis, space) =>
        {
            var draft = new SceneDraft(scene);
            var node = draft.Get("parent");
            var (own, signs) = (OwnSpace.Of(draft, node), node.Placement.Signs);
            var wanted = Mat3.Rotation((space.Axes(draft, node, node) * axis).Unit(), by) * own;
            if (TryKeep(scene, new MovePivot(["parent"], Spin: new(by, axis, space))))
            {
                var after = new SceneDraft(scene);
                Assert.True(OwnSpace.Of(after, after.Get("parent")).Distance(wanted) < 1e-5);
                Assert.Equal(signs, after.Get("parent").Placement.Signs);
            }
        });

    [Theory]
    [InlineData("xyz", EulerOrder.XYZ)]
    [InlineData("zyx", EulerOrder.ZYX)]
    [InlineData("yxz", EulerOrder.YXZ)]
    [InlineData("zxy", EulerOrder.ZXY)]
    [InlineData("xzy", EulerOrder.XZY)]
    [InlineData("yzx", EulerOrder.YZX)]
    public void Where_axes_line_up_a_turn_goes_to_the_channel_that_is_named(string letters, EulerOrder order)
    {
        var (inner, middle, outer) = (letters[0] - 'x', letters[1] - 'x', letters[2] - 'x');
        var start = Vec3.Zero.With(inner, 20).With(middle, 90).With(outer, 35);
        foreach (var stretch in new[] { Vec3.One, new(2, 2, 2), Vec3.One.With(outer, 3), new(-1, -1, -1) })
        {
            var scene = Some.Scene(
                Some.Box("grand", null, Placement.Default with { Scale = stretch }),
                Some.Box("child", "grand", Placement.Default with { Order = order, Rotation = start }));
            Vec3 After(int letter, Space space, double by = 10) =>
                scene.Run(new Rotate(["child"], by, Vec3.Axis(letter), space, new AboutOwn())).Nodes[0].After!.Placement.Rotation;
            Assert.Equal(start.With(inner, 30), After(inner, new OwnSpace()));
            Assert.Equal(start.With(outer, 45), After(outer, new ParentSpace()));
            Assert.Equal(start.With(outer, 25), After(outer, new ParentSpace(), -10));

            // All of them mirrored is a turn of the same sense again; the world's axis is the parent's, seen from the other side.
            Some.Near(start.With(outer, 45), After(outer, new WorldSpace()), 1e-12);
        }
    }

    [Fact]
    public void Where_only_a_place_changes_children_that_stay_change_theirs_only() =>
        Gen.Select(Some.TakingChains, AllSpaces, Some.Point).Sample((scene, space, by) =>
        {
            var (before, world) = (scene.Find("child")!, scene.World("child"));
            if (TryKeep(scene, new Move(["parent"], by, space, ChildrenMode.Stay)))
            {
                var after = scene.Find("child")!;
                Assert.Equal(before with { Placement = before.Placement with { Position = after.Placement.Position } }, after);
                Some.Near(world, scene.World("child"), 1e-7);
            }
        });

    [Fact]
    public void Locked_children_ride_along_where_the_others_stay()
    {
        var scene = Some.Scene(Some.Box("desk", null), Some.Box("cup", "desk", rank: 1), Some.Box("lamp", "desk", rank: 2));
        scene.Keep(new LockNodes(["lamp"], true));
        var edit = new Move(["desk"], new(1, 0, 0), new WorldSpace(), ChildrenMode.Stay);
        Assert.Equal("lamp is locked and rides along.", Trials.Trial.Foretell(scene, edit));
        Assert.EndsWith(", children stay, but locked lamp", Batch.Run(scene, [edit]).Sentence, StringComparison.Ordinal);
        var locked = scene.Find("lamp");
        scene.Keep(edit);
        Assert.Same(locked, scene.Find("lamp"));
        Assert.Equal(new(1, 0, 0), scene.World("lamp").Offset);
        Assert.Equal(Vec3.Zero, scene.World("cup").Offset);
    }

    [Fact]
    public void Volume_is_kept_by_the_axes_that_are_not_given() =>
        Gen.Select(Some.Factors, Some.Of("x", "y", "z", "xy", "yz", "xz")).Sample((by, given) =>
        {
            var factors = new KeepVolume([.. given]).Apply(by);
            Assert.Equal(1, Math.Abs(factors.X * factors.Y * factors.Z), 1e-12);
            Assert.All(given, c => Assert.Equal(by["xyz".IndexOf(c, StringComparison.Ordinal)], factors["xyz".IndexOf(c, StringComparison.Ordinal)]));
        });

    [Fact]
    public void A_turn_of_very_many_revolutions_leads_where_its_rest_does_and_is_followed_a_few_times_only() =>
        Gen.Select(Some.TakingChains, Some.Direction, Gen.Double[1, 359], Gen.Bool, Some.Of<Space>(new OwnSpace(), new WorldSpace())).Sample(
            (scene, axis, rest, back, space) =>
            {
                Placement After(double by) =>
                    scene.Run(new Rotate(["child"], by, axis, space, new AboutOwn())).Nodes[0].After!.Placement;
                var sign = back ? -1 : 1;
                if (Possible(() => After(sign * rest)))
                {
                    Some.Near(After(sign * rest).Local(), After(sign * (rest + 360.0 * 2_000_000)).Local(), 1e-6);
                }

                var asked = 0;
                var turned = Turns.Followed(Vec3.Zero, sign * (rest + 360.0 * 2_000_000), (turn, near) =>
                {
                    asked++;
                    return near.With(1, Degrees.Near(turn, near.Y));
                });
                Assert.Equal(sign * (rest + 360.0 * 2_000_000), turned.Y, 1e-6);
                Assert.InRange(asked, 1, 200);
            },
            iter: 60);

    private static bool Possible(Func<object> act)
    {
        try
        {
            act();
            Tally.Done();
            return true;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return false;
        }
    }

    [Fact]
    public void A_drag_in_small_steps_equals_one_edit_of_the_sum() =>
        Gen.Select(Some.TakingChains, Some.Point.Where(p => p.Length > 1e-3)).Sample((scene, by) =>
        {
            var whole = scene.Run(new Move(["child"], by, new WorldSpace())).Nodes[0].After!.Placement.Position;
            for (var i = 0; i < 10; i++)
            {
                scene.Keep(new Move(["child"], by * 0.1, new WorldSpace()));
            }

            Some.Near(whole, scene.Find("child")!.Placement.Position, 1e-9);
        });

    [Fact]
    public void Every_edit_can_be_taken_back_to_the_bit() =>
        Gen.Select(Some.TakingChains, RandomEdit.Array[12]).Sample(
            (scene, edits) =>
            {
                var start = scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal).ToList();
                var done = new Stack<Change>();
                foreach (var edit in edits)
                {
                    try
                    {
                        done.Push(scene.Keep(edit));
                        Tally.Done();
                    }
                    catch (Refusal refusal)
                    {
                        Tally.Refused(refusal);
                        // Refused edits leave nothing behind; the comparison below would show it.
                    }
                }

                while (done.TryPop(out var change))
                {
                    scene.Apply(change.Reversed());
                }

                Assert.Equal(start, scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal));
            },
            iter: 300);

    [Fact]
    public void No_edit_ever_leaves_a_number_that_is_not_finite() =>
        Gen.Select(Some.TakingChains, RandomEdit.Array[20]).Sample(
            (scene, edits) =>
            {
                foreach (var edit in edits)
                {
                    TryKeep(scene, edit);
                    Assert.All(scene.Nodes, node => Assert.True(scene.World(node.Id).IsFinite));
                }
            },
            iter: 200);

    private static Gen<Edit> RandomEdit { get; } =
        Gen.Select(
            Gen.Int[0, 8],
            Some.Of("grand", "parent", "child", "other"),
            Some.Of("grand", "parent", "child", "other"),
            Gen.Select(AllSpaces, Abouts),
            Some.Point,
            Some.Direction,
            Gen.Bool,
            (int kind, string node, string other, (Space Space, About About) where, Vec3 by, Vec3 axis, bool stay) =>
            {
                var (space, about) = where;
                var children = stay ? ChildrenMode.Stay : ChildrenMode.Along;
                return kind switch
                {
                    0 => new Move([node], by, space, children),
                    1 => new Rotate([node, other], by.X * 40, axis, space, about, Effect.Whole, children),
                    2 => new Scale([node], Vec3.One + by * 0.08, space, about, null, Effect.Whole, children),
                    3 => new PutUnder([node], other),
                    4 => new MovePivot([node], new(Point: by)),
                    5 => new MovePivot([node], Turn: by * 20),
                    6 => new Place(node, new() { Rotation = by * 30, Scale = by }),
                    7 => new Remove([node], RemovedChildren.Lift),
                    _ => (Edit)new Rename(node, "renamed"),
                };
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
            Assert.Contains(refusal.Word, new[]
            {
                Refusals.TooThin, Refusals.SingularParent, Refusals.NotFound, Refusals.WouldLoop, Refusals.ZeroScale, Refusals.NotUnderstood, Refusals.NotFinite,
            });
            return false;
        }
    }
}
