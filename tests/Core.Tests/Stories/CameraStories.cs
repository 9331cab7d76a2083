using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Cameras that are steered by navigating, edits that are only shown, and where things stood at another step.</summary>
public sealed class CameraStories
{
    private static readonly Gen<Affine> Views = Gen.Select(Some.Angles, Some.Point).Select((a, p) => new Affine(Euler.ToMatrix(a, EulerOrder.XYZ), p));

    /// <summary>However its parents stand, a steered camera sees as the view does.</summary>
    [Fact]
    public void A_steered_camera_stands_where_the_view_stands() => Gen.Select(Some.Chains, Views).Sample((scene, view) =>
    {
        var size = Stretch(scene.World("child").Linear);
        try
        {
            scene.Keep(new Steer("child", view));
            Tally.Done();
        }
        catch (Refusal refusal) when (refusal.Word == Refusals.TooThin)
        {
            Tally.Refused(refusal);
            // Three that are sheared and scaled at random now and then leave no room for it.
            return;
        }

        var world = scene.World("child");
        Some.Near(view.Offset, world.Offset, 1e-6);
        Assert.True(world.Linear.LensAxes().Distance(view.Linear) < 1e-6);
        Assert.True(Stretch(world.Linear).Distance(size) < 1e-6 * Math.Max(1, size.Norm));
    });

    [Fact]
    public void A_view_that_is_none_is_refused()
    {
        var scene = Some.Scene(Some.Box("eye", null));
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => scene.Run(new Steer("eye", new(default, Vec3.Zero)))).Word);
        Assert.Equal(Refusals.NotFound, Assert.Throws<Refusal>(() => scene.Run(new Steer("gone", Affine.Identity))).Word);
        scene.Keep(new LockNodes(["eye"], true));
        Assert.Equal(Refusals.Locked, Assert.Throws<Refusal>(() => scene.Run(new Steer("eye", Affine.Identity))).Word);
    }

    [Fact]
    public void Edits_that_are_shown_leave_the_document_alone_and_can_be_put_back()
    {
        var scene = Some.Scene(Some.Box("arm", null), Some.Box("lamp", "arm"), Some.Box("desk", null));
        using var evaluator = new Evaluator(scene);
        var preview = new Preview(scene, evaluator);
        preview.Show(Batch.Draft(scene, [new Move(["arm"], new(1, 0, 0), new WorldSpace())]));
        Some.Near(new(1, 0, 0), evaluator.World("lamp").Offset);
        preview.Show(Batch.Draft(scene, [new Move(["desk"], new(0, 2, 0), new WorldSpace())]));
        Some.Near(Vec3.Zero, evaluator.World("lamp").Offset);
        Some.Near(new(0, 2, 0), evaluator.World("desk").Offset);
        preview.PutBack();
        Some.Near(Vec3.Zero, evaluator.World("desk").Offset);
        Assert.Equal(Vec3.Zero, scene.Find("desk")!.Placement.Position);
    }

    [Fact]
    public void What_comes_or_goes_is_not_shown_before_it_is_kept()
    {
        var scene = Some.Scene(Some.Box("arm", null), Some.Box("desk", null));
        using var evaluator = new Evaluator(scene);
        var preview = new Preview(scene, evaluator);
        preview.Show(Batch.Draft(scene, [new Create(new() { Id = "new", Name = "New", Kind = NodeKind.Group }), new PutUnder(["arm"], "desk"), new Remove(["desk"])]));
        Assert.Equal(-1, evaluator.SlotOf("new"));
        preview.PutBack();
        Some.Near(Vec3.Zero, evaluator.World("arm").Offset);
    }

    [Fact]
    public void A_step_casts_shadows_of_what_it_moved_and_of_what_rode_along()
    {
        var scene = Some.Scene(Some.Box("arm", null), Some.Box("lamp", "arm"), Some.Box("desk", null));
        var change = scene.Keep(new Move(["arm"], new(3, 0, 0), new WorldSpace()));
        var shadows = Shadow.Of(scene, change.Nodes.Select(n => n.Before!));
        Assert.Equal(["arm", "lamp"], shadows.Select(s => s.Id));
        Assert.All(shadows, s => Some.Near(Vec3.Zero, s.Then));
        Assert.All(shadows, s => Some.Near(new(3, 0, 0), s.Now));
    }

    [Fact]
    public void What_is_gone_or_did_not_move_casts_none()
    {
        var scene = Some.Scene(Some.Box("arm", null), Some.Box("desk", null));
        var gone = Some.Box("gone", null, Placement.Default with { Position = new(1, 1, 1) });
        Assert.Empty(Shadow.Of(scene, [gone, scene.Find("desk")!]));
        var renamed = scene.Find("arm")! with { Name = "Other", Parent = "gone" };
        Assert.Empty(Shadow.Of(scene, [renamed]));
    }

    [Fact]
    public void A_camera_needs_a_picture_of_some_shape()
    {
        Assert.Equal(2.39, (Camera.Default with { Aspect = 2.39 }).Checked().Aspect);
        foreach (var aspect in new[] { 0, -1, 1000, double.NaN })
        {
            Some.Refuses(Refusals.NotUnderstood, () => (Camera.Default with { Aspect = aspect }).Checked());
        }
    }

    private static Mat3 Stretch(Mat3 linear) => linear.RotationPart().Transposed() * linear;
}
