using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Things dropped onto what is below: exact against triangles.</summary>
public sealed class DropStories
{
    [Fact]
    public void A_box_comes_to_rest_on_the_desk()
    {
        var scene = Some.Scene(Box("desk", new(2, 1, 1), new(0, 0.5, 0)), Box("box", new(0.2, 0.2, 0.2), new(0.3, 3, 0.1)));
        scene.Keep(new Drop(["box"]));
        Some.Near(new Vec3(0.3, 1.1, 0.1), At(scene, "box"));
    }

    [Fact]
    public void Boxes_of_the_same_footprint_stack_without_a_gap()
    {
        var scene = Some.Scene(Box("low", Vec3.One, new(0, 0.5, 0)), Box("high", Vec3.One, new(0, 7, 0)));
        scene.Keep(new Drop(["high"]));
        Some.Near(new Vec3(0, 1.5, 0), At(scene, "high"));
        scene.Keep(new Drop(["high"]));
        Some.Near(new Vec3(0, 1.5, 0), At(scene, "high"));
    }

    [Fact]
    public void A_ball_rests_on_a_slope_where_it_touches_first_not_below_its_middle()
    {
        // A plane through zero, tilted by 45° about Z: a ball of radius r touches it at the height r·√2 above it.
        var slope = Shape("slope", new Plane(20, 20, 1), new(0, 25, 0)) with { };
        slope = slope with { Placement = slope.Placement with { Rotation = new(0, 0, 45) } };
        var scene = Some.Scene(slope, Shape("ball", new Ball(1, 128, 128), new(0, 39, 0)));
        scene.Keep(new Drop(["ball"], Along: new(0, -2, 0)));
        Assert.Equal(25 + Math.Sqrt(2), At(scene, "ball").Y, 2e-3);
    }

    [Fact]
    public void A_direction_that_leads_down_ends_on_the_ground_as_the_fall_without_one_does()
    {
        var scene = Some.Scene(Box("box", Vec3.One, new(0, 4.5, 0)));
        scene.Keep(new Drop(["box"], Along: new(3, -4, 0)));
        Some.Near(new Vec3(3, 0.5, 0), At(scene, "box"));
        Assert.Equal(Refusals.NotFound, scene.Refused(new Drop(["box"], Along: new(1, 0, 0))).Word);
        Assert.Equal(Refusals.NotFound, scene.Refused(new Drop(["box"], Along: new(0, 1, 0))).Word);
    }

    [Fact]
    public void What_does_not_take_its_parents_position_neither_falls_with_it_nor_counts_in_its_bounds()
    {
        var free = Box("free", Vec3.One, new(0, 1, 0));
        free = free with { Parent = "box", Placement = free.Placement with { Takes = new(Position: false) } };
        var scene = Some.Scene(Box("box", Vec3.One, new(0, 4, 0)), free);
        var draft = new SceneDraft(scene);
        Assert.Equal(Vec3.One, Spaces.Extents.OfBranch(draft, draft.Get("box"), Affine.Identity).Size);
        scene.Keep(new Drop(["box"]));
        Some.Near(new Vec3(0, 2, 0), At(scene, "box"));
    }

    [Fact]
    public void By_its_pivot_a_thing_sinks_until_the_pivot_meets_the_surface()
    {
        var scene = Some.Scene(Box("desk", new(2, 1, 2), new(0, 0.5, 0)), Box("box", Vec3.One, new(0, 4, 0)));
        scene.Keep(new Drop(["box"], By: DropBy.Pivot));
        Some.Near(new Vec3(0, 1, 0), At(scene, "box"));
    }

    [Fact]
    public void What_rests_beside_a_wall_slides_down_along_it()
    {
        var scene = Some.Scene(Box("wall", new(1, 2, 1), new(0, 1, 0)), Box("box", Vec3.One, new(1, 5, 0)));
        scene.Keep(new Drop(["box"]));
        Some.Near(new Vec3(1, 0.5, 0), At(scene, "box"));
    }

