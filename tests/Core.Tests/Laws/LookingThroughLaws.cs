using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What cameras see, keep and level, held against the formulas of model.md.</summary>
public sealed class LookingThroughLaws
{
    private static readonly Gen<(SceneDocument Scene, Vec3 Eye)> Looking = Gen.Select(Some.Placements, Some.Point, Some.Angles, Gen.Double[5, 120], Gen.Double[2, 40]).Select((carrier, eye, angles, fov, away) =>
    {
        var scene = Some.Scene(
            Node.Bare("dolly", "Dolly", NodeKind.Group, null, carrier),
            Node.Bare("eye", "Eye", NodeKind.Camera, "dolly", Placement.Default with { Position = eye, Rotation = angles }) with { Camera = new(Fov: fov, Near: 1e-3) },
            Node.Bare("globe", "Globe", NodeKind.Shape, null, Placement.Default) with { Rank = 2, Shape = new Box(new(1, 2, 0.5)) });
        var view = Through(scene).View;
        scene.Keep(new Place("globe", new() { Position = view.Offset - view.Linear.Z * away + view.Linear.X * (away / 9), Rotation = angles }));
        return (scene, eye);
    });

    [Fact]
    public void A_thing_keeps_its_size_while_the_angle_or_the_distance_changes() => Gen.Select(Looking, Gen.Double[4, 130], Gen.Double[1, 60], Gen.Bool).Sample(
        (looking, fov, depth, byAngle) =>
        {
            var scene = looking.Scene;
            var (before, lens, size) = (Depth(scene), scene.Find("eye")!.Camera!, Size(scene));
            scene.Keep(byAngle ? new KeepSize("eye", "globe", Fov: fov) : new KeepSize("eye", "globe", Depth: depth));
            var (after, now) = (Depth(scene), scene.Find("eye")!.Camera!);
            Assert.Equal(before * Slope(lens.Fov) / Slope(now.Fov), after, 1e-9 * Math.Max(1, after) * 10);
            Assert.Equal(byAngle ? fov : depth, byAngle ? now.Fov : after, 1e-9 * Math.Max(1, depth + after));
            Assert.Equal(size, Size(scene), 1e-9 * Math.Max(1, size));
        },
        iter: 300);

