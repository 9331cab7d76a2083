using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Follow, Ride on, Match rotation and Match scale: what they take of the target, and nothing else.</summary>
public sealed class FollowLaws
{
    [Fact]
    public void The_masked_coordinates_go_with_the_target_and_the_others_stay() => Gen.Select(Rig.Bare, Some.Point, Some.Of("x", "xz", "yz", "xyz"), Gen.Bool).Sample(
        (scene, by, axes, parent) =>
        {
            scene.Tie(new() { Kind = "follow", Target = "target", Axes = axes, Frame = parent ? "parent" : "world" });
            var into = parent ? scene.World("base").Inverse() : Affine.Identity;
            var (part, target) = (into.Point(scene.Pivot("part")), into.Point(scene.Pivot("target")));
            scene.Keep(new Move(["target"], by, new WorldSpace()));
            var (after, there) = (into.Point(scene.Pivot("part")), into.Point(scene.Pivot("target")));
            for (var i = 0; i < 3; i++)
            {
                Assert.Equal(part[i] + (axes.Contains("xyz"[i]) ? there[i] - target[i] : 0), after[i], 1e-6 * (1 + part.Length + there.Length));
            }
        },
        iter: 600);

    [Fact]
    public void Riding_on_something_is_what_a_child_does() => Gen.Select(Rig.Bare, Some.Point, Gen.Double[-170, 170]).Sample(
        (scene, by, turn) =>
        {
            var child = Some.Scene([.. scene.Everything]);
            scene.Tie(new() { Kind = "rideOn", Target = "carrier" });
            child.Keep(new PutUnder(["part"], "carrier"));
            foreach (var one in new[] { scene, child })
            {
                one.Keep(new Move(["carrier"], by, new WorldSpace()), new Rotate(["carrier"], turn, by + new Vec3(0, 20, 0), new WorldSpace(), new AboutOwn()), new Scale(["carrier"], new(1.5, 1, 0.5), new OwnSpace(), new AboutOwn()));
            }

            Some.Near(child.World("tip"), scene.World("tip"), 1e-7);
        },
        iter: 400);

    [Fact]
    public void Rotation_goes_with_the_target_as_it_was_when_it_was_added() => Gen.Select(Rig.Bare, Gen.Double[-170, 170], Some.Direction).Sample(
        (scene, turn, axis) =>
        {
            scene.Tie(new() { Kind = "matchRotation", Target = "target" });
            var (part, target) = (scene.Axes("part"), scene.Axes("target"));
            scene.Keep(new Rotate(["target"], turn, axis, new WorldSpace(), new AboutOwn()));
            var after = scene.Axes("target");
            Assert.True((target.Transposed() * part).Distance(after.Transposed() * scene.Axes("part")) < 1e-7);
        },
        iter: 400);

    [Fact]
    public void A_gear_counts_whole_turns()
    {
        var scene = Some.Scene(Some.Box("small", null), Some.Box("large", null, rank: 1));
        scene.Tie(new() { Kind = "matchRotation", Target = "large", Axes = "y", Factor = -3 }, "small");
        foreach (var degrees in new[] { 10, 130, 400, -790 })
        {
            scene.Keep(new Place("large", new() { Rotation = new(0, degrees, 0) }));
            Some.Near(Euler.ToMatrix(new(0, -3 * degrees, 0), EulerOrder.XYZ).X, scene.Axes("small").X);
        }
    }

    [Fact]
    public void Size_goes_with_the_target_and_mirrors_stay() => Gen.Select(Rig.Bare, Gen.Double[0.3, 3]).Sample(
        (scene, factor) =>
        {
            scene.Tie(new() { Kind = "matchScale", Target = "target" });
            var before = scene.World("part").Linear.Determinant;
            scene.Keep(new Scale(["target"], new(factor, factor, factor), new OwnSpace(), new AboutOwn()));
            Assert.Equal(before * factor * factor * factor, scene.World("part").Linear.Determinant, 1e-6 * Math.Abs(before) * (1 + factor * factor * factor));
            Some.Near(scene.Pivot("part"), scene.Pivot("part"));
        },
        iter: 300);

    [Fact]
    public void A_mark_is_followed_as_well()
    {
        var scene = Some.Scene(Some.Box("part", null), Some.Box("other", null, rank: 1), Some.Mark("mark", "other", new(1, 2, 3), Vec3.Zero));
        scene.Tie(new() { Kind = "follow", Target = "mark", Offset = [0, 0, 0] });
        scene.Keep(new Move(["other"], new(5, 5, 5), new WorldSpace()));
        Some.Near(new Vec3(6, 7, 8), scene.Pivot("part"));
        scene.Keep(new Remove(["mark"]));
        Assert.Empty(scene.Part().Constraints);
    }

    [Fact]
    public void A_half_turn_that_is_half_mixed_goes_round_the_side_of_its_axis()
    {
        var scene = Some.Scene(Some.Box("part", null), Some.Box("target", null, Placement.Default with { Position = new(0, 0, -5) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+z", UpAxis = "+y", Weight = 0.5 });
        Some.Near(Vec3.UnitX, scene.Axes("part").Z);
    }
}
