using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Whose axes, about which point, and how far things extend.</summary>
public sealed class SpaceStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("Base", null, Placement.Default with { Position = new(2, 0, 0), Rotation = new(0, 90, 0), Scale = new(1, -2, 1) }, 1),
        Some.Box("Arm", "Base", Placement.Default with { Position = new(0, 1, 0), Rotation = new(0, 0, 30) }, 1),
        Some.Box("Ball", null, Placement.Default with { Position = new(0, 0, 4) }, 2));

    [Fact]
    public void A_node_without_parent_has_the_worlds_axes_for_its_parents() =>
        Assert.Equal(Mat3.Identity, Axes(new ParentSpace(), "Ball"));

    [Fact]
    public void A_nodes_own_mirror_does_not_turn_its_needles()
    {
        var plain = Axes(new OwnSpace(), "Ball");
        _scene.Keep(new Place("Ball", new() { Scale = new(1, 1, -1) }));
        Assert.Equal(plain, Axes(new OwnSpace(), "Ball"));
    }

    [Fact]
    public void The_leads_axes_are_the_same_for_all()
    {
        var draft = new SceneDraft(_scene);
        var lead = draft.Get("Arm");
        Assert.Equal(Axes(new OwnSpace(), "Arm"), new LeadSpace().Axes(draft, draft.Get("Ball"), lead));
    }

    [Fact]
    public void The_views_axes_are_right_up_and_toward_the_eye()
    {
        var view = new Affine(Mat3.Rotation(1, 90), new(10, 0, 0));
        var axes = Axes(new ViewSpace(view), "Ball");
        Some.Near(-Vec3.UnitZ, axes.X);
        Some.Near(Vec3.UnitY, axes.Y);
        Some.Near(Vec3.UnitX, axes.Z);
    }

    [Fact]
    public void A_surface_stands_its_Y_upright_and_lays_the_nodes_X_on_it()
    {
        var axes = Axes(new SurfaceSpace(new(0, 3, 0)), "Ball");
        Some.Near(Vec3.UnitY, axes.Y);
        Some.Near(Vec3.UnitX, axes.X);
        Some.Near(Vec3.UnitY, Axes(new SurfaceSpace(Vec3.UnitX), "Ball").Z * -1, 3);
        Some.Refuses(Refusals.NotUnderstood, () => Axes(new SurfaceSpace(new(1e-9, 0, 0)), "Ball"));
    }

    [Fact]
    public void Centres_are_where_their_words_say()
    {
        Assert.Null(Centre(new AboutOwn()));
        Some.Near(new Vec3(0, 0, 4), Centre(new AboutLead())!.Value);
        Some.Near(new Vec3(1, 0, 2), Centre(new AboutMean())!.Value);
        Assert.Equal(Vec3.Zero, Centre(new AboutZero()));
        Assert.Equal(Vec3.One, Centre(new AboutPoint(Vec3.One)));
    }

    [Fact]
    public void The_middle_of_the_bounds_counts_branches_and_hidden_nodes()
    {
        _scene.Keep(new See(["Arm"], Working: false));
        var draft = new SceneDraft(_scene);
        var expected = Bounds.Empty;
        foreach (var id in new[] { "Base", "Arm", "Ball" })
        {
            foreach (var corner in Corners(new(1, 2, 3)))
            {
                expected = expected.With(draft.World(draft.Get(id)).Point(corner));
            }
        }

        Some.Near(expected.Middle, Centre(new AboutBounds())!.Value);
    }

    [Fact]
    public void Without_any_extent_the_middle_of_the_bounds_is_the_mean_of_the_pivots()
    {
        var scene = Some.Scene(Group("a", new(2, 0, 0)), Group("b", new(0, 0, 4)));
        var draft = new SceneDraft(scene);
        var nodes = new[] { draft.Get("a"), draft.Get("b") };
        Some.Near(new Vec3(1, 0, 2), new AboutBounds().Centre(draft, nodes, nodes[1])!.Value);
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => scene.Run(new MovePivot(["a"], new(Vec3.Zero)))).Word);
    }

    [Fact]
    public void Exact_bounds_hold_every_vertex_and_touch_each_side() =>
        Gen.Select(Some.Placements, Some.Angles).Sample((placement, angles) =>
        {
            var scene = Some.Scene(Some.Box("a", null, placement));
            var draft = new SceneDraft(scene);
            var toAxes = new Affine(Euler.ToMatrix(angles, EulerOrder.XYZ), Vec3.Zero);
            var bounds = Extents.OfBranch(draft, draft.Get("a"), toAxes);
            var points = Corners(new(1, 2, 3)).Select(c => toAxes.Point(placement.Local().Point(c))).ToList();
            Some.Near(points.Aggregate(Vec3.Min), bounds.Low, 1e-9);
            Some.Near(points.Aggregate(Vec3.Max), bounds.High, 1e-9);
        });

    [Fact]
    public void A_groups_own_bounds_are_those_of_what_it_carries()
    {
        var scene = Some.Scene(Group("rack", new(5, 0, 0)), Some.Box("box", "rack", Placement.Default with { Position = new(0, 1, 0) }));
        scene.Keep(new MovePivot(["rack"], new(new Vec3(0, -1, 0))));
        Assert.Equal(Vec3.Zero, scene.Find("rack")!.Placement.Pivot);
        scene.Keep(new MovePivot(["rack"], new(new Vec3(1, 1, 1))));
        Some.Near(new Vec3(0.5, 2, 1.5), scene.Find("rack")!.Placement.Pivot);
    }

    [Fact]
    public void With_numbers_kept_the_node_shifts_so_that_the_new_pivot_stands_where_the_old_one_stood()
    {
        var before = _scene.Find("Ball")!.Placement.Position;
        _scene.Keep(new MovePivot(["Ball"], new(new Vec3(0, -1, 0)), Keep: Keep.Numbers));
        Assert.Equal(before, _scene.Find("Ball")!.Placement.Position);
        Some.Near(before + Vec3.UnitY, _scene.World("Ball").Offset);
    }

    [Fact]
    public void A_pivot_goes_to_a_point_of_the_world_or_of_its_own_frame()
    {
        var world = _scene.World("Arm");
        _scene.Keep(new MovePivot(["Arm"], new(Point: new(1, 1, 1))));
        Some.Near(new Vec3(1, 1, 1), world.Point(_scene.Find("Arm")!.Placement.Pivot));
        _scene.Keep(new MovePivot(["Arm"], new(Own: new(0.1, 0.2, 0.3))));
        Assert.Equal(new Vec3(0.1, 0.2, 0.3), _scene.Find("Arm")!.Placement.Pivot);
        Some.Near(world, _scene.World("Arm"));
    }

    [Fact]
    public void Scaling_about_a_point_leaves_the_point_of_the_node_there() =>
        Gen.Select(Some.Chains, Some.Point, Some.Factors).Sample((scene, centre, factors) =>
        {
            var q = scene.World("child").Inverse().Point(centre);
            scene.Keep(new Scale(["child"], factors, new OwnSpace(), new AboutPoint(centre)));
            Some.Near(centre, scene.World("child").Point(q), 1e-6);
        });

    private static Node Group(string id, Vec3 position) =>
        Some.Box(id, null, Placement.Default with { Position = position }) with { Kind = NodeKind.Group, Shape = null, Materials = [] };

    private static IEnumerable<Vec3> Corners(Vec3 size) =>
        from x in new[] { -0.5, 0.5 } from y in new[] { -0.5, 0.5 } from z in new[] { -0.5, 0.5 } select size.Times(new(x, y, z));

    private Mat3 Axes(Space space, string id)
    {
        var draft = new SceneDraft(_scene);
        return space.Axes(draft, draft.Get(id), draft.Get(id));
    }

    private Vec3? Centre(About about)
    {
        var draft = new SceneDraft(_scene);
        return about.Centre(draft, [draft.Get("Base"), draft.Get("Ball")], draft.Get("Ball"));
    }
}
