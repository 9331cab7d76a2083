using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Drags near the horizon, along flat circles, over a ball: continuous, bounded, and the same in however many pieces.</summary>
public sealed class DragLaws
{
    /// <summary>An eye above the ground that looks at the centre.</summary>
    private static readonly Gen<View> Views = Gen.Select(Gen.Double[0, 360], Gen.Double[3, 60], Gen.Double[2, 40]).Select((yaw, pitch, away) =>
    {
        var turn = Mat3.Rotation(Vec3.UnitY, yaw) * Mat3.Rotation(Vec3.UnitX, -pitch);
        return new View(new(turn, turn * Vec3.UnitZ * away), Parallel: false);
    });

    /// <summary>The ray through a point of the picture; at ±1 it is 45° off the middle.</summary>
    private static Ray Through(View view, double x, double y) =>
        new(view.World.Offset, (view.World.Linear * new Vec3(x, y, -1)).Unit());

    [Fact]
    public void Near_the_horizon_a_plane_holds_without_a_jump() =>
        Gen.Select(Views, Some.Of(HandlePart.Quarter, HandlePart.Needle), Gen.Double[-0.3, 0.3]).Sample((view, part, x) =>
        {
            var distance = view.World.Offset.Length;
            var handle = new Handle(part, part == HandlePart.Quarter ? 1 : 0);
            var drag = new Drag(handle, Vec3.Zero, Mat3.Identity, view, 1, Through(view, 0, 0));
            Vec3? before = null;
            const double Step = 0.002;
            for (var y = 0.0; y < 1.2; y += Step)
            {
                var amount = drag.To(Through(view, x, y), false, null);
                Assert.True(amount.Length <= 8.001 * distance, $"{amount.Length} of {distance}");
                var jump = before is { } last ? (amount - last).Length : 0;
                Assert.True(jump < distance, $"jumped by {jump} of {distance} at {y}");
                before = amount;
            }
        });

    /// <summary>A small move of the hand near the horizon went forty metres.</summary>
    [Fact]
    public void A_quarter_never_goes_further_than_a_hand_can_mean() =>
        Gen.Select(Views, Gen.Double[-0.6, 0.6], Gen.Double[-0.6, 1.2]).Sample((view, x, y) =>
        {
            var distance = view.World.Offset.Length;
            var drag = new Drag(new(HandlePart.Quarter, 1), Vec3.Zero, Mat3.Identity, view, 1, Through(view, 0, 0));
            var across = new Vec3(x, y, 0).Length * distance;
            var far = drag.To(Through(view, x, y), false, null).Length;
            Assert.InRange(far, 0, 1e-9 + 4 * across);
            Assert.InRange(far, 0, 1e-9 + across + 1.1 * distance);
        });

    [Fact]
    public void As_far_as_a_hand_can_mean_a_plane_is_followed_exactly() =>
        Gen.Select(Views, Gen.Double[-2, 2], Gen.Double[-2, 2]).Sample((view, x, z) =>
        {
            if (view.World.Linear.Z.Y < 0.1)
            {
                // Seen nearly on edge, the ground is not what is dragged along.
                return;
            }

            var to = new Vec3(x, 0, z) * view.World.Offset.Length;
            var ray = new Ray(view.World.Offset, (to - view.World.Offset).Unit());
            var drag = new Drag(new(HandlePart.Quarter, 1), Vec3.Zero, Mat3.Identity, view, 1, new(view.World.Offset, -view.World.Offset.Unit()));
            var away = view.World.Linear.Z;
            var across = (ray.Direction * (view.World.Offset.Length / -ray.Direction.Dot(away)) + view.World.Offset).Length;
            if (ray.Direction.Dot(away) < 0 && to.Length <= 3 * across && to.Length - across <= 0.55 * view.World.Offset.Length)
            {
                Some.Near(to, drag.To(ray, false, null), 1e-7);
            }
        });

