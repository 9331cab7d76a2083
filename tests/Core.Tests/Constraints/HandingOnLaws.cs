using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>What is wanted of a thing with several weighted constraints, led back through them, is what then stands: every part of it, far out as well.</summary>
public sealed class HandingOnLaws
{
    /// <summary>Up to four entries with offsets, of any weight, alike (so that they share) or not.</summary>
    private static readonly Gen<SceneDocument> Offsets = Gen.Select(Rig.Bare, Gen.Int[0, 1_000_000], Gen.Int[1, 4]).Select((scene, seed, count) =>
    {
        var random = new Random(seed);
        var kind = Kind();
        for (var i = 0; i < count; i++)
        {
            kind = random.Next(3) == 0 ? Kind() : kind;
            var mask = random.Next(3) == 0 ? "y" : random.Next(3) == 0 ? "xz" : null;
            scene.Tie(new()
            {
                Kind = kind,
                Id = $"c{i}",
                Target = random.Next(2) == 0 ? "target" : "carrier",
                Weight = 0.1 + 0.9 * random.NextDouble(),
                Axes = kind is "follow" or "matchScale" ? mask : null,
                Frame = kind == "follow" && random.Next(2) == 0 ? "parent" : null,
            });
        }

        return scene;

        string Kind() => random.Next(4) switch { 0 => "follow", 1 => "matchRotation", 2 => "matchScale", _ => "rideOn" };
    });

    [Fact]
    public void What_is_wanted_stands_and_nothing_else_of_it_changes() =>
        Gen.Select(Offsets, Some.Direction, Gen.Double[-25, 25], Some.Factors, Gen.Int[0, 2]).Sample(
            (scene, by, turn, factors, how) =>
            {
                var (before, pivot) = (scene.World("part"), scene.Pivot("part"));
                var size = new Vec3(0.8 + 0.1 * Math.Abs(factors.X), 0.8 + 0.1 * Math.Abs(factors.Y), 0.8 + 0.1 * Math.Abs(factors.Z));
                var (edit, wanted) = how switch
                {
                    0 => (new Move(["part"], by, new WorldSpace()) as Edit, before with { Offset = before.Offset + by }),
                    1 => (new Rotate(["part"], turn, by, new WorldSpace(), new AboutOwn()), Affine.About(pivot, Mat3.Rotation(by, turn)) * before),
                    _ => (new Scale(["part"], size, new WorldSpace(), new AboutOwn()), Affine.About(pivot, Mat3.Diagonal(size)) * before),
                };
                var draft = new SceneDraft(scene);
                try
                {
                    edit.ApplyTo(draft);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    Assert.Contains(refusal.Word, new[] { Refusals.Held, Refusals.TooThin });
                    return;
                }

                Assert.Empty(draft.Held);
                Some.Near(wanted, draft.World(draft.Get("part")), 1e-6);
            },
            iter: 2000);

    [Fact]
    public void On_two_carriers_a_turn_moves_nothing_and_a_move_turns_nothing()
    {
        var scene = Some.Scene(
            Some.Box("a", null),
            Some.Box("b", null, Placement.Default with { Position = new(3, 0, 0) }),
            Some.Box("part", null, Placement.Default with { Position = new(1, 1, 0), Pivot = new(0.2, 0, 0) }));
        scene.Tie(new() { Kind = "rideOn", Id = "on-a", Target = "a" }).Tie(new() { Kind = "rideOn", Id = "on-b", Target = "b" });
        scene.Keep(new SetConstraint([new("part", "on-a")], Weight: 0.4), new SetConstraint([new("part", "on-b")], Weight: 0.6));
        scene.Keep(new Move(["a"], new(0, 2, 0), new WorldSpace()));
        var (pivot, axes) = (scene.Pivot("part"), scene.Axes("part"));
        scene.Keep(new Rotate(["part"], 10, Vec3.UnitZ, new WorldSpace(), new AboutOwn()));
        Some.Near(pivot, scene.Pivot("part"));
        Some.Near(Mat3.Rotation(Vec3.UnitZ, 10) * axes.X, scene.Axes("part").X);
        scene.Keep(new Rotate(["a"], 50, Vec3.UnitY, new WorldSpace(), new AboutOwn()));
        (pivot, axes) = (scene.Pivot("part"), scene.Axes("part"));
        scene.Keep(new Move(["part"], new(1, 0, 0), new WorldSpace()));
        Some.Near(pivot + Vec3.UnitX, scene.Pivot("part"));
        Assert.True(axes.Distance(scene.Axes("part")) < 1e-9);
    }

    [Fact]
    public void Below_half_its_weight_an_entry_hands_on_only_what_is_its_own()
    {
        var scene = Some.Scene(Some.Box("target", null), Some.Box("part", null, Placement.Default with { Position = new(1, 2, 3), Shear = new(0.3, 0, 0) }));
        scene.Tie(new() { Kind = "follow", Target = "target", Axes = "y", Weight = 0.3 }).Tie(new() { Kind = "matchScale", Target = "target", Axes = "y", Weight = 0.3 });
        var before = scene.World("part");
        scene.Keep(new Move(["part"], Vec3.One, new WorldSpace()));
        Some.Near(before.Offset + Vec3.One, scene.World("part").Offset);
        scene.Keep(new Scale(["part"], new(1.5, 1.5, 1.5), new WorldSpace(), new AboutOwn()));
        Some.Near(before.Linear * Mat3.Diagonal(new(1.5, 1.5, 1.5)) is var wanted ? wanted.Y : default, scene.World("part").Linear.Y);
        Some.Near(wanted.X, scene.World("part").Linear.X);
    }

    [Fact]
    public void Far_out_small_edits_count_as_they_do_for_what_is_free() =>
        Gen.Select(Rig.Bare, Some.Of("follow", "rideOn", "aim", "matchRotation"), Gen.Double[3, 6.5], Gen.Double[-5, 0], Some.Direction, Some.Direction).Sample(
            (scene, kind, far, small, way, by) =>
            {
                var (out_, shift) = (way * Math.Pow(10, far), by * Math.Pow(10, far - 10 + small));
                scene.Keep(new Move(["base", "carrier"], out_, new WorldSpace()));
                scene.Tie(new() { Kind = kind, Target = "target" });
                var before = scene.Pivot("part");
                scene.Keep(new Move(["part"], shift, new WorldSpace()));
                var moved = scene.Pivot("part") - before;

                // As far as numbers of 64 bits tell places apart there.
                var last = 64 * Math.BitIncrement(out_.Length) * 1.2e-16 * (1 + scene.World("base").Linear.Norm);
                Assert.True((moved - shift).Length <= last, $"{shift.Length} m at {out_.Length} m: off by {(moved - shift).Length}");
            },
            iter: 300);
}
