using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Aim: the axis points at the target whatever the rig; up is kept as far as can be; least turns least; over the pole only what must rolls.</summary>
public sealed class AimLaws
{
    private static readonly Gen<SignedAxis> Axes = Gen.Int[0, 5].Select(i => new SignedAxis(i % 3, i > 2));

    private static readonly Gen<(SignedAxis Axis, SignedAxis Up)> Two = Gen.Select(Axes, Axes).Where((a, u) => a.Index != u.Index);

    [Fact]
    public void The_axis_points_at_the_target_and_the_other_one_up() => Gen.Select(Rig.Bare, Two, Gen.Int[0, 3]).Sample(
        (scene, two, how) =>
        {
            var up = how switch { 0 => new Up(World: new SignedAxis(1)), 1 => new Up(Parent: new SignedAxis(2, true)), 2 => new Up(Toward: "up"), _ => Up.Least };
            var before = scene.Axes("part");
            scene.Tie(new() { Kind = "aim", Target = "target", Axis = two.Axis.ToString(), UpAxis = two.Up.ToString(), Up = up });
            var (axes, d) = (scene.Axes("part"), (scene.Pivot("target") - scene.Pivot("part")).Unit());
            Some.Near(d, Along(axes, two.Axis));
            if (how == 3)
            {
                // The shortest arc: no turn about the way between.
                var from = Along(before, two.Axis);
                var turn = Quat.From(axes * before.Transposed()).ToTurn();
                Assert.True(Math.Abs(turn.Dot(from)) < 1e-6 * (1 + turn.Length));
                return;
            }

            var g = how switch
            {
                0 => Vec3.UnitY,
                1 => -scene.World("base").Linear.RotationPart().Z,
                _ => (scene.Pivot("up") - scene.Pivot("part")).Unit(),
            };
            Some.Near((g - d * g.Dot(d)).Unit(), Along(axes, two.Up));
        },
        iter: 1000);

    [Fact]
    public void Place_and_size_are_left_alone() => Gen.Select(Rig.Bare, Two).Sample(
        (scene, two) =>
        {
            var (pivot, before) = (scene.Pivot("part"), scene.World("part").Linear);
            scene.Tie(new() { Kind = "aim", Target = "up", Axis = two.Axis.ToString(), UpAxis = two.Up.ToString() });
            var after = scene.World("part").Linear;
            Some.Near(pivot, scene.Pivot("part"));
            var turn = after * before.Inverse();
            Assert.True((turn.Transposed() * turn).Distance(Mat3.Identity) < 1e-7);
            Assert.True(turn.Determinant > 0);
        },
        iter: 300);

    [Fact]
    public void It_turns_no_faster_than_the_target_passes() => Gen.Select(Some.Direction, Some.Direction, Gen.Double[1e-4, 0.05], Gen.Bool).Sample(
        (d, way, step, least) =>
        {
            // Model: turn ≤ δ / ((r − δ)·sin φ); with least 1/cos(θ/2) for 1/sin φ.
            const double R = 5;
            var scene = Some.Scene(Some.Box("part", null), Some.Box("target", null, Placement.Default with { Position = d * R }, 1));
            scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+z", UpAxis = "+y", Up = least ? Up.Least : null });
            var before = scene.Axes("part");
            scene.Keep(new Place("target", new() { Position = d * R + way * step }));
            var (after, to) = (scene.Axes("part"), (d * R + way * step).Unit());
            var turned = Quat.From(after * before.Transposed()).ToTurn().Length / Degrees.PerRadian;
            var sine = Math.Min(d.Cross(Vec3.UnitY).Length, to.Cross(Vec3.UnitY).Length);
            var cosine = Math.Min(Math.Sqrt((1 + d.Z) / 2), Math.Sqrt((1 + to.Z) / 2));
            var by = least ? cosine : sine;
            if (by > 0.05)
            {
                Assert.True(turned <= step / ((R - step) * (by - step / R)) * 1.01 + 1e-9, $"{turned} of {step}");
            }
        },
        iter: 2000);

