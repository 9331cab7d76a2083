using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Drags that snap: what is in reach, which of it wins, and where the moved then stands.</summary>
public sealed class SnapStories
{
    private static readonly View Front = new(new(Mat3.Identity, new(0, 0, 10)), Parallel: false);
    private static readonly SnapKind[] All = Enum.GetValues<SnapKind>();

    // A square of two triangles that face +Z, from (1, 1) to (2, 2), in the frame of "wall".
    private static readonly double[] Square = [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0];

    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("thing", null),
        Some.Box("wall", null, Placement.Default with { Position = new(1, 1, 0) }, 1),
        Some.Box("off", null, Placement.Default with { Position = new(1.5, 1.5, 0) }, 2) with { Switches = new(false, true, false) });

    [Fact]
    public void The_ring_brings_the_pivot_to_a_vertex_within_reach()
    {
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(2.01, 1.99, 0)), false, null, snap: Snap(SnapKind.Vertex, SnapKind.Face));
        Some.Near(new Vec3(2, 2, 0), trial.Amount);
        Assert.Equal("a vertex of wall", trial.Caught!.Value.Words);
    }

    [Fact]
    public void Out_of_reach_it_follows_the_pointer()
    {
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(3, 3, 0)), false, null, snap: Snap(SnapKind.Vertex));
        Some.Near(new Vec3(3, 3, 0), trial.Amount);
        Assert.Null(trial.Caught);
    }

    [Fact]
    public void A_needle_brings_it_as_far_as_its_axis_can()
    {
        var trial = Grab(HandlePart.Needle, new(0.5, 0, 0));
        trial.DragTo(RayTo(new(2.01, 2, 0)), false, null, snap: Snap(SnapKind.Vertex));
        Some.Near(new Vec3(2, 0, 0), trial.Amount);
    }

    [Fact]
    public void A_pivot_along_an_axis_catches_level_with_its_own_objects_corners_and_edges()
    {
        using var evaluator = new Evaluator(_scene);
        var space = new WorldSpace();
        var trial = new Trial(_scene, evaluator, new MovePivot(["thing"], Shift: new(Vec3.Zero, space)), space);
        // The box is 1 wide, so that its corner lies at 0.5; the pointer is far from it, at the tip of the needle.
        trial.Grab(new(HandlePart.Needle, 0), Front, 1, RayTo(new(3, 0, 0)));
        trial.DragTo(RayTo(new(3.49, 0, 0)), false, null, snap: Snap(SnapKind.Corner));
        Some.Near(new Vec3(0.5, 0, 0), trial.Amount);
        Assert.Equal("a corner of thing's bounds", trial.Caught!.Value.Words);
        trial.DragTo(RayTo(new(3.3, 0, 0)), false, null, snap: Snap(SnapKind.Corner));
        Assert.Null(trial.Caught);
        Assert.Equal(0.3, trial.Amount.X, 1e-9);
        trial.DragTo(RayTo(new(2.51, 0, 0)), false, null, snap: Snap(SnapKind.EdgeMiddle));
        Some.Near(new Vec3(-0.5, 0, 0), trial.Amount);
    }

    [Fact]
    public void Of_several_kinds_the_stronger_wins_and_the_next_can_be_asked_for()
    {
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        var snap = Snap(All);
        trial.DragTo(RayTo(new(1.99, 1.99, 0)), false, null, snap: snap);
        Assert.Equal(SnapKind.Vertex, trial.Caught!.Value.Target.Kind);
        var kinds = Enumerable.Range(0, trial.Caught!.Value.InReach).Select(i =>
        {
            trial.DragTo(RayTo(new(1.99, 1.99, 0)), false, null, snap: snap with { Next = i });
            return trial.Caught!.Value.Target.Kind;
        }).ToList();
        Assert.Equal(kinds.Order(), kinds);
        Assert.Contains(SnapKind.Edge, kinds);
        Assert.Contains(SnapKind.Face, kinds);
    }

    [Fact]
    public void Two_triangles_of_one_plane_have_no_edge_between_them()
    {
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(1.5, 1.5, 0)), false, null, snap: Snap(SnapKind.Edge, SnapKind.EdgeMiddle));
        Assert.Null(trial.Caught);
        trial.DragTo(RayTo(new(1.5, 1.02, 0)), false, null, snap: Snap(SnapKind.EdgeMiddle));
        Some.Near(new Vec3(1.5, 1, 0), trial.Amount);
        trial.DragTo(RayTo(new(1.7, 1.02, 0)), false, null, snap: Snap(SnapKind.Edge));
        Assert.Equal(1, trial.Amount.Y, 1e-9);
        Assert.Equal(1.7, trial.Amount.X, 2e-2);
    }

    [Fact]
    public void Pivots_corners_and_marks_are_targets_but_not_what_is_moved_or_hidden()
    {
        _scene.Apply(new([new("mark", null, Some.Mark("mark", null, new(-2, 1, 0), Vec3.Zero))]));
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(1.01, 1, 0)), false, null, snap: Snap(SnapKind.Pivot));
        Assert.Equal("wall's pivot", trial.Caught!.Value.Words);
        trial.DragTo(RayTo(new(-2, 1.01, 0)), false, null, snap: Snap(SnapKind.Pivot));
        Assert.Equal("the mark mark", trial.Caught!.Value.Words);
        trial.DragTo(RayTo(new(0.5, 0, -1.5)), false, null, snap: Snap(SnapKind.Corner));
        Assert.Equal("a corner of wall's bounds", trial.Caught!.Value.Words);
        trial.DragTo(RayTo(new(1.5, 1.5, 0)), false, null, snap: Snap(SnapKind.Pivot));
        Assert.Null(trial.Caught);
        trial.DragTo(RayTo(new(0.01, 0, 0)), false, null, snap: Snap(SnapKind.Pivot));
        Assert.Null(trial.Caught);
    }

    [Fact]
    public void The_nearest_corner_or_a_picked_point_can_be_what_snaps()
    {
        // The thing is 1 × 2 × 3 about its middle.
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(2, 2, 0)), false, null, snap: Snap(SnapKind.Vertex) with { Source = SnapSource.Corner });
        var corner = new Vec3(2, 2, 0) - trial.Amount;
        Some.Near(new Vec3(0.5, 1, 1.5), corner.Map(Math.Abs));
        trial.DragTo(RayTo(new(2, 2, 0)), false, null, snap: Snap(SnapKind.Vertex) with { Source = SnapSource.Picked, From = new(0.5, 0, 0) });
        Some.Near(new Vec3(1.5, 2, 0), trial.Amount);
    }

    [Fact]
    public void On_a_face_the_own_y_can_turn_to_its_upright()
    {
        var trial = Grab(HandlePart.Ring, Vec3.Zero);
        trial.DragTo(RayTo(new(1.3, 1.6, 0)), false, null, snap: Snap(SnapKind.Face) with { Turn = true });
        Assert.Equal(2, trial.Edits.Count);
        var draft = trial.Draft!;
        Some.Near(Vec3.UnitZ, OwnSpace.Of(draft, draft.Get("thing")).Y);
        Some.Near(new Vec3(1.3, 1.6, 0), draft.World(draft.Get("thing")).Offset, 1e-6);
    }

    [Fact]
    public void A_pivot_snaps_to_its_own_objects_vertices_and_the_object_stays()
    {
        using var evaluator = new Evaluator(_scene);
        var trial = new Trial(_scene, evaluator, new MovePivot(["wall"]), new WorldSpace());
        trial.Grab(new(HandlePart.Ring, 0), Front, 1, RayTo(new(1, 1, 0)));
        trial.DragTo(RayTo(new(2, 2, 0)), false, null, snap: Snap(SnapKind.Vertex));
        var draft = trial.Draft!;
        Some.Near(new Vec3(1, 1, 0), draft.Get("wall").Placement.Pivot);
        Some.Near(_scene.World("wall"), draft.World(draft.Get("wall")));
    }

    [Fact]
    public void The_grid_of_the_ground_is_a_target_in_any_view()
    {
        var above = new View(new(Mat3.Rotation(0, -90), new(0, 10, 0)), Parallel: true);
        using var evaluator = new Evaluator(_scene);
        var trial = new Trial(_scene, evaluator, new Move(["thing"], Vec3.Zero, new WorldSpace()), new WorldSpace());
        trial.Grab(new(HandlePart.Ring, 0), above, 1, new(new(0, 10, 0), new(0, -1, 0)));
        trial.DragTo(new(new(2.04, 10, 1.97), new(0, -1, 0)), false, null, snap: Snap(SnapKind.Grid) with { Focal = 100, Grid = 0.5 });
        Some.Near(new Vec3(2, 0, 2), trial.Amount);
    }

    [Fact]
    public void Steps_lie_on_the_grid_of_the_space_when_asked()
    {
        _scene.With("thing", p => p with { Position = new(0.3, 0, 0) });
        var trial = Grab(HandlePart.Needle, new(0.5, 0, 0));
        trial.DragTo(RayTo(new(1.4, 0, 0)), false, 0.25, onGrid: true);
        Some.Near(new Vec3(1.25, 0, 0), trial.Draft!.Get("thing").Placement.Position);
        trial.DragTo(RayTo(new(1.4, 0, 0)), false, 0.25);
        Some.Near(new Vec3(1.3, 0, 0), trial.Draft!.Get("thing").Placement.Position);
    }

    [Theory]
    [InlineData("parent", 1, 37)]
    [InlineData("own", 0, 15)]
    [InlineData("channels", 2, 4)]
    public void A_turn_on_the_grid_ends_at_whole_steps_of_the_stored_angle(string space, int axis, double start)
    {
        Space along = space switch { "own" => new OwnSpace(), "channels" => new ChannelsSpace(), _ => new ParentSpace() };
        _scene.With("thing", p => p with { Rotation = Vec3.Zero.With(axis, start) });
        using var evaluator = new Evaluator(_scene);
        var trial = new Trial(_scene, evaluator, new Rotate(["thing"], 0, Vec3.Axis(axis), along, new AboutOwn()), along);
        trial.Grab(new(HandlePart.Arc, axis), Front, 1, RayTo(new(1, 0.2, 0)));
        trial.DragTo(RayTo(new(0.3, 1, 0)), false, 10, onGrid: true);
        var angle = trial.Draft!.Get("thing").Placement.Rotation[axis];
        Assert.Equal(0, Math.IEEERemainder(angle, 10), 1e-9);
        Assert.NotEqual(start, angle);
    }

    [Fact]
    public void A_value_typed_to_sets_the_stored_channel_where_one_corresponds()
    {
        Edit To(Edit template, double value, params bool[] axes) => Towards.Value(_scene, template, value, axes);
        _scene.With("thing", p => p with { Position = new(5, 6, 7), Rotation = new(0, 40, 0) });
        _scene.Keep(To(new Move(["thing"], Vec3.Zero, new ParentSpace()), 2, true, false, true));
        Assert.Equal(new Vec3(2, 6, 2), _scene.Find("thing")!.Placement.Position);
        _scene.Keep(To(new Rotate(["thing"], 0, Vec3.UnitY, new ParentSpace(), new AboutOwn()), 90, false, true, false));
        Assert.Equal(new Vec3(0, 90, 0), _scene.Find("thing")!.Placement.Rotation);
        _scene.Keep(To(new Scale(["thing"], Vec3.One, new OwnSpace(), new AboutOwn()), 1.5, true, true, true));
        Assert.Equal(Vec3.One * 1.5, _scene.Find("thing")!.Placement.Scale);
        Some.Refuses(Refusals.NotUnderstood, () => To(new Move(["thing"], Vec3.Zero, new OwnSpace()), 1, true, false, false));
        Some.Refuses(Refusals.NotUnderstood, () => To(new Rotate(["thing"], 0, new Vec3(1, 1, 0), new WorldSpace(), new AboutOwn()), 1, true, false, false));
    }

    private static SnapRequest Snap(params SnapKind[] kinds) => new(kinds, [new("wall", Square)], 12, 800);

    private static Ray RayTo(Vec3 point) => new(new(0, 0, 10), (point - new Vec3(0, 0, 10)).Unit());

    private Trial Grab(HandlePart part, Vec3 at)
    {
        var evaluator = new Evaluator(_scene);
        var trial = new Trial(_scene, evaluator, new Move(["thing"], Vec3.Zero, new WorldSpace()), new WorldSpace());
        trial.Grab(new(part, 0), Front, 1, RayTo(at));
        return trial;
    }
}
