using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Stay on surface and the index of triangles behind it: the same as looking at every triangle.</summary>
public sealed class StayOnSurfaceLaws
{
    [Fact]
    public void The_index_finds_what_looking_at_every_triangle_finds() => Gen.Select(Some.Placements, Some.Point, Some.Direction, Gen.Int[0, 3]).Sample(
        (placement, from, along, shape) =>
        {
            var geometry = ((Shape)(shape switch { 0 => new Ball(0.7, 24, 12), 1 => new Ring(1, 0.3, 20, 9), 2 => new Box(new(1, 2, 3)), _ => new Cone(1, 0, 2, 9, true) })).Tessellate();
            var world = placement.Local();
            Assert.True(geometry.Triangles.Nearest(world, from, out var point, out var number));
            var least = double.PositiveInfinity;
            var hit = double.PositiveInfinity;
            foreach (var part in geometry.Parts)
            {
                for (var i = 0; i < part.Indices.Length; i += 3)
                {
                    Vec3 At(int k) => world.Point(new(part.Positions[3 * part.Indices[i + k]], part.Positions[3 * part.Indices[i + k] + 1], part.Positions[3 * part.Indices[i + k] + 2]));
                    least = Math.Min(least, DistanceTo(from, At(0), At(1), At(2)));
                    hit = Math.Min(hit, Math.Abs(HitOf(from, along, At(0), At(1), At(2)) ?? double.PositiveInfinity));
                }
            }

            Assert.Equal(least, (point - from).Length, 1e-7 * (1 + least));
            Assert.Equal(1, geometry.Triangles.Shown(number, world, point).Length, 1e-9);
            if (geometry.Triangles.Meet(world, from, along, out var met, out _))
            {
                Assert.Equal(hit, (met - from).Length, 1e-6 * (1 + hit));
            }
            else
            {
                Assert.True(double.IsInfinity(hit));
            }
        },
        iter: 400);

    [Fact]
    public void The_stored_order_makes_the_same_index_and_a_wrong_one_none()
    {
        var made = new Ball(1, 30, 20).Tessellate();
        var order = made.Triangles.Order.ToArray();
        var again = new Ball(1, 30, 20).Tessellate();
        Assert.True(again.Index(order));
        made.Triangles.Nearest(Affine.Identity, new(3, 1, 2), out var a, out _);
        again.Triangles.Nearest(Affine.Identity, new(3, 1, 2), out var b, out _);
        Assert.Equal(a, b);
        Assert.False(new Ball(1, 30, 20).Tessellate().Index([.. order.Skip(1)]));
        Assert.False(new Ball(1, 30, 20).Tessellate().Index([.. order.Skip(1), order[1]]));
        Assert.False(new Ball(1, 30, 20).Tessellate().Index([.. order.Skip(1), -4]));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("along")]
    public void A_marble_stays_on_a_globe_that_is_carried_about(string? how)
    {
        var scene = Some.Scene(
            Some.Box("stand", null),
            Some.Box("globe", "stand", Placement.Default with { Position = new(0, 3, 0) }) with { Shape = new Ball(1, 64, 32) },
            Some.Box("marble", null, Placement.Default with { Position = new(0.2, 6, 0.1) }, 1));
        scene.Tie(new() { Kind = "stayOnSurface", Target = "globe", How = how, Align = "+y", Offset = [0.25] }, "marble");
        var before = scene.Pivot("marble");
        Assert.InRange((before - new Vec3(0, 3, 0)).Length, 1.2, 1.26);
        Assert.True(scene.Axes("marble").Y.Dot((before - new Vec3(0, 3, 0)).Unit()) > 0.98);
        scene.Keep(new Move(["stand"], new(0, 1, 0), new Spaces.WorldSpace()));
        Assert.InRange((scene.Pivot("marble") - new Vec3(0, 4, 0)).Length, 1.2, 1.26);
        Assert.Contains("shows when that is off", Trials.Trial.Foretell(scene, new Move(["marble"], Vec3.Zero, new Spaces.WorldSpace())), StringComparison.Ordinal);
    }

