using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Swivel: only about the hinge, as near to the target as that lets it, within the limits.</summary>
public sealed class SwivelLaws
{
    [Fact]
    public void It_turns_about_the_hinge_alone_and_faces_the_target_as_far_as_that_goes() => Gen.Select(Rig.Bare, Some.Direction, Gen.Int[0, 5]).Sample(
        (scene, hinge, facing) =>
        {
            var before = scene.Axes("part");
            var axis = new SignedAxis(facing % 3, facing > 2);
            scene.Tie(new() { Kind = "swivel", Target = "target", Hinge = hinge, Facing = axis.ToString() });
            if (scene.Warnings() is not [LinkWarning.None])
            {
                // Along the hinge no turn about it helps.
                Assert.True(before.Distance(scene.Axes("part")) < 1e-9);
                return;
            }

            var h = scene.World("base").Linear.RotationPart() * hinge;
            var after = scene.Axes("part");
            var turn = Quat.From(after * before.Transposed()).ToTurn();
            Assert.True(turn.Cross(h).Length < 1e-5 * (1 + turn.Length));
            Vec3 Flat(Vec3 v) => (v - h * v.Dot(h)).Unit();
            Some.Near(Flat(scene.Pivot("target") - scene.Pivot("part")), Flat(after.Column(axis.Index) * axis.Sign), 1e-6);
        },
        iter: 1000);

    [Theory]
    [InlineData(-40.0, 70.0, 10.0, 10.0)]
    [InlineData(-40.0, 70.0, -90.0, -40.0)]
    [InlineData(-40.0, 70.0, 100.0, 70.0)]
    [InlineData(-40.0, 70.0, -164.0, -40.0)]
    [InlineData(-40.0, 70.0, -166.0, 70.0)]
    [InlineData(-40.0, 70.0, 195.0, 70.0)]
    [InlineData(0.0, null, 90.0, 90.0)]
    [InlineData(0.0, null, -80.0, 0.0)]
    [InlineData(0.0, null, -100.0, 180.0)]
    [InlineData(null, 30.0, 100.0, 30.0)]
    [InlineData(-200.0, 200.0, 170.0, 170.0)]
    [InlineData(340.0, 380.0, 350.0, 350.0)]
    [InlineData(340.0, 380.0, 10.0, 370.0)]
    [InlineData(350.0, 360.0, -90.0, 350.0)]
    [InlineData(5.0, 5.0, 100.0, 5.0)]
    public void Limits_cut_what_is_beyond_and_jump_only_opposite_their_middle(double? from, double? to, double wanted, double expected) =>
        Assert.Equal(expected, Between(from, to).Clamped(wanted), tolerance: 1e-9);

    [Fact]
    public void Within_its_limits_it_is_as_near_as_it_can_be() => Gen.Select(Gen.Double[-170, 0], Gen.Double[0, 170], Gen.Double[-180, 180]).Sample((from, to, wanted) =>
    {
        var swivel = Between(from, to);
        var clamped = swivel.Clamped(wanted);
        Assert.InRange(clamped, from - 1e-9, to + 1e-9);
        double Off(double angle) => Math.Abs(Math.IEEERemainder(angle - wanted, 360));
        Assert.True(Off(clamped) <= Math.Min(Off(from), Off(to)) + 1e-9);
        Assert.Equal(clamped, swivel.Clamped(wanted + 360), tolerance: 1e-6);
    });

    [Fact]
    public void Pan_and_tilt_of_two_parts_look_at_the_target()
    {
        var scene = PanAndTilt();
        for (var i = 0; i < 60; i++)
        {
            var (s, c) = Degrees.SinCos(i * 6);
            scene.Keep(new Place("star", new() { Position = new(6 * s, 1 + 3 * c, 6 * c) }));
            var to = (scene.Pivot("star") - scene.Pivot("tube")).Unit();
            Some.Near(to, scene.Axes("tube").Z, 1e-9);
            Some.Near(Vec3.UnitY, scene.Axes("mount").Y, 1e-9);
        }
    }

