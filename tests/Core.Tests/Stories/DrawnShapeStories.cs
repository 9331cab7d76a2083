using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Shapes drawn by eye: footprint, then height; they stand where they were drawn.</summary>
public sealed class DrawnShapeStories
{
    private static readonly Vec3 Eye = new(0, 6, 8);
    private static readonly View Above = new(new(new Mat3(Vec3.UnitX, new(0, 0.8, -0.6), new(0, 0.6, 0.8)), Eye), Parallel: false);

    [Theory]
    [InlineData("box")]
    [InlineData("cylinder")]
    [InlineData("cone")]
    public void It_stands_on_the_ground_within_its_corners(string type)
    {
        var drawn = new DrawnShape(type, new(0.5, 0, -1), Vec3.UnitY, Above);
        drawn.FootTo(To(new(1.5, 0, 1)), null);
        drawn.RiseTo(To(new(1.5, 0, 1)), null);
        drawn.RiseTo(To(new(1.5, 0.75, 1)), null);
        var scene = Some.Scene();
        scene.Keep(drawn.ToEdit("new", "New"));
        var draft = new SceneDraft(scene);
        var bounds = Extents.Own(draft, draft.Get("new"), Affine.Identity);
        var corners = drawn.Corners().Aggregate(Bounds.Empty, (all, c) => all.With(c));
        Assert.Equal(0.75, bounds.Size.Y, 1e-9);
        Assert.Equal(0, bounds.Low.Y, 1e-9);
        Some.Near(corners.Low, bounds.Low, 1e-2);
        Some.Near(corners.High, bounds.High, 1e-2);
        Some.Near(bounds.Anchor(new(0, -1, 0)), draft.World(draft.Get("new")).Point(draft.Get("new").Placement.Pivot), 1e-9);
    }

    [Fact]
    public void On_a_slope_it_stands_upright_to_the_slope()
    {
        var upright = new Vec3(0, 1, 1).Unit();
        var drawn = new DrawnShape("box", Vec3.Zero, upright, Above);
        drawn.FootTo(To(new(1, 0.5, -0.5)), null);
        var scene = Some.Scene();
        scene.Keep(drawn.ToEdit("new", "New"));
        Some.Near(upright, scene.World("new").Linear.Y);
        Assert.Equal(1, ((Box)scene.Find("new")!.Shape!).Size.X, 1e-9);
    }

    [Fact]
    public void Its_sides_come_in_steps_and_downward_it_hangs_below()
    {
        var drawn = new DrawnShape("box", Vec3.Zero, Vec3.UnitY, Above);
        drawn.FootTo(To(new(0.98, 0, 0.53)), 0.25);
        Some.Near(new Vec3(1, 0, 0.5), drawn.Size);
        drawn.RiseTo(To(new(1, 0, 0.5)), 0.25);
        drawn.RiseTo(To(new(1, -0.55, 0.5)), 0.25);
        Assert.Equal(0.5, drawn.Size.Y, 1e-12);
        var scene = Some.Scene();
        scene.Keep(drawn.ToEdit("new", "New"));
        var draft = new SceneDraft(scene);
        Assert.Equal(0, Extents.Own(draft, draft.Get("new"), Affine.Identity).High.Y, 1e-9);
    }

    [Fact]
    public void A_slip_of_the_pointer_is_no_shape_and_a_ray_beside_the_ground_changes_nothing()
    {
        var drawn = new DrawnShape("plane", Vec3.Zero, Vec3.UnitY, Above);
        Assert.False(drawn.IsThere);
        drawn.FootTo(To(new(1, 0, 1)), null);
        Assert.True(drawn.IsThere);
        var size = drawn.Size;
        drawn.FootTo(new(Eye, Vec3.UnitX), null);
        drawn.FootTo(new(Eye, Vec3.UnitY), null);
        Assert.Equal(size, drawn.Size);
        Some.Refuses(Refusals.NotUnderstood, () => new DrawnShape("cloud", Vec3.Zero, Vec3.UnitY, Above));
        Some.Refuses(Refusals.NotUnderstood, () => new DrawnShape("box", Vec3.Zero, Vec3.Zero, Above));
    }

    [Theory]
    [InlineData("ball")]
    [InlineData("icoball")]
    [InlineData("ring")]
    [InlineData("disc")]
    [InlineData("capsule")]
    public void Round_shapes_are_drawn_from_their_middle(string type)
    {
        var drawn = new DrawnShape(type, new(2, 0, 0), Vec3.UnitY, Above);
        drawn.FootTo(To(new(2, 0, 0.6)), null);
        var scene = Some.Scene();
        scene.Keep(drawn.ToEdit("new", "New"));
        var draft = new SceneDraft(scene);
        var bounds = Extents.Own(draft, draft.Get("new"), Affine.Identity);
        Assert.Equal(2, bounds.Middle.X, 2e-2);
        Assert.Equal(1.2, bounds.Size.X, 2e-2);
        Assert.Equal(0, bounds.Low.Y, 1e-9);
    }

    [Fact]
    public void A_pad_dragged_through_zero_stops_and_says_so()
    {
        var scene = Some.Scene(Some.Box("box", null));
        using var evaluator = new Evaluator(scene);
        var trial = new Trial(scene, evaluator, new Scale(["box"], Vec3.One, new OwnSpace(), new AboutOwn()), new OwnSpace());
        trial.Grab(new(HandlePart.Pad, 0), Above, 1, To(new(1, 0, 0)));
        trial.DragTo(To(new(-3, 0, 0)), false, null);
        Assert.Equal(0.001, trial.Draft!.Get("box").Placement.Scale.X);
        Assert.Contains("It stops here", trial.Reading.Warning, StringComparison.Ordinal);
    }

    private static Ray To(Vec3 point) => new(Eye, (point - Eye).Unit());
}
