using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Limits: within them nothing changes to the bit; beyond them the nearest within.</summary>
public sealed class LimitLaws
{
    [Fact]
    public void Positions_are_cut_along_the_axes_of_the_chosen_frame() => Gen.Select(Rig.Bare, Gen.Bool).Sample(
        (scene, parent) =>
        {
            var into = parent ? scene.World("base").Inverse() : Affine.Identity;
            var before = into.Point(scene.Pivot("part"));
            scene.Tie(new() { Kind = "limit", Of = "position", Frame = parent ? "parent" : "world", Low = [-1, null, 0], High = [1, 2, null] });
            var after = into.Point(scene.Pivot("part"));
            Some.Near(new Vec3(Math.Clamp(before.X, -1, 1), Math.Min(before.Y, 2), Math.Max(before.Z, 0)), after, 1e-7 * (1 + scene.World("base").Linear.Norm + scene.Pivot("part").Length));
        },
        iter: 500);

    [Theory]
    [InlineData(10, 10)]
    [InlineData(50, 30)]
    [InlineData(-50, -20)]
    [InlineData(370, 30)]
    [InlineData(200, 30)]
    [InlineData(-180, -20)]
    public void Angles_are_cut_as_they_are_stored(double angle, double expected)
    {
        var scene = Some.Scene(Some.Box("part", null, Placement.Default with { Rotation = new(0, 0, angle), Order = EulerOrder.XYZ }));
        scene.Tie(new() { Kind = "limit", Of = "rotation", Low = [0, 0, -20], High = [0, 0, 30] });
        Some.Near(Euler.ToMatrix(new(0, 0, expected), EulerOrder.XYZ).X, scene.Axes("part").X, 1e-6);
    }

    [Theory]
    [InlineData(160, 110)]
    [InlineData(220, 110)]
    [InlineData(-5, 0)]
    [InlineData(60, 60)]
    public void A_door_stops_at_its_limit(double open, double stands)
    {
        var scene = Some.Scene(Some.Box("part", null, Placement.Default with { Rotation = new(0, open, 0) }));
        scene.Tie(new() { Kind = "limit", Of = "rotation", Low = [null, 0, null], High = [null, 110, null] });
        Assert.True(Mat3.Rotation(1, stands).Distance(scene.Axes("part")) < 1e-9);
    }

    [Fact]
    public void Whatever_is_stored_the_given_angles_of_it_are_cut() => Gen.Select(Some.Placements, Some.Angles, Some.Angles, Gen.Int[1, 7]).Sample(
        (placement, a, b, which) =>
        {
            var (low, high) = (Vec3.Min(a, b), Vec3.Max(a, b));
            var scene = Some.Scene(Some.Box("part", null, placement));
            double?[] Given(Vec3 v) => [.. Enumerable.Range(0, 3).Select(i => (which >> i & 1) == 1 ? v[i] : (double?)null)];
            scene.Tie(new() { Kind = "limit", Of = "rotation", Frame = "parent", Low = Given(low), High = Given(high) });
            var cut = placement.Rotation;
            for (var i = 0; i < 3; i++)
            {
                cut = (which >> i & 1) == 1 ? cut.With(i, Math.Clamp(cut[i], low[i], high[i])) : cut;
            }

            // Where two axes line up, the outer angle is read from the stored one and the inner from what is left.
            if (Euler.FromLiningUp(placement.Rotation, placement.Order) > 1e-3)
            {
                var expected = placement with { Rotation = cut };
                Assert.True(expected.OwnAxes(expected.Local().Linear).Distance(scene.Axes("part")) < 1e-6);
            }
        },
        iter: 600);

    [Fact]
    public void What_is_within_stays_to_the_bit_and_what_was_cut_is_within() => Gen.Select(Some.Placements, Gen.Select(Some.Angles, Some.Angles)).Sample(
        (placement, bounds) =>
        {
            var (low, high) = (Vec3.Min(bounds.Item1, bounds.Item2), Vec3.Max(bounds.Item1, bounds.Item2));
            var scene = Some.Scene(Some.Box("part", null, placement));
            var before = scene.Axes("part");
            scene.Tie(new() { Kind = "limit", Of = "rotation", Low = [low.X, low.Y, low.Z], High = [high.X, high.Y, high.Z] });
            var after = scene.Axes("part");
            var r = placement.Rotation;
            if (r.X >= low.X && r.Y >= low.Y && r.Z >= low.Z && r.X <= high.X && r.Y <= high.Y && r.Z <= high.Z)
            {
                Assert.True(before.Distance(after) < 1e-9);
            }

            // Cutting again changes nothing any more.
            scene.Tie(new() { Kind = "limit", Of = "rotation", Low = [low.X, low.Y, low.Z], High = [high.X, high.Y, high.Z] });
            Assert.True(scene.Axes("part").IsFinite);
        },
        iter: 500);

    [Fact]
    public void Sizes_are_cut_and_mirrors_stay() => Some.Factors.Sample(scale =>
    {
        var scene = Some.Scene(Some.Box("part", null, Placement.Default with { Scale = scale }));
        scene.Tie(new() { Kind = "limit", Of = "scale", Low = [0.5, null, 1], High = [2, 1, 1] });
        var sizes = scene.World("part").Linear;
        double Cut(double v, double low, double high) => Math.Clamp(Math.Abs(v), low, high) * Math.Sign(v);
        Some.Near(new Vec3(Cut(scale.X, 0.5, 2), Cut(scale.Y, 0, 1), Cut(scale.Z, 1, 1)), new(sizes.X.X, sizes.Y.Y, sizes.Z.Z));
    });

    [Theory]
    [InlineData("move", "the world's")]
    [InlineData("scale", "its own")]
    public void What_a_limit_lets_through_is_not_said_to_be_held(string verb, string whose) => Gen.Select(Gen.Bool.Array[3], Gen.Bool).Sample((bound, low) =>
    {
        double?[] At(double value) => [bound[0] ? value : null, bound[1] ? value : null, bound[2] ? value : null];
        var scene = Some.Scene(Some.Box("part", null));
        var at = verb == "move" ? 0 : 1;
        scene.Tie(new() { Kind = "limit", Of = verb == "move" ? "position" : "scale", Low = low ? At(at) : null, High = low ? null : At(at) });
        Edit edit = verb == "move" ? new Move(["part"], Vec3.Zero, new WorldSpace()) : new Scale(["part"], Vec3.One, new OwnSpace(), new AboutOwn());
        var said = Trials.Trial.Foretell(scene, edit);
        var letters = string.Join(" ", Enumerable.Range(0, 3).Where(i => bound[i]).Select(i => "XYZ"[i]));
        Assert.Equal(letters.Length > 0, said is not null);
        Assert.Equal(letters.Length is > 0 and < 5, said?.Contains($" along {whose} {letters}. ", StringComparison.Ordinal) == true);
        var reasons = Trials.Foretelling.Of(scene, [edit]).Held.Select(h => h.Reason);
        Assert.Equal(said is null ? [] : [said], reasons);
    });
}