    [Fact]
    public void Pan_and_tilt_in_one_part_are_one_after_the_other()
    {
        var scene = Some.Scene(Some.Box("head", null), Some.Box("star", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        scene.Tie(new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitY, Facing = "+z", Zero = Vec3.UnitZ }, "head");
        scene.Tie(new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitX, Facing = "+z", Zero = Vec3.UnitZ }, "head");
        Some.Near(new Vec3(3, 4, 5).Unit(), scene.Axes("head").Z);
    }

    [Theory]
    [InlineData(0, 5, 0, LinkWarning.AlongHinge)]
    [InlineData(0, 0, 0, LinkWarning.AtTarget)]
    [InlineData(1, 5, 0, LinkWarning.None)]
    public void Where_no_turn_helps_it_stays_and_says_so(double x, double y, double z, LinkWarning warning)
    {
        var scene = Some.Scene(Some.Box("part", null, Placement.Default with { Rotation = new(0, 33, 0) }), Some.Box("star", null, Placement.Default with { Position = new(x, y, z) }, 1));
        scene.Tie(new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitY, Facing = "+z" });
        Assert.Equal([warning], scene.Warnings());
        Assert.Equal(warning == LinkWarning.None, Math.Abs(scene.Axes("part").Z.X - Degrees.SinCos(33).Sin) > 1e-6);
    }

    [Fact]
    public void One_that_is_cut_says_where_it_stops_and_of_how_much() => Gen.Select(Gen.Double[-170, 170], Gen.Double[-90, 0], Gen.Double[0, 90]).Sample((angle, from, to) =>
    {
        var (sine, cosine) = Degrees.SinCos(angle);
        var scene = Some.Scene(Some.Box("part", null), Some.Box("star", null, Placement.Default with { Position = new(5 * sine, 2, 5 * cosine) }, 1));
        scene.Tie(new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitY, Facing = "+z", Zero = Vec3.UnitZ, From = from, To = to });
        var draft = new SceneDraft(scene);
        var said = Words.LinkReading.Of(draft, draft.Get("part"))[0].Warning;
        var say = new Words.Speaker(scene);
        Assert.True(angle > from && angle < to ? said is null : said is not null || angle > from - 1e-7 && angle < to + 1e-7);
        var swivel = (Swivel)scene.Part().Constraints[0];
        Assert.True(said is null || said == $"It stops at {say.Angle(swivel.Clamped(angle))} of {say.Angle(angle)}." || Math.Abs(angle - (from + to) / 2) > 179, said);
    });

    [Fact]
    public void Under_another_parent_the_hinge_stays_where_it_is_in_the_world() => Rig.Bare.Sample(
        scene =>
        {
            scene.Tie(new() { Kind = "swivel", Target = "target", Hinge = new(1, 2, 3), Facing = "+x", From = -30, To = 60 });
            var (before, hinge) = (scene.World("part"), scene.World("base").Linear.RotationPart() * ((Swivel)scene.Part().Constraints[0]).Hinge);
            scene.Keep(new PutUnder(["part"], "up"));
            Some.Near(before, scene.World("part"), 1e-8);
            Some.Near(hinge, scene.World("up").Linear.RotationPart() * ((Swivel)scene.Part().Constraints[0]).Hinge);
        },
        iter: 500);

    private static Swivel Between(double? from, double? to) => (Swivel)Constraint.Made(new() { Kind = "swivel", From = from, To = to });

    internal static SceneDocument PanAndTilt()
    {
        var scene = Some.Scene(
            Some.Box("mount", null),
            Some.Box("tube", "mount", Placement.Default with { Position = new(0, 1, 0) }),
            Some.Box("star", null, Placement.Default with { Position = new(0, 1, 6) }, 1));
        scene.Keep(new Constrain(["mount"], new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitY, Facing = "+z", Zero = Vec3.UnitZ }));
        scene.Keep(new Constrain(["tube"], new() { Kind = "swivel", Target = "star", Hinge = Vec3.UnitX, Facing = "+z", Zero = Vec3.UnitZ }));
        return scene;
    }
}
