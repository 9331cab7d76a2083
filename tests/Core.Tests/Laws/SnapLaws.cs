using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Snapping against an exhaustive look at all points, in perspective and parallel views; grids of any space.</summary>
public sealed class SnapLaws
{
    private const double Focal = 700;
    private const double Radius = 30;

    private static readonly Gen<View> Views = Gen.Select(Some.Direction, Some.Direction, Gen.Bool)
        .Where((eye, up, _) => eye.Cross(up).Length > 0.1)
        .Select((eye, up, parallel) => new View(new(new Mat3(up.Cross(eye).Unit(), eye.Cross(up.Cross(eye)).Unit(), eye), eye * 12), parallel));

    private static readonly Gen<double[]> Triangles = Gen.Double[-2, 2].Array[36];

    [Fact]
    public void The_first_vertex_is_the_one_nearest_to_the_pointer() =>
        Gen.Select(Views, Triangles, Some.Placements, Some.Vector(Gen.Double[-2, 2])).Sample((view, triangles, placement, aim) =>
        {
            var world = placement.Local();
            var ray = RayThrough(view, world.Point(aim * 0.3));
            var targets = new SnapTargets(view, ray, Focal, Radius);
            targets.AddTriangles("node", world, triangles, new HashSet<SnapKind> { SnapKind.Vertex });
            var found = targets.Sorted();
            var all = Enumerable.Range(0, triangles.Length / 3)
                .Select(i => world.Point(new(triangles[3 * i], triangles[3 * i + 1], triangles[3 * i + 2])))
                .Select(p => Pixels(view, ray, p))
                .Where(pixels => pixels <= Radius)
                .ToList();
            Assert.Equal(all.Count > 0, found.Count > 0);
            if (all.Count > 0)
            {
                Assert.Equal(all.Min(), Pixels(view, ray, found[0].Point), 2e-3);
            }
        });

    [Fact]
    public void Every_target_lies_within_reach_on_what_it_is_said_to_lie_on_and_the_kinds_are_in_order() =>
        Gen.Select(Views, Triangles, Some.Vector(Gen.Double[-1, 1])).Sample((view, triangles, aim) =>
        {
            var ray = RayThrough(view, aim);
            var targets = new SnapTargets(view, ray, Focal, Radius);
            targets.AddTriangles("node", Affine.Identity, triangles, Enum.GetValues<SnapKind>().ToHashSet());
            targets.AddGrid(0.5);
            var found = targets.Sorted();
            Assert.Equal(found.Select(t => t.Kind).Order(), found.Select(t => t.Kind));
            Assert.All(found, target =>
            {
                Assert.True(Pixels(view, ray, target.Point) <= Radius + 1e-6);
                Assert.Equal(1, target.Normal?.Length ?? 1, 1e-9);
                switch (target.Kind)
                {
                    case SnapKind.Face:
                        Some.Near(Vec3.Zero, (target.Point - ray.Origin).Cross(ray.Direction), 1e-6);
                        break;
                    case SnapKind.Grid:
                        Assert.Equal(0, target.Point.Y);
                        Assert.Equal(0, Math.IEEERemainder(target.Point.X, 0.5), 1e-9);
                        break;
                    case SnapKind.Edge or SnapKind.EdgeMiddle:
                        Assert.True(FromEdges(triangles, target.Point) < 1e-9);
                        break;
                }
            });
        });