    [Theory]
    [InlineData(0)]
    [InlineData(1e-13)]
    [InlineData(1e-8)]
    public void A_target_that_passes_through_the_pivot_turns_nothing_there(double off)
    {
        var scene = Some.Scene(Some.Box("part", null, Placement.Default with { Rotation = new(10, 20, 30) }), Some.Box("target", null, Placement.Default with { Position = new(0, 0, off) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+z", UpAxis = "+y" });
        Assert.True(scene.World("part").IsFinite);
        if (off < 1e-9)
        {
            Some.Near(Euler.ToMatrix(new(10, 20, 30), EulerOrder.XYZ).X, scene.World("part").Linear.X);
            Assert.Equal([LinkWarning.AtTarget], scene.Warnings());
        }
    }

    [Theory]
    [InlineData(0.0, 1, LinkWarning.AlongUp)]
    [InlineData(0.0, -1, LinkWarning.AlongUp)]
    [InlineData(0.1, 1, LinkWarning.NearUp)]
    [InlineData(0.1, -1, LinkWarning.NearUp)]
    [InlineData(1, 1, LinkWarning.None)]
    public void Near_the_pole_it_warns_and_stays_finite(double aside, double up, LinkWarning warning)
    {
        var scene = Some.Scene(Some.Box("part", null), Some.Box("target", null, Placement.Default with { Position = new(aside, up, 0) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "-z", UpAxis = "+y" });
        Assert.Equal([warning], scene.Warnings());
        Some.Near(new Vec3(aside, up, 0).Unit(), -scene.Axes("part").Z);
        Assert.Equal(warning == LinkWarning.None, Words.ConstraintWords.Warning(warning, scene.Part().Constraints[0], new(scene)) is null);
    }

    [Fact]
    public void Opposite_to_its_axis_least_makes_half_a_turn_about_up()
    {
        var scene = Some.Scene(Some.Box("part", null), Some.Box("target", null, Placement.Default with { Position = new(0, 0, -4) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+z", UpAxis = "+y", Up = Up.Least });
        var axes = scene.Axes("part");
        Assert.Equal((-Vec3.UnitX, Vec3.UnitY, -Vec3.UnitZ), (axes.X, axes.Y, axes.Z));
    }

    [Fact]
    public void Over_the_pole_a_telescope_up_by_nothing_never_rolls()
    {
        var scene = Some.Scene(Some.Box("tube", null), Some.Box("star", null, Placement.Default with { Position = new(0, 0, -10) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "star", Axis = "-z", UpAxis = "+y", Up = Up.Least }, "tube");
        var before = scene.Axes("tube");
        for (var degrees = 0; degrees <= 170; degrees++)
        {
            var (s, c) = Degrees.SinCos(degrees);
            scene.Keep(new Place("star", new() { Position = new(0, 10 * s, -10 * c) }));
            var axes = scene.Axes("tube");
            Assert.True(Quat.From(axes * before.Transposed()).ToTurn().Length < 1.01);
            before = axes;
        }
    }

    [Fact]
    public void It_can_become_a_limit_which_bounds_nothing_yet()
    {
        var scene = Some.Scene(Some.Box("part", null), Some.Box("target", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        var free = scene.World("part");
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+x", UpAxis = "+y" });
        scene.Keep(new SetConstraint([new("part", "aim")], Kind: "limit"));
        var limit = Assert.IsType<Limit>(Assert.Single(scene.Part().Constraints));
        Assert.Equal(("aim", null, Bound.None, Bound.None), (limit.Id, limit.Target, limit.Low, limit.High));
        Some.Near(free, scene.World("part"));
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new SetConstraint([new("part", "aim")], Kind: "aim")).Word);
    }

    [Fact]
    public void What_is_left_out_is_what_moves_least()
    {
        var scene = Some.Scene(
            Some.Box("part", null, Placement.Default with { Rotation = new(0, 5, 0) }),
            Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = new(LightType.Spot), Rank = 1 },
            Some.Box("target", null, Placement.Default with { Position = new(-9, 1, 0) }, 2));
        var aim = new Constrain(["part", "lamp"], new() { Kind = "aim", Target = "target" });
        Assert.Equal("Aimed 2 objects at target each with the side that is nearest, up by the world's +Y", aim.Say(new(scene)));
        Assert.Equal("Aimed 2 objects at target with their −Z, up by the world's +Y", (aim with { Constraint = aim.Constraint with { Axis = "-z" } }).Say(new(scene)));
        Assert.Equal("Aimed part at target with its −X, up by the world's +Y", (aim with { Nodes = ["part"] }).Say(new(scene)));
        Assert.StartsWith("This makes 2 objects jump: by up to", aim.Foretell(scene), StringComparison.Ordinal);
        scene.Keep(aim);
        Assert.Equal((new SignedAxis(0, true), new SignedAxis(1)), (((Aim)scene.Part().Constraints[0]).Axis, ((Aim)scene.Part().Constraints[0]).UpAxis));
        Assert.Equal((new SignedAxis(2, true), new SignedAxis(1)), (((Aim)scene.Find("lamp")!.Constraints[0]).Axis, ((Aim)scene.Find("lamp")!.Constraints[0]).UpAxis));
    }

    [Fact]
    public void A_turn_by_hand_is_said_beforehand_to_be_held()
    {
        var scene = Some.Scene(Some.Box("tube", null), Some.Box("sun", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "sun", Axis = "+y", UpAxis = "+z" }, "tube");
        Edit turn = new Rotate(["tube"], 0, Vec3.UnitX, new Spaces.WorldSpace(), new Spaces.AboutOwn());
        Assert.Equal("Aim at sun turns tube. A turn by hand shows when that is off.", Trials.Trial.Foretell(scene, turn));
        Assert.Null(Trials.Trial.Foretell(scene, new Move(["tube"], Vec3.Zero, new Spaces.WorldSpace())));
    }

    [Fact]
    public void With_up_by_nothing_a_turn_about_the_aim_shows_in_full()
    {
        var scene = Some.Scene(Some.Box("tube", null), Some.Box("sun", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        scene.Tie(new() { Kind = "aim", Target = "sun", Axis = "+y", UpAxis = "+z", Up = Up.Least }, "tube");
        var before = scene.Axes("tube");
        scene.Keep(new Rotate(["tube"], 40, Vec3.UnitY, new Spaces.OwnSpace(), new Spaces.AboutOwn()));
        var turn = Quat.From(scene.Axes("tube") * before.Transposed()).ToTurn();
        Some.Near(before.Y * 40, turn);
    }

    private static Vec3 Along(Mat3 axes, SignedAxis axis) => axes.Column(axis.Index) * axis.Sign;
}
