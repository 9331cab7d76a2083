using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Nothing may depend on itself, by whatever way round; and what is bad input is a sentence.</summary>
public sealed class LoopStories
{
    private static SceneDocument Cannons() => Some.Scene(
        Some.Box("Cannon", null),
        Some.Box("Plate", null, Placement.Default with { Position = new(1, 2, 3) }, 1),
        Some.Box("Target", "Plate", Placement.Default with { Position = new(4, 5, 6) }),
        Some.Mark("Spot", "Target", new(1, 1, 1), Vec3.Zero));

    [Fact]
    public void A_loop_is_named_node_by_node()
    {
        var scene = Cannons();
        scene.Keep(new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target" }));
        var refusal = scene.Refused(new Constrain(["Plate"], new() { Kind = "swivel", Target = "Cannon" }));
        Assert.Equal(Refusals.WouldLoop, refusal.Word);
        Assert.Equal("This would go round in a circle: “Plate” swivels to “Cannon”, which aims at “Target”, which rides on “Plate”. Take one of these off first.", refusal.Message);
    }

    [Theory]
    [InlineData("Plate", "Target")]
    [InlineData("Plate", "Spot")]
    [InlineData("Cannon", "Cannon")]
    public void Its_own_branch_a_mark_that_follows_it_and_itself_are_no_targets(string node, string target)
    {
        var scene = Cannons();
        Assert.Equal(Refusals.WouldLoop, scene.Refused(new Constrain([node], new() { Kind = "aim", Target = target })).Word);
    }

    [Fact]
    public void Up_objects_parents_marks_and_what_is_off_are_edges_as_well()
    {
        var scene = Cannons();
        scene.Keep(new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target", Up = new(Toward: "Spot"), Enabled = false }));
        Assert.Equal(Refusals.WouldLoop, scene.Refused(new PutUnder(["Plate"], "Cannon")).Word);
        Assert.Equal(Refusals.WouldLoop, scene.Refused(new FollowNode("Spot", "Cannon")).Word);
        Assert.Equal(Refusals.WouldLoop, scene.Refused(new Constrain(["Target"], new() { Kind = "follow", Target = "Cannon", Weight = 0 })).Word);
        scene.Keep(new Constrain(["Plate"], new() { Kind = "limit", Of = "position" }));
        scene.Keep(new Unconstrain([new("Cannon")]));
        scene.Keep(new PutUnder(["Plate"], "Cannon"));
    }

    [Fact]
    public void An_undo_that_would_close_a_loop_is_refused_by_name()
    {
        var desk = new Desk(Cannons());
        desk.Do("ada", new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target" }));
        desk.Undo("ada");
        desk.Do("ben", new Constrain(["Plate"], new() { Kind = "aim", Target = "Cannon" }));
        var refusal = Assert.Throws<Refusal>(() => desk.Redo("ada"));
        Assert.Equal(Refusals.WouldLoop, refusal.Word);
        Assert.Contains("aims at “Cannon”", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_chain_of_a_thousand_is_evaluated_and_followed()
    {
        var nodes = Enumerable.Range(0, 1001).Select(i => Some.Box($"n{i}", null, Placement.Default with { Position = new(i, 0, 0) }, i)).ToList();
        for (var i = 1; i <= 1000; i++)
        {
            nodes[i] = nodes[i] with { Constraints = [Constraint.Made(new() { Kind = "follow", Id = "f", Target = $"n{i - 1}", Offset = [1, 0, 0] })] };
        }

        var scene = Some.Scene([.. nodes]);
        using var evaluator = new Evaluation.Evaluator(scene);
        Assert.Equal(1000, evaluator.World("n1000").Offset.X);
        evaluator.Follow(scene, scene.Keep(new Move(["n0"], new(0, 7, 0), new Spaces.WorldSpace())));
        Assert.Equal(new Vec3(1000, 7, 0), evaluator.World("n1000").Offset);
        Assert.Equal(1001, evaluator.ChangedCount);
        Assert.Equal(Refusals.WouldLoop, scene.Refused(new Constrain(["n0"], new() { Kind = "follow", Target = "n1000" })).Word);
    }

    [Fact]
    public void Removing_a_target_takes_the_constraint_off_in_one_step_and_says_so()
    {
        var desk = new Desk(Cannons());
        desk.Do("ada", new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target" }));
        var before = desk.Now;
        var foretold = new Remove(["Plate"]).Foretell(desk.Scene);
        Assert.Contains("Cannon aims at it no more", foretold, StringComparison.Ordinal);
        Assert.Contains("this makes Cannon jump: by ", foretold, StringComparison.Ordinal);
        desk.Do("ada", new Remove(["Plate"]));
        Assert.Empty(desk.Scene.Find("Cannon")!.Constraints);
        desk.Undo("ada");
        Assert.Equal(before, desk.Now);
    }

    [Fact]
    public void Copies_look_at_copies_of_what_is_copied_along_and_at_the_same_otherwise()
    {
        var scene = Cannons();
        scene.Keep(new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target", Up = new(Toward: "Plate") }));
        scene.Keep(new Duplicate(["Cannon", "Plate"], Ids: [["c2", "p2"]]), new Duplicate(["Cannon"], Ids: [["c3"]]));
        var two = (Aim)scene.Find("c2")!.Constraints[0];
        Assert.Equal(("p2-1", "p2"), (two.At, two.Up.Toward));
        Assert.Equal("Target", ((Aim)scene.Find("c3")!.Constraints[0]).At);
        scene.Keep(new Paste(Wire.SceneText.Read(Wire.SceneText.Write(new(scene), ["Cannon", "Plate"])), Ids: ["c4", "p4"]));
        Assert.Equal(("p4-1", "p4"), (((Aim)scene.Find("c4")!.Constraints[0]).At, ((Aim)scene.Find("c4")!.Constraints[0]).Up.Toward));
    }

    [Fact]
    public void Pasted_where_its_target_is_not_it_stands_as_it_stood()
    {
        var scene = Cannons();
        scene.Keep(new Constrain(["Cannon"], new() { Kind = "aim", Target = "Target" }));
        var other = Some.Scene(Some.Box("floor", null, Placement.Default with { Rotation = new(0, 30, 0) }));
        other.Keep(new Paste(Wire.SceneText.Read(Wire.SceneText.Write(new(scene), ["Cannon"])), Under: "floor", Ids: ["cannon"]));
        Assert.Empty(other.Find("cannon")!.Constraints);
        Some.Near(scene.World("Cannon"), other.World("cannon"));
    }

    public static TheoryData<ConstraintPatch, string> Bad => new()
    {
        { new() { Kind = "lean", Target = "Target" }, "There is no constraint “lean”" },
        { new() { Target = "Target" }, "There is no constraint" },
        { new() { Kind = "aim" }, "is not said" },
        { new() { Kind = "aim", Target = "gone" }, "not in the scene any more" },
        { new() { Kind = "aim", Target = "Target", Axis = "+y", UpAxis = "-y" }, "another letter" },
        { new() { Kind = "aim", Target = "Target", Axis = "up" }, "+x, -x" },
        { new() { Kind = "aim", Target = "Target", Weight = 1.5 }, "between 0 and 1" },
        { new() { Kind = "aim", Target = "Target", Weight = double.NaN }, "between 0 and 1" },
        { new() { Kind = "aim", Target = "Target", Hinge = Vec3.UnitX }, "has no hinge" },
        { new() { Kind = "swivel", Target = "Target", Hinge = Vec3.Zero }, "needs a direction" },
        { new() { Kind = "swivel", Target = "Target", From = 20, To = 10 }, "crossed" },
        { new() { Kind = "swivel", Target = "Target", From = double.PositiveInfinity }, "too large" },
        { new() { Kind = "follow", Target = "Target", Axes = "" }, "switch it off" },
        { new() { Kind = "follow", Target = "Target", Axes = "xq" }, "one, two or all" },
        { new() { Kind = "follow", Target = "Target", Offset = [1, 2] }, "3 numbers" },
        { new() { Kind = "follow", Target = "Target", Offset = [1, double.NaN, 2] }, "computed with" },
        { new() { Kind = "follow", Target = "Target", Frame = "own" }, "world or parent" },
        { new() { Kind = "matchRotation", Target = "Target", Factor = 2 }, "about one axis" },
        { new() { Kind = "matchScale", Target = "Target", Offset = [1, 0, 1] }, "above 0" },
        { new() { Kind = "rideOn", Target = "Target", Offset = new double[16] }, "can be inverted" },
        { new() { Kind = "limit", Of = "position", Low = [1, 2, 3], High = [1, 1, 4] }, "along Y are crossed" },
        { new() { Kind = "limit", Of = "size" }, "position or rotation or scale" },
        { new() { Kind = "limit", Of = "scale", High = [0, 1, 1] }, "above 0" },
    };

    [Theory]
    [MemberData(nameof(Bad))]
    public void Bad_input_is_refused_in_a_sentence(ConstraintPatch patch, string says)
    {
        var refusal = Cannons().Refused(new Constrain(["Cannon"], patch));
        Assert.Contains(says, refusal.Message, StringComparison.Ordinal);
        Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Thin_and_mirrored_parents_are_worked_out_or_refused()
    {
        var scene = Some.Scene(
            Some.Box("thin", null, Placement.Default with { Scale = new(1e-6, 1, 1) }),
            Some.Box("thinner", "thin", Placement.Default with { Scale = new(1e-6, 1, 1), Rotation = new(0, 0, 90) }),
            Some.Box("part", "thinner", Placement.Default with { Scale = new(-1, 1, 1e-3) }),
            Some.Box("target", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        foreach (var kind in new[] { "aim", "swivel", "follow", "matchRotation", "matchScale", "rideOn", "stayOnSurface" })
        {
            var desk = new Desk(Some.Scene([.. scene.Everything]));
            if (desk.Tried(() => desk.Do("ada", new Constrain(["part"], new() { Kind = kind, Target = "target", Frame = kind == "follow" ? "parent" : null }))))
            {
                Assert.True(desk.Scene.World("part").IsFinite);
                desk.Tried(() => desk.Do("ada", new Rotate(["part"], 20, new(1, 1, 0), new Spaces.WorldSpace(), new Spaces.AboutOwn())));
                Assert.True(desk.Scene.World("part").IsFinite);
            }
        }
    }
}