    [Fact]
    public void A_snapped_ring_brings_the_pivot_to_the_target_and_nothing_else_of_it_turns() =>
        Gen.Select(Some.Chains, Views, Some.Vector(Gen.Double[-1, 1])).Sample((scene, view, aim) =>
        {
            using var evaluator = new Evaluator(scene);
            var before = scene.World("other");
            var pivot = before.Point(scene.Find("other")!.Placement.Pivot);
            var trial = new Trial(scene, evaluator, new Move(["other"], Vec3.Zero, new WorldSpace()), new WorldSpace());
            trial.Grab(new(HandlePart.Ring, 0), view, 1, RayThrough(view, pivot));
            double[] triangle = [.. aim.ToArray(), .. (aim + Vec3.UnitX).ToArray(), .. (aim + Vec3.UnitY).ToArray()];
            var world = scene.World("child");
            var snap = new SnapRequest([SnapKind.Vertex], [new("child", triangle)], Radius, Focal);
            trial.DragTo(RayThrough(view, world.Point(aim)), false, null, snap: snap);
            if (trial.Caught is not { } caught)
            {
                return;
            }

            var draft = trial.Draft!;
            var after = draft.World(draft.Get("other"));
            Some.Near(caught.Target.Point, after.Point(draft.Get("other").Placement.Pivot), 1e-6);
            Assert.True(before.Linear.Distance(after.Linear) < 1e-12);
            trial.PutBack();
            Some.Near(before, evaluator.World("other"));
        });

    [Fact]
    public void On_the_grid_a_moved_pivot_ends_on_whole_steps_of_the_space() =>
        Gen.Select(Some.MarkedChains, Gen.Bool, Gen.Double[0.05, 0.8], Some.Vector(Gen.Double[-2, 2])).Sample((scene, world, step, aim) =>
        {
            using var evaluator = new Evaluator(scene);
            Space space = world ? new WorldSpace() : new MarkSpace("pinned");
            var node = scene.Find("grand")!;
            var start = scene.World("grand").Point(node.Placement.Pivot);
            var view = new View(new(Mat3.Identity, start + new Vec3(0, 0, 10)), Parallel: false);
            var trial = new Trial(scene, evaluator, new Move(["grand"], Vec3.Zero, space), space);
            trial.Grab(new(HandlePart.Ring, 0), view, 1, RayThrough(view, start));
            trial.DragTo(RayThrough(view, start + aim), false, step, onGrid: true);
            var draft = new SceneDraft(scene);
            var (axes, origin) = (space.Axes(draft, node, node), space.Origin(draft, node));
            var after = trial.Draft!.World(trial.Draft.Get("grand")).Point(node.Placement.Pivot);
            var along = axes.Transposed() * (after - origin);
            Assert.All(along.ToArray(), v => Assert.Equal(0, Math.IEEERemainder(v, step), 1e-7));
        });

    private static Ray RayThrough(View view, Vec3 point)
    {
        if (!view.Parallel)
        {
            return new(view.World.Offset, (point - view.World.Offset).Unit());
        }

        var away = view.World.Linear.Z;
        return new(point + away * (20 - point.Dot(away)), -away);
    }

    private static double Pixels(View view, Ray ray, Vec3 point)
    {
        var inView = view.World.Linear.Transposed();
        var (p, d, o) = (inView * (point - view.World.Offset), inView * ray.Direction, inView * (ray.Origin - view.World.Offset));
        if (view.Parallel)
        {
            return Math.Sqrt(Math.Pow(p.X - o.X, 2) + Math.Pow(p.Y - o.Y, 2)) * Focal;
        }

        return p.Z < 0 ? Math.Sqrt(Math.Pow(p.X / -p.Z - d.X / -d.Z, 2) + Math.Pow(p.Y / -p.Z - d.Y / -d.Z, 2)) * Focal : double.PositiveInfinity;
    }

    private static double FromEdges(double[] triangles, Vec3 point)
    {
        Vec3 At(int i) => new(triangles[3 * i], triangles[3 * i + 1], triangles[3 * i + 2]);
        return Enumerable.Range(0, triangles.Length / 9).SelectMany(t => Enumerable.Range(0, 3).Select(k =>
        {
            var (a, b) = (At(3 * t + k), At(3 * t + (k + 1) % 3));
            var u = b - a;
            return u.LengthSquared > 0 ? (a + u * Math.Clamp((point - a).Dot(u) / u.LengthSquared, 0, 1) - point).Length : (a - point).Length;
        })).Min();
    }
}