    [Fact]
    public void On_what_is_shown_smooth_it_turns_and_rises_evenly_also_where_that_is_mirrored() => Gen.Select(Some.Placements, Gen.Bool, Gen.Int[-70, 70]).Sample(
        (placement, facets, high) =>
        {
            var scene = Some.Scene(
                Some.Box("globe", null, placement) with { Shape = new Ball(1, 48, 24), Normals = facets ? new(NormalsHow.Facets) : null },
                Some.Box("marble", null));
            scene.Tie(new() { Kind = "stayOnSurface", Target = "globe", Align = "+y", Offset = [0.1] }, "marble");
            var world = scene.World("globe");
            double most = 0, off = 0;
            Vec3? before = null;
            for (var step = 0; step <= 200; step++)
            {
                // Along a parallel of the ball, a little outside.
                var own = Euler.ToMatrix(new(0, step * 0.2, high), EulerOrder.ZYX) * Vec3.UnitX;
                var draft = new SceneDraft(scene);
                draft.Put(draft.Get("marble") with { Placement = Placement.Default with { Position = world.Point(own * 1.0001) } });
                var y = draft.Get("marble").Placement.OwnAxes(draft.World(draft.Get("marble")).Linear).Y;
                most = Math.Max(most, before is { } was ? (y - was).Length : 0);
                before = y;

                // Outwards, as the surface of the true ball would have it.
                off = Math.Max(off, (y - (world.Linear.Inverse().Transposed() * own).Unit()).Length);
            }

            var stretch = Triangular.Condition(world.Linear);
            if (stretch < 6)
            {
                Assert.True(facets ? most > 0.004 : most < 0.004 * stretch * stretch + 0.002, $"{most} at a stretch of {stretch}");
                Assert.True(facets || off < 0.05 * stretch, $"off by {off}");
            }
        },
        iter: 200);

    [Fact]
    public void What_does_not_meet_the_surface_stays_and_what_has_none_is_refused()
    {
        var scene = Some.Scene(Some.Box("plate", null), Some.Box("marble", null, Placement.Default with { Position = new(9, 5, 0) }, 1), Node.Bare("group", "Group", NodeKind.Group, null, Placement.Default) with { Rank = 2 });
        scene.Tie(new() { Kind = "stayOnSurface", Target = "plate", How = "along" }, "marble");
        Assert.Equal([LinkWarning.Missed], scene.Warnings("marble"));
        Assert.Equal(new Vec3(9, 5, 0), scene.Pivot("marble"));
        Assert.Contains("no surface", scene.Refused(new Constrain(["marble"], new() { Kind = "stayOnSurface", Target = "group" })).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_surface_of_more_triangles_than_are_found_fast_is_refused_at_once()
    {
        var scene = Some.Scene(Some.Box("marble", null), Node.Bare("sheet", "Sheet", NodeKind.Mesh, null, Placement.Default) with { Geometry = "dense" });
        scene.Geometries.Keep("dense", new([new(PartMode.Triangles, 0, new double[9], null, [], null, null, new int[3 * (TriangleIndex.Most + 1)])]));
        Assert.Contains("smaller mesh", scene.Refused(new Constrain(["marble"], new() { Kind = "stayOnSurface", Target = "sheet" })).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Another_shape_of_the_target_is_another_surface()
    {
        var scene = Some.Scene(Some.Box("globe", null) with { Shape = new Ball(1, 64, 32) }, Some.Box("marble", null, Placement.Default with { Position = new(0, 6, 0) }, 1));
        scene.Tie(new() { Kind = "stayOnSurface", Target = "globe" }, "marble");
        using var evaluator = new Evaluation.Evaluator(scene);
        evaluator.Follow(scene, scene.Keep(new SetShape("globe", new() { Radius = 2 })));
        Assert.Equal(2, evaluator.World("marble").Offset.Y, 1e-9);
        Assert.Equal(2, scene.Pivot("marble").Y, 1e-9);
    }

    private static double DistanceTo(Vec3 p, Vec3 a, Vec3 b, Vec3 c)
    {
        // Inside: the distance to the plane; else the least to an edge.
        var n = (b - a).Cross(c - a).Unit();
        var q = p - n * n.Dot(p - a);
        if (n.Dot((b - a).Cross(q - a)) >= 0 && n.Dot((c - b).Cross(q - b)) >= 0 && n.Dot((a - c).Cross(q - c)) >= 0)
        {
            return (q - p).Length;
        }

        double Edge(Vec3 s, Vec3 t) => (s + (t - s) * Math.Clamp((p - s).Dot(t - s) / (t - s).LengthSquared, 0, 1) - p).Length;
        return Math.Min(Edge(a, b), Math.Min(Edge(b, c), Edge(c, a)));
    }

    private static double? HitOf(Vec3 from, Vec3 along, Vec3 a, Vec3 b, Vec3 c)
    {
        var n = (b - a).Cross(c - a).Unit();
        var t = n.Dot(a - from) / n.Dot(along);
        var q = from + along * t;
        return double.IsFinite(t) && n.Dot((b - a).Cross(q - a)) >= -1e-10 && n.Dot((c - b).Cross(q - b)) >= -1e-10 && n.Dot((a - c).Cross(q - c)) >= -1e-10 ? t : null;
    }
}
