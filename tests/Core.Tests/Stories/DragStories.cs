using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Dragging handles: amounts follow the pointer, previews leave the scene as it was.</summary>
public sealed class DragStories
{
    private static readonly View Front = new(new(Mat3.Identity, new(0, 0, 10)), Parallel: false);

    [Fact]
    public void A_needle_follows_the_pointer_exactly() =>
        Gen.Select(Some.Direction, Gen.Double[-3, 3]).Sample((axis, along) =>
        {
            if (Math.Abs(axis.Z) > 0.9)
            {
                return;
            }

            var b = new Mat3(axis, Vec3.UnitY, Vec3.UnitZ);
            var drag = new Drag(new(HandlePart.Needle, 0), Vec3.Zero, b, Front, 1, RayTo(Vec3.Zero));
            var amount = drag.To(RayTo(axis * along), fine: false, step: null);
            Assert.Equal(along, amount.X, 1e-9);
            Assert.Equal(0, amount.Y);
        });

    [Fact]
    public void A_quarter_disc_follows_the_pointer_in_its_plane()
    {
        var drag = new Drag(new(HandlePart.Quarter, 2), Vec3.Zero, Mat3.Identity, Front, 1, RayTo(new(0.4, 0.4, 0)));
        Some.Near(new Vec3(1, -0.5, 0), drag.To(RayTo(new(1.4, -0.1, 0)), false, null));
    }

    [Fact]
    public void An_arc_counts_whole_turns()
    {
        var drag = new Drag(new(HandlePart.Arc, 2), Vec3.Zero, Mat3.Identity, Front, 1, RayTo(Vec3.UnitX));
        var amount = Vec3.Zero;
        for (var degrees = 0; degrees <= 400; degrees += 10)
        {
            var (s, c) = Degrees.SinCos(degrees);
            amount = drag.To(RayTo(new(c, s, 0)), false, null);
        }

        Assert.Equal(400, amount.X, 1e-9);
    }

    [Fact]
    public void Steps_round_from_where_the_drag_began_and_fine_goes_a_tenth()
    {
        var drag = new Drag(new(HandlePart.Needle, 0), Vec3.Zero, Mat3.Identity, Front, 1, RayTo(new(0.3, 0, 0)));
        Assert.Equal(0.25, drag.To(RayTo(new(0.6, 0, 0)), false, 0.25).X, 1e-12);
        Assert.Equal(0.35, drag.To(RayTo(new(1.1, 0, 0)), true, null).X, 1e-9);
    }

    [Fact]
    public void A_pad_never_reaches_zero()
    {
        var drag = new Drag(new(HandlePart.Pad, 0), Vec3.Zero, Mat3.Identity, Front, 1, RayTo(Vec3.UnitX));
        Some.Near(new Vec3(2, 1, 1), drag.To(RayTo(Vec3.UnitX * 2), false, null), 1e-9);
        Assert.Equal(0.001, drag.To(RayTo(Vec3.UnitX * -5), false, null).X);
    }

    [Fact]
    public void Nothing_runs_off_to_infinity() =>
        Gen.Select(Some.Direction, Some.Direction, Gen.Int[0, 6], Gen.Bool).Sample((eye, look, part, parallel) =>
        {
            var view = new View(new(new Mat3(eye.Cross(look).Unit(), look, eye).RotationPart(), eye * 10), parallel);
            var drag = new Drag(new((HandlePart)part, 1), Vec3.Zero, Mat3.Identity, view, 1, new(eye * 10, -eye));
            Assert.All(
                new[] { look, -look, eye, Vec3.UnitX, Vec3.UnitY },
                direction => Assert.True(drag.To(new(eye * 10, direction), false, null).IsFinite));
        });

    [Fact]
    public void A_trial_shows_itself_and_leaves_the_scene_as_it_was()
    {
        var scene = Some.Scene(Some.Box("arm", null), Some.Box("hand", "arm", Placement.Default with { Position = Vec3.UnitX }));
        using var evaluator = new Evaluator(scene);
        var before = scene.Find("arm");
        var space = new ParentSpace();
        var trial = new Trial(scene, evaluator, new Rotate(["arm"], 0, Vec3.UnitY, space, new AboutOwn()), space);
        trial.Try(new(90, 0, 0));
        Some.Near(new Vec3(0, 0, -1), evaluator.World("hand").Offset);
        Assert.Equal("+90°", trial.Reading.Amount);
        Assert.Equal(("Y 0°", "Y 90°"), (trial.Reading.From, trial.Reading.To));
        Assert.Same(before, scene.Find("arm"));
        trial.PutBack();
        Some.Near(Vec3.UnitX, evaluator.World("hand").Offset);
    }

    [Fact]
    public void A_refused_amount_leaves_the_last_good_one()
    {
        var scene = Some.Scene(Some.Box("arm", null));
        using var evaluator = new Evaluator(scene);
        var space = new OwnSpace();
        var trial = new Trial(scene, evaluator, new Scale(["arm"], Vec3.One, space, new AboutOwn()), space);
        trial.Try(new(2, 2, 2));
        Assert.Equal(Refusals.ZeroScale, Assert.Throws<Refusal>(() => trial.Try(Vec3.Zero)).Word);
        Assert.Equal(new Vec3(2, 2, 2), ((Scale)trial.Edits[0]).By);
        Assert.Equal(2, evaluator.World("arm").Linear.X.X);
    }

    [Fact]
    public void Shear_is_foretold_with_its_cause()
    {
        var scene = Some.Scene(Some.Box("Big arm", null, Placement.Default with { Scale = new(2, 1, 1) }), Some.Box("hand", "Big arm"));
        var warning = Trial.Foretell(scene, new Rotate(["hand"], 0, Vec3.UnitZ, new WorldSpace(), new AboutOwn()));
        Assert.Equal("This adds shear: Big arm is scaled unevenly.", warning);
        Assert.Null(Trial.Foretell(scene, new Rotate(["hand"], 0, Vec3.UnitZ, new ParentSpace(), new AboutOwn())));
    }

    [Fact]
    public void Under_a_mirrored_parent_an_arc_still_turns_with_the_pointer()
    {
        var scene = Some.Scene(Some.Box("mirror", null, Placement.Default with { Scale = new(-1, 1, 1) }), Some.Box("hand", "mirror"));
        using var evaluator = new Evaluator(scene);
        var space = new ParentSpace();
        var trial = new Trial(scene, evaluator, new Rotate(["hand"], 0, Vec3.UnitZ, space, new AboutOwn()), space);
        trial.Grab(new(HandlePart.Arc, 2), Front, 1, RayTo(Vec3.UnitX));
        var start = evaluator.World("hand").Linear.X;
        trial.DragTo(RayTo(Vec3.UnitY), false, null);
        Some.Near(Mat3.Rotation(2, 90) * start, evaluator.World("hand").Linear.X, 1e-9);
    }

    private static Ray RayTo(Vec3 point) => new(new(0, 0, 10), (point - new Vec3(0, 0, 10)).Unit());
}