    [Fact]
    public void An_arc_turns_without_jumps_however_flat_it_is_seen() =>
        Gen.Select(Gen.Double[0, 90], Gen.Double[0, 360], Gen.Bool, Gen.Double[-1, 1], Gen.Double[-1, 1]).Sample((tilt, at, parallel, wayX, wayY) =>
        {
            var view = new View(new(Mat3.Identity, new(0, 0, 10)), parallel);
            var axes = Mat3.Rotation(Vec3.UnitX, tilt) * new Mat3(Vec3.UnitX, Vec3.UnitY, Vec3.UnitZ);
            var axis = axes.Z;
            if (Math.Abs(axis.Z) >= 0.3)
            {
                return;
            }

            var (s, c) = Degrees.SinCos(at);
            var point = axes.X * c + axes.Y * s;
            if (point.Z < 0)
            {
                return;
            }

            Ray To(Vec3 p) => parallel ? new(p with { Z = 10 }, -Vec3.UnitZ) : new(new(0, 0, 10), (p - new Vec3(0, 0, 10)).Unit());
            var drag = new Drag(new(HandlePart.Arc, 2), Vec3.Zero, axes, view, 1, To(point));
            var before = 0.0;
            for (var k = 1; k <= 200; k++)
            {
                var angle = drag.To(To(point + new Vec3(wayX, wayY, 0) * (k * 0.01)), false, null).X;
                Assert.True(Math.Abs(angle - before) < 6, $"from {before} to {angle}");
                before = angle;
            }
        });

    [Fact]
    public void A_flat_arc_begins_by_keeping_its_point_under_the_pointer() =>
        Gen.Select(Gen.Double[74, 90], Gen.Double[20, 160]).Sample((tilt, at) =>
        {
            var view = new View(new(Mat3.Identity, new(0, 0, 10)), Parallel: true);
            var axes = Mat3.Rotation(Vec3.UnitX, -tilt);
            // Taken on the half that is near the eye.
            Vec3 At(double degrees)
            {
                var (s, c) = Degrees.SinCos(degrees);
                return axes.X * c + axes.Y * s;
            }

            var near = At(at).Z > 0 ? at : -at;
            Ray To(Vec3 p) => new(p with { Z = 10 }, -Vec3.UnitZ);
            var drag = new Drag(new(HandlePart.Arc, 2), Vec3.Zero, axes, view, 1, To(At(near)));
            var turned = drag.To(To(At(near + 1)), false, null).X;
            // Where the circle runs toward the eye its visible line stands in for it, and it turns slower.
            Assert.InRange(turned, 0.2, 1.2);
        });

    [Fact]
    public void A_ball_turns_the_same_for_the_same_way_in_however_many_pieces() =>
        Gen.Select(Views, Gen.Double[-0.5, 0.5].Array[6], Gen.Int[1, 40]).Sample((view, at, pieces) =>
        {
            (double X, double Y)[] corners = [(0, 0), (at[0], at[1]), (at[2], at[3]), (at[4], at[5])];
            Vec3 Roll(int parts)
            {
                var drag = new Drag(new(HandlePart.Ball, 0), Vec3.Zero, Mat3.Identity, view, view.World.Offset.Length / 5, Through(view, 0, 0));
                var turn = Vec3.Zero;
                for (var i = 1; i < corners.Length; i++)
                {
                    for (var k = 1; k <= parts; k++)
                    {
                        var t = (double)k / parts;
                        turn = drag.To(Through(view, corners[i - 1].X + (corners[i].X - corners[i - 1].X) * t, corners[i - 1].Y + (corners[i].Y - corners[i - 1].Y) * t), false, null);
                    }
                }

                return turn;
            }

            Vec3 once = Roll(1), many = Roll(pieces);
            Some.Near(new Affine(Mat3.Rotation(once.Unit(), once.Length), Vec3.Zero), new Affine(Mat3.Rotation(many.Unit(), many.Length), Vec3.Zero), 1e-9);
        });

    [Fact]
    public void A_ball_carries_its_near_side_along_with_the_pointer_by_the_way_over_its_radius()
    {
        var view = new View(new(Mat3.Identity, new(0, 0, 10)), Parallel: true);
        var drag = new Drag(new(HandlePart.Ball, 0), Vec3.Zero, Mat3.Identity, view, 2, new(new(0, 0, 10), -Vec3.UnitZ));
        Some.Near(new Vec3(0, 90, 0), drag.To(new(new(Math.PI, 0, 10), -Vec3.UnitZ), false, null));
        Some.Near(Vec3.Zero, drag.To(new(new(0, 0, 10), -Vec3.UnitZ), false, null));
        Some.Near(new Vec3(-45, 0, 0), drag.To(new(new(0, Math.PI / 2, 10), -Vec3.UnitZ), false, null));
        Some.Near(new Vec3(-40, 0, 0), drag.To(new(new(0, Math.PI / 2, 10), -Vec3.UnitZ), false, 20));
    }

