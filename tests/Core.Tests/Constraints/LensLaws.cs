using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Cameras and lamps see and shine by their lens axes: along their drawn −Z, whatever mirrors, stretches or shears them, and whatever directions their pivot has.</summary>
public sealed class LensLaws
{
    private static readonly Gen<SceneDocument> Lenses = Gen.Select(Some.Placements.Array[4], Gen.Bool).Select((p, lamp) => Some.Scene(
        Some.Box("base", null, p[0]),
        lamp
            ? Node.Bare("part", "Lamp", NodeKind.Light, "base", p[1]) with { Light = new(LightType.Spot) }
            : Node.Bare("part", "Eye", NodeKind.Camera, "base", p[1]) with { Camera = new() },
        Some.Box("target", null, p[2], 1),
        Some.Box("up", null, p[3], 2)));

    [Fact]
    public void They_look_along_their_drawn_z_and_stand_upright_by_their_drawn_y() => Lenses.Sample(
        scene =>
        {
            var (linear, axes) = (scene.World("part").Linear, scene.World("part").Linear.LensAxes());
            Some.Near((linear * Vec3.UnitZ).Unit(), axes.Z);
            Assert.True(axes.Y.Dot(linear * Vec3.UnitY) > 0 && Math.Abs(axes.X.Dot(linear * Vec3.UnitY)) < 1e-9 * linear.Norm);
            Assert.Equal(1, axes.Determinant, 1e-9);
            Assert.True((axes.Transposed() * axes).Distance(Mat3.Identity) < 1e-12);
        },
        iter: 500);

    [Fact]
    public void What_aims_them_points_what_they_see_at_the_target() => Gen.Select(Lenses, Gen.Int[0, 3], Gen.Double[0.2, 1]).Sample(
        (scene, how, weight) =>
        {
            var up = how switch { 0 => new Up(World: new SignedAxis(1)), 1 => new Up(Parent: new SignedAxis(2, true)), 2 => new Up(Toward: "up"), _ => Up.Least };
            var before = scene.World("part");
            if ((scene.Pivot("target") - scene.Pivot("part")).Length < 1e-3)
            {
                return;
            }

            scene.Tie(new() { Kind = "aim", Target = "target", Axis = "-z", UpAxis = "+y", Up = up });
            var (after, pivot) = (scene.World("part"), scene.Pivot("part"));
            Some.Near((scene.Pivot("target") - pivot).Unit(), -after.Linear.LensAxes().Z, 1e-7);
            if (how == 0 && scene.Warnings()[0] == LinkWarning.None)
            {
                Assert.True(Math.Abs(after.Linear.LensAxes().X.Y) < 1e-7 && after.Linear.LensAxes().Y.Y > 0);
            }

            // It was turned, and neither stretched nor moved.
            Some.Near(new Affine(before.Linear.Transposed() * before.Linear, Vec3.Zero), new(after.Linear.Transposed() * after.Linear, Vec3.Zero), 1e-7);
            Some.Near(pivot, after.Point(scene.Part().Placement.Pivot), 1e-7 * (1 + pivot.Length));

            // So does a turn that is made once.
            var other = scene.Run(new Unconstrain([new("part")]));
            var free = new SceneDraft(scene);
            free.Take(other);
            new TurnTo(["part"], "target", "-z", "+y", up).ApplyTo(free);
            Some.Near(after.Linear.LensAxes().Z, free.World(free.Part()).Linear.LensAxes().Z, 1e-6);

            // Half of it is on the way there.
            scene.Keep(new SetConstraint([new("part", "aim")], Weight: weight));
            Assert.True(scene.World("part").IsFinite);
        },
        iter: 600);

    [Fact]
    public void What_swivels_them_faces_the_target_as_far_as_the_hinge_lets_it() => Lenses.Sample(
        scene =>
        {
            scene.Tie(new() { Kind = "swivel", Target = "target", Hinge = Vec3.UnitY, Facing = "-z" });
            if (scene.Warnings()[0] != LinkWarning.None)
            {
                return;
            }

            var hinge = scene.World("base").Linear.RotationPart() * Vec3.UnitY;
            Vec3 Flat(Vec3 v) => (v - hinge * v.Dot(hinge)).Unit();
            var sees = -scene.World("part").Linear.LensAxes().Z;
            if ((sees - hinge * sees.Dot(hinge)).Length > 1e-3)
            {
                Some.Near(Flat(scene.Pivot("target") - scene.Pivot("part")), Flat(sees), 1e-6);
            }
        },
        iter: 500);

    [Fact]
    public void A_camera_is_steered_levelled_and_kept_in_size_by_what_it_sees() => Gen.Select(Lenses, Some.Direction, Gen.Double[-170, 170], Some.Point).Sample(
        (scene, axis, turn, at) =>
        {
            if (scene.Part().Camera is not { } camera)
            {
                return;
            }

            var view = new Affine(Mat3.Rotation(axis, turn), at);
            scene.Keep(new Steer("part", view));
            Some.Near(view, SeenThrough.Of(camera, scene.World("part")).View, 1e-7);
            if (view.Linear.Z.Cross(Vec3.UnitY).Length > 0.01)
            {
                scene.Keep(new Level(["part"]));
                var level = SeenThrough.Of(camera, scene.World("part")).View;
                Some.Near(view.Linear.Z, level.Linear.Z, 1e-6);
                Assert.True(Math.Abs(level.Linear.X.Y) < 1e-6 && level.Linear.Y.Y > 0);
            }
        },
        iter: 400);

    [Fact]
    public void A_mirrored_lamp_shines_where_the_mirror_shows_it() => Gen.Select(Lenses, Gen.Int[0, 2]).Sample(
        (scene, plane) =>
        {
            var before = -scene.World("part").Linear.LensAxes().Z;
            scene.Keep(new Scale(["base"], Vec3.One.With(plane, -1), new WorldSpace(), new AboutZero()));
            Some.Near(before.With(plane, -before[plane]), -scene.World("part").Linear.LensAxes().Z, 1e-7);
        },
        iter: 300);
}