    [Fact]
    public void One_by_one_they_pile_up_and_as_a_block_they_keep_their_distances()
    {
        Node[] nodes = [Box("a", Vec3.One, new(0, 4, 0)), Box("b", Vec3.One, new(0, 8, 0)), Box("c", Vec3.One, new(5, 3, 0))];
        var one = Some.Scene(nodes);
        one.Keep(new Drop(["b", "a", "c"]));
        HighAt(one, 0.5, 1.5, 0.5);
        var block = Some.Scene(nodes);
        block.Keep(new Drop(["b", "a", "c"], As: MoveAs.Block));
        HighAt(block, 1.5, 5.5, 0.5);
    }

    [Fact]
    public void Any_direction_will_do_and_hidden_things_are_passed_through()
    {
        var hidden = Box("hidden", Vec3.One, new(4, 0, 0)) with { Switches = new(false, true, false) };
        var scene = Some.Scene(Box("wall", Vec3.One, new(9, 0, 0)), hidden, Box("box", Vec3.One, Vec3.Zero));
        scene.Keep(new Drop(["box"], Along: new(1, 0, 0)));
        Some.Near(new Vec3(8, 0, 0), At(scene, "box"));
        Assert.Equal(Refusals.NotFound, scene.Refused(new Drop(["box"], Along: new(0, 0, 1))).Word);
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new Drop(["box"], Along: Vec3.Zero)).Word);
    }

    [Fact]
    public void Below_the_ground_there_is_nothing_to_rest_on()
    {
        var scene = Some.Scene(Box("box", Vec3.One, new(0, -3, 0)));
        Assert.Contains("box", scene.Refused(new Drop(["box"])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void After_a_drop_nothing_is_left_to_fall_and_nothing_sticks_in()
    {
        // Convex things over convex things: the gap along the fall is 0, neither more nor less.
        Gen.Select(Some.Angles, Some.Angles, Gen.Double[-0.4, 0.4]).Sample((turn, other, aside) =>
        {
            var top = Box("top", new(1, 0.5, 0.7), new(aside, 6, 0));
            var low = Box("low", new(1, 0.8, 1.2), new(0, 2, 0));
            var scene = Some.Scene(
                top with { Placement = top.Placement with { Rotation = turn } },
                low with { Placement = low.Placement with { Rotation = other } });
            scene.Keep(new Drop(["top"]));
            var y = At(scene, "top").Y;
            Assert.True(y > 2);
            scene.Keep(new Drop(["top"]));
            Assert.Equal(y, At(scene, "top").Y, 1e-6);
            Assert.False(Cut(scene));
        });

        // Two convex bodies are apart when a plane through a face or along two edges parts them.
        static bool Cut(SceneDocument scene)
        {
            var (a, b) = (scene.World("top"), scene.World("low"));
            List<Vec3> normals = [];
            for (var i = 0; i < 3; i++)
            {
                normals.AddRange([a.Linear.Column(i), b.Linear.Column(i)]);
                for (var k = 0; k < 3; k++)
                {
                    normals.Add(a.Linear.Column(i).Cross(b.Linear.Column(k)));
                }
            }

            return normals.Where(n => n.Length > 1e-6).All(n => Overlap(n.Unit()) > 1e-6);

            double Overlap(Vec3 n)
            {
                var (p, q) = (Extent(a, new(1, 0.5, 0.7), n), Extent(b, new(1, 0.8, 1.2), n));
                return Math.Min(p.High, q.High) - Math.Max(p.Low, q.Low);
            }
        }

        static (double Low, double High) Extent(Affine world, Vec3 size, Vec3 n)
        {
            var half = Enumerable.Range(0, 3).Sum(i => Math.Abs(world.Linear.Column(i).Dot(n)) * size[i] / 2);
            return (world.Offset.Dot(n) - half, world.Offset.Dot(n) + half);
        }
    }

    private static Node Box(string id, Vec3 size, Vec3 at) => Shape(id, new Box(size), at);

    private static Node Shape(string id, Shape shape, Vec3 at) =>
        Some.Box(id, null, Placement.Default with { Position = at }) with { Shape = shape };

    private static Vec3 At(SceneDocument scene, string id) => scene.World(id).Offset;

    private static void HighAt(SceneDocument scene, params double[] heights) =>
        Assert.All(heights.Zip(["a", "b", "c"]), one => Assert.Equal(one.First, At(scene, one.Second).Y, tolerance: 1e-9));
}