    [Fact]
    public void Turning_freely_turns_rigidly_whatever_carries_it_and_says_one_angle_about_one_axis() =>
        Gen.Select(Some.Chains, Views, Gen.Double[0.05, 0.4], Gen.Double[-0.4, 0.4]).Sample(
            (scene, view, x, y) =>
            {
                using var evaluator = new Evaluator(scene);
                var space = new OwnSpace();
                var trial = new Trial(scene, evaluator, new Rotate(["child"], 0, Vec3.UnitY, space, new AboutOwn()), space);
                var before = scene.World("child");
                var pivot = before.Point(scene.Find("child")!.Placement.Pivot);
                var eye = view with { World = view.World with { Offset = view.World.Offset + pivot } };
                try
                {
                    trial.Grab(new(HandlePart.Ball, 0), eye, 1, Through(eye, 0, 0));
                    trial.DragTo(Through(eye, x, y), false, null);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    return;
                }

                var rotate = Assert.IsType<Rotate>(Assert.Single(trial.Edits));
                var axis = eye.World.Linear * rotate.Axis;
                Some.Near(Affine.About(pivot, Mat3.Rotation(axis.Unit(), rotate.By)) * before, evaluator.World("child"), 1e-6);
                Assert.Matches("freely about \\(.* of the world|along the view's [XY]", rotate.Say(new(scene)));
                Assert.StartsWith("+", trial.Reading.Amount, StringComparison.Ordinal);
            },
            iter: 60);

    [Fact]
    public void The_outer_arc_turns_all_that_is_picked_in_the_views_plane() =>
        Gen.Select(Some.Chains, Views, Gen.Double[5, 175]).Sample(
            (scene, view, degrees) =>
            {
                using var evaluator = new Evaluator(scene);
                var space = new OwnSpace();
                var trial = new Trial(scene, evaluator, new Rotate(["child", "other"], 0, Vec3.UnitY, space, new AboutLead()), space);
                var centre = scene.World("other").Point(scene.Find("other")!.Placement.Pivot);
                var eye = view with { World = view.World with { Offset = view.World.Offset + centre } };
                var (s, c) = Degrees.SinCos(degrees);
                var before = scene.World("child");
                try
                {
                    trial.Grab(new(HandlePart.ViewArc, 0), eye, 1, Through(eye, 0.1, 0));
                    trial.DragTo(Through(eye, 0.1 * c, 0.1 * s), false, null);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    return;
                }

                var turn = Affine.About(centre, Mat3.Rotation(eye.World.Linear.Z, degrees));
                Some.Near(turn * before, evaluator.World("child"), 1e-6);
                Assert.Matches("^Rotated 2 objects \\+[0-9.]+° about other's pivot, in the view's plane$", trial.Edits[0].Say(new(scene)));
            },
            iter: 60);

    [Fact]
    public void A_pad_between_two_needles_scales_along_both_and_not_along_the_third()
    {
        var view = new View(new(Mat3.Identity, new(0, 0, 10)), Parallel: true);
        Ray At(double x, double y) => new(new(x, y, 10), -Vec3.UnitZ);
        var drag = new Drag(new(HandlePart.QuarterPad, 2), Vec3.Zero, Mat3.Identity, view, 1, At(0.5, 0.5));
        Some.Near(new Vec3(2, 2, 1), drag.To(At(1.5, 1.5), false, null));
        Some.Near(new Vec3(1.5, 1.5, 1), drag.To(At(1.5, 0.5), false, null));
        Some.Near(new Vec3(1.25, 1.25, 1), drag.To(At(1.05, 0.45), false, 0.25));
        Some.Near(new Vec3(Edits.Scale.LeastDragged, Edits.Scale.LeastDragged, 1), drag.To(At(-9, -9), false, null));
    }
}