    [Fact]
    public void What_would_come_too_near_or_cannot_keep_its_size_is_refused_by_name()
    {
        var scene = Some.Scene(
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Position = new(0, 0, 5) }) with { Camera = new(Near: 1) },
            Some.Box("globe", null, Placement.Default, 2),
            Some.Box("flag", "eye", Placement.Default, 1),
            Some.Box("behind", null, Placement.Default with { Position = new(0, 0, 9) }, 3));
        string Refused(Edit edit, string word = Refusals.NotUnderstood) => Some.Refuses(word, () => scene.Keep(edit)).Message;
        Assert.Contains("nearer than its near plane at 1 m", Refused(new KeepSize("eye", "globe", Fov: 150)), StringComparison.Ordinal);
        Assert.Contains("“flag” goes along with “Eye”", Refused(new KeepSize("eye", "flag", Fov: 20), Refusals.WouldLoop), StringComparison.Ordinal);
        Assert.Contains("“behind” is not before “Eye”", Refused(new KeepSize("eye", "behind", Fov: 20)), StringComparison.Ordinal);
        Assert.Contains("one of the two", Refused(new KeepSize("eye", "globe")), StringComparison.Ordinal);
        Assert.Contains("more than nothing", Refused(new KeepSize("eye", "globe", Depth: -1)), StringComparison.Ordinal);
        Assert.Contains("0.01 to 179°", Refused(new KeepSize("eye", "globe", Fov: 400)), StringComparison.Ordinal);
        scene.Keep(new SetCamera(["eye"], Projection.Parallel));
        Assert.Contains("sees in parallel", Refused(new KeepSize("eye", "globe", Fov: 20)), StringComparison.Ordinal);
    }

    [Fact]
    public void In_one_shot_only_a_size_is_kept_by_cheats()
    {
        var scene = Some.Scene(Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Position = new(0, 0, 5) }) with { Camera = new() }, Some.Box("globe", null, Placement.Default, 2));
        scene.Keep(new MakeShot(new("dome", Camera: "eye")));
        scene.Apply(Batch.Run(scene, [new KeepSize("eye", "globe", Fov: 20)], new("dome", Narrow: true)).Change);
        Assert.Equal(38, scene.Find("eye")!.Camera!.Fov);
        Assert.Equal(["camera.fov", "position.z"], scene.CheatsOf("dome").Select(c => c.Channel).Order());
        Assert.Equal(5 * Slope(38) / Slope(20), new ShotScene(scene, "dome").Find("eye")!.Placement.Position.Z, 1e-9);
    }

    [Fact]
    public void A_levelled_camera_looks_where_it_looked_and_stands_upright() => Looking.Sample(
        looking =>
        {
            var before = Through(looking.Scene).View;
            if (Vec3.UnitY.Cross(before.Linear.Z).Length < 1e-3)
            {
                return;
            }

            looking.Scene.Keep(new Level(["eye"]));
            var after = Through(looking.Scene).View;
            Assert.True((after.Linear.Z - before.Linear.Z).Length < 1e-9 && (after.Offset - before.Offset).Length < 1e-9 * Math.Max(1, before.Offset.Length));
            Assert.Equal(0, after.Linear.X.Y, 1e-9);
            Assert.True(after.Linear.Y.Y > -1e-9);
            var reading = CameraReading.Of(new SceneDraft(looking.Scene), "eye", "globe")!;
            Assert.True(reading.IsLevel);
            Assert.True(reading.Left is null || Math.Abs(reading.Left.Value - reading.Right!.Value) < 1e-6);
        },
        iter: 200);

    [Fact]
    public void Straight_down_there_is_no_horizon()
    {
        var scene = Some.Scene(Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Rotation = new(-90, 0, 0) }) with { Camera = new() });
        Assert.Contains("looks straight down", Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new Level(["eye"]))).Message, StringComparison.Ordinal);
        Assert.Null(CameraReading.Of(new SceneDraft(scene), "eye", null)!.Roll);
    }

    [Fact]
    public void The_horizon_lies_where_level_ways_meet_the_edges() => Looking.Sample(
        looking =>
        {
            var reading = CameraReading.Of(new SceneDraft(looking.Scene), "eye", null)!;
            if (reading is not { Left: { } left, Right: { } right })
            {
                return;
            }

            var through = Through(looking.Scene);
            var high = Slope(through.Lens.Fov);
            foreach (var (share, u) in new[] { (left, -high * through.Aspect), (right, high * through.Aspect) })
            {
                var way = through.View.Linear * new Vec3(u, (2 * share - 1) * high, -1);
                Assert.Equal(0, way.Y / way.Length, 1e-9);
            }
        },
        iter: 200);

    [Fact]
    public void The_frame_holds_what_its_formula_says_to_a_billionth() => Gen.Select(Looking, Gen.Double[0.3, 4], Gen.Bool, Gen.Int[0, 3], Gen.Bool).Sample(
        (looking, aspect, inParallel, side, within) =>
        {
            var scene = looking.Scene;
            scene.Keep(new SetCamera(["eye"], inParallel ? Projection.Parallel : Projection.Perspective, Aspect: aspect, Height: 3));
            var through = Through(scene);

            // A box along the view whose nearest corner comes to a side of the frame, a billionth within or beyond.
            var (away, half, at) = (7.0, new Vec3(0.2, 0.3, 0.4), side / 2);
            var high = inParallel ? 1.5 : Slope(through.Lens.Fov) * (away + half.Z);
            var limit = at == 0 ? high * aspect : high;
            var by = limit + half[at] + (within ? -1e-9 : 1e-9) * Math.Max(1, limit);
            var middle = new Vec3(at == 0 ? by : 0, at == 1 ? by : 0, -away);
            middle = side % 2 == 0 ? middle : middle with { X = -middle.X, Y = -middle.Y };
            var turn = Euler.FromMatrix(through.View.Linear, EulerOrder.XYZ, Vec3.Zero);
            scene.Keep(new Place("globe", new() { Position = through.View.Point(middle), Rotation = turn, Order = EulerOrder.XYZ, Scale = Vec3.One, Shear = Vec3.Zero, Pivot = Vec3.Zero }), new SetShape("globe", new() { Size = [0.4, 0.6, 0.8] }));
            var off = (Extents.OfBranch(new SceneDraft(scene), scene.Find("globe")!, through.View.Inverse()).Middle - middle).Length;
            if (off < 1e-11)
            {
                Assert.Equal(within, Framed(scene, true).Contains("globe"));
            }
        },
        iter: 300);

    [Fact]
    public void What_others_hide_counts_only_where_it_is_asked()
    {
        var scene = Some.Scene(
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Position = new(0, 0, 10) }) with { Camera = new() },
            Some.Box("wall", null, Placement.Default with { Scale = new(4, 4, 0.1) }, 2),
            Some.Box("behind", null, Placement.Default with { Position = new(0, 0, -2) }, 3),
            Some.Box("peeps", null, Placement.Default with { Position = new(2.3, 0, -2) }, 4),
            Some.Box("speck", null, Placement.Default with { Position = new(0, 1, 2), Scale = new(1e-6, 1e-6, 1e-6) }, 5),
            Some.Box("hidden speck", null, Placement.Default with { Position = new(0.5, 1, -2), Scale = new(1e-6, 1e-6, 1e-6) }, 6),
            Some.Box("off", null, Placement.Default with { Position = new(0, 0, 3) }, 7) with { Switches = new(Final: false) },
            Some.Box("aside", null, Placement.Default with { Position = new(50, 0, 0) }, 8),
            Some.Box("past", null, Placement.Default with { Position = new(0, 0, 20) }, 9));
        Assert.Equal(["behind", "hidden speck", "peeps", "speck", "wall"], Framed(scene, true).Order());
        Assert.Equal(["peeps", "speck", "wall"], Framed(scene, false).Order());
    }

    [Fact]
    public void What_is_beyond_the_frame_can_be_switched_off_and_nothing_else_goes() => Gen.Select(Gen.Int[0, 1_000_000], Some.Angles).Sample(
        (seed, angles) =>
        {
            var scene = AnyEdit.Room(seed);
            scene.Keep(new Unconstrain([.. scene.All().Where(n => !n.Constraints.IsEmpty).Select(n => new EntryOf(n.Id)).DefaultIfEmpty(new("eye"))]));
            scene.Keep(new Place("eye", new() { Position = new(0, 0, 3), Rotation = angles }));
            AnyEdit.Shoot(scene, seed, "see");
            var layer = new ShotScene(scene, "one");
            using var evaluator = new Evaluator(layer);
            var (sight, through) = (new Sight(layer, evaluator), SeenThrough.Of(layer.Find("eye")!.Camera!, evaluator.World("eye")));
            var found = InFrame.Of(layer, evaluator, sight, through, true);
            var beyond = InFrame.Beyond(layer, sight, found);
            if (beyond.Count == 0)
            {
                return;
            }

            scene.Keep(new SeeIn(["one"], beyond, false));
            layer = new ShotScene(scene, "one");
            using var after = new Evaluator(layer);
            sight = new Sight(layer, after);
            Assert.Equal(found.Order(), InFrame.Of(layer, after, sight, through, true).Order());

            // What else is left carries something of the picture.
            Assert.All(
                scene.Branch(null).Where(n => (n.Shape is not null || n.Geometry is not null) && !n.IsController && (sight.Of(n.Id) & SightBits.Final) != 0 && !found.Contains(n.Id)),
                n => Assert.Contains(scene.Branch(n.Id), below => found.Contains(below.Id) || below.Light is not null || below.Camera is not null));
            Assert.Empty(InFrame.Beyond(layer, sight, found));
        },
        iter: 100);

    [Fact]
    public void Frames_of_any_shape_are_seen_through()
    {
        foreach (var aspect in new[] { 0.01, 1, 100 })
        {
            var scene = Some.Scene(Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Position = new(0, 0, 10) }) with { Camera = new() }, Some.Box("globe", null, Placement.Default, 2));
            scene.Keep(new SetCamera(["eye"], Aspect: aspect));
            Assert.Equal(["globe"], Framed(scene, false));
        }
    }

    private static SeenThrough Through(SceneDocument scene) => SeenThrough.Of(scene.Find("eye")!.Camera!, new SceneDraft(scene).World(scene.Find("eye")!));

    private static double Depth(SceneDocument scene) => SeenThrough.DepthOf(new SceneDraft(scene), Through(scene).View, scene.Find("globe")!);

    /// <summary>The height of the middle plane of the thing in the picture.</summary>
    private static double Size(SceneDocument scene) => 1 / (Depth(scene) * Slope(scene.Find("eye")!.Camera!.Fov));

    private static double Slope(double fov) => Math.Tan(fov * Math.PI / 360);

    private static IReadOnlyList<string> Framed(SceneDocument scene, bool behindOthers)
    {
        using var evaluator = new Evaluator(scene);
        return InFrame.Of(scene, evaluator, new Sight(scene, evaluator), Through(scene), behindOthers);
    }
}
