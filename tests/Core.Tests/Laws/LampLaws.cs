using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What lamps and lenses promise, over random rooms and against figures computed in another way.</summary>
public class LampLaws
{
    private static readonly Gen<Vec3> Point = Gen.Select(Gen.Double[-5, 5], Gen.Double[-5, 5], Gen.Double[-5, 5]).Select((x, y, z) => new Vec3(x, y, z));

    [Fact]
    public void A_highlight_lies_where_the_light_is_mirrored_into_the_eye() => Gen.Select(Gen.Int[0, 1_000_000], Point, Point, Point, Gen.Enum<LightType>()).Sample(
        (room, at, normal, eye, type) =>
        {
            var scene = AnyEdit.Room(room);
            if (normal.Length < 0.1 || (eye - at).Length < 0.1 || scene.Find("lamp") is not { Constraints.IsEmpty: true })
            {
                return;
            }

            scene.Keep(new SetLight(["lamp"], type));
            var before = new SceneDraft(scene).World(scene.Find("lamp")!);
            scene.Keep(new PutHighlight(["lamp"], at, normal, Eye: eye));
            var world = new SceneDraft(scene).World(scene.Find("lamp")!);
            var (v, n, shines) = ((eye - at).Unit(), normal.Unit(), -world.Linear.LensAxes().Z);

            // Mirrored at the face the ray that comes in goes to the eye.
            var mirrored = shines - n * (2 * shines.Dot(n));
            Assert.True((mirrored - v).Length <= 1e-9, $"off by {(mirrored - v).Length}");
            if (type == LightType.Directional)
            {
                Assert.True((world.Offset - before.Offset).Length <= 1e-9);
            }
            else
            {
                Assert.Equal((before.Offset - at).Length, (world.Offset - at).Length, 1e-9);
                Assert.True(((at - world.Offset).Unit() - shines).Length <= 1e-9);
            }
        },
        iter: 300);

    [Fact]
    public void A_lamp_turns_to_a_point_as_it_turns_to_what_stands_there() => Gen.Select(Gen.Int[0, 1_000_000], Point).Sample(
        (room, at) =>
        {
            var scene = AnyEdit.Room(room);
            if (scene.Find("lamp") is not { Constraints.IsEmpty: true } || (new SceneDraft(scene).PivotOf(scene.Find("lamp")!) - at).Length < 0.1)
            {
                return;
            }

            var other = AnyEdit.Room(room);
            other.Keep(new Create(new() { Id = "over-there", Name = "There", Kind = NodeKind.Group, Placement = new() { Position = at } }), new TurnTo(["lamp"], "over-there"));
            scene.Keep(new TurnTo(["lamp"], At: at));
            var (one, two) = (new SceneDraft(scene).World(scene.Find("lamp")!), new SceneDraft(other).World(other.Find("lamp")!));
            Assert.True(one.Distance(two) <= 1e-9 * Math.Max(1, two.Offset.Length), $"off by {one.Distance(two)}");
        },
        iter: 200);

    [Fact]
    public void Lumens_are_the_light_that_goes_to_all_sides() => Gen.Select(Gen.Double[0, 60], Gen.Double[1, 30], Gen.Enum<LightType>()).Sample(
        (inner, more, type) =>
        {
            var lamp = new Light(type, Intensity: 7, InnerCone: inner, OuterCone: inner + more);
            double Toward(double angle) => type switch
            {
                LightType.Point => 7,
                LightType.Panel => 7 * Math.Max(Math.Cos(angle), 0),
                _ => 7 * Math.Pow(Math.Clamp((Math.Cos(angle) - Math.Cos((inner + more) * Math.PI / 180)) / (Math.Cos(inner * Math.PI / 180) - Math.Cos((inner + more) * Math.PI / 180)), 0, 1), 2),
            };
            const int Steps = 20_000;
            var sum = Enumerable.Range(0, Steps).Select(i => (i + 0.5) * Math.PI / Steps).Sum(a => Toward(a) * Math.Sin(a)) * Math.Tau * Math.PI / Steps;
            Assert.Equal(type == LightType.Directional, lamp.Lumens is null);
            Assert.True(lamp.Lumens is not { } lumens || Math.Abs(lumens - sum) <= 1e-4 * sum, $"{lamp.Lumens} is not {sum}");
        },
        iter: 60);

    /// <summary>Colours of black bodies in sRGB, by Charity's table (Planck's law and the observer of 1931), as bright as they go.</summary>
    [Theory]
    [InlineData(2500, 255, 159, 70)]
    [InlineData(3000, 255, 180, 107)]
    [InlineData(4000, 255, 206, 166)]
    [InlineData(5000, 255, 228, 206)]
    [InlineData(6500, 255, 254, 250)]
    [InlineData(10_000, 204, 219, 255)]
    public void Temperatures_have_their_colours(double kelvin, int red, int green, int blue)
    {
        var color = Kelvin.Color(kelvin);
        int At(int i) => Convert.ToInt32(color.Substring(i, 2), 16);
        Assert.All(new[] { (At(1), red), (At(3), green), (At(5), blue) }, c => Assert.InRange(Math.Abs(c.Item1 - c.Item2), 0, 6));
    }

    [Fact]
    public void A_focal_length_and_its_angle_of_view_are_the_same_lens() => Gen.Select(Gen.Double[4, 1200], Gen.Double[0.2, 5]).Sample(
        (length, aspect) =>
        {
            var lens = Camera.Default with { Aspect = aspect, Fov = Camera.FovOf(length, aspect) };
            Assert.Equal(length, lens.FocalLength, 1e-9 * length);

            // The picture fits into a film of 36 × 24 mm, and touches it.
            var high = 2 * length * Math.Tan(lens.Fov * Math.PI / 360);
            Assert.Equal(1, Math.Max(high / 24, high * aspect / 36), 1e-9);
        },
        iter: 200);

    [Fact]
    public void A_picture_is_as_wide_as_wished_or_as_large_as_there_are_pixels_and_keeps_its_form() => Gen.Select(Gen.Int[-5, 20_000], Gen.Double[0.01, 100]).Sample(
        (wished, aspect) =>
        {
            var (width, height) = Camera.PictureSize(wished, aspect);
            Assert.InRange(width, 1, Camera.MostPixels);
            Assert.InRange(height, 1, Camera.MostPixels);

            // A side is rounded to whole pixels, and is at least one.
            Assert.InRange(width - (height * aspect), -0.5 - (aspect / 2) - (height == 1 ? aspect : 0), 0.5 + (aspect / 2));
            if (wished is >= 1 and <= Camera.MostPixels && wished / aspect <= Camera.MostPixels)
            {
                Assert.Equal(wished, width);
            }
        },
        iter: 1_000);

    [Fact]
    public void What_a_shifted_lens_sees_is_what_lies_within_its_shifted_picture() => Gen.Select(Point, Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Bool, Gen.Double[20, 80]).Sample(
        (point, x, y, parallel, fov) =>
        {
            var lens = Camera.Default with { Projection = parallel ? Projection.Parallel : Projection.Perspective, Fov = fov, Height = 3, ShiftX = x, ShiftY = y, Near = 0.1 };
            var (high, depth) = (parallel ? 1.5 : Math.Tan(fov * Math.PI / 360), -point.Z);
            var (u, v) = (point.X / (parallel ? 1 : depth) / (2 * high) - x, point.Y / (parallel ? 1 : depth) / (2 * high) - y);
            var edge = Math.Min(Math.Abs(Math.Abs(u) - Camera.UsualAspect / 2), Math.Abs(Math.Abs(v) - 0.5));
            if (depth < 0.2 || edge < 0.01)
            {
                return;
            }

            const double Size = 1e-4;
            var scene = Some.Scene(Some.Box("box", null) with { Placement = Placement.Default with { Position = point, Scale = new(Size, Size, Size) } });
            var sees = InFrame.Of(scene, new(scene), new(scene, new(scene)), SeenThrough.Of(lens, Affine.Identity), behindOthers: true).Contains("box");
            Assert.Equal(Math.Abs(u) < Camera.UsualAspect / 2 && Math.Abs(v) < 0.5, sees);
        },
        iter: 300);

    [Fact]
    public void A_camera_stays_sharp_at_a_thing_wherever_both_go()
    {
        var scene = Some.Scene(
            Some.Box("globe", null) with { Placement = Placement.Default with { Position = new(0, 0, -4) } },
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Rank = 1, Camera = new(Aperture: 2) });
        double Focus() => SeenThrough.FocusOf(new(scene), scene.Find("eye")!.Camera!, new SceneDraft(scene).World(scene.Find("eye")!));
        Assert.Equal(Camera.UsualFocus, Focus());
        scene.Keep(new SetCamera(["eye"], FocusOn: "globe"));
        Assert.Equal(4, Focus(), 1e-12);
        scene.Keep(new Move(["eye"], new(1, 0, 3), new WorldSpace()));
        Assert.Equal(7, Focus(), 1e-12);
        scene.Keep(new SetCamera(["eye"], Focus: 2));
        Assert.Equal((2, null), (Focus(), scene.Find("eye")!.Camera!.FocusOn));
        scene.Keep(new SetCamera(["eye"], FocusOn: "globe"));
        scene.Keep(new Remove(["globe"]));
        Assert.Equal((2, null), (Focus(), scene.Find("eye")!.Camera!.FocusOn));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetCamera(["eye"], FocusOn: "eye")));
    }

    [Fact]
    public void A_shot_has_surroundings_and_exposure_of_its_own()
    {
        var scene = Some.Scene(Some.Box("box", null));
        scene.Keep(new MakeShot(new("dome", Name: "Dome")));
        scene.Apply(Batch.Run(scene, [new SetSurroundings(SurroundingsKind.Even, "#102030", Exposure: 1)], new("dome", Narrow: true)).Change);
        Assert.Equal(Surroundings.Usual, scene.Surroundings);
        var shown = new ShotScene(scene, "dome").Surroundings;
        Assert.Equal((SurroundingsKind.Even, "#102030", 1.0), (shown.Kind, shown.Color, shown.Exposure));
        Assert.Equal([CheatChannel.Exposure, CheatChannel.OfSurroundings], scene.CheatsOf("dome").Select(c => c.Channel).Order());

        // What the shot has of its own stays when the scene changes, and follows again once it is taken back.
        scene.Keep(new SetSurroundings(Exposure: -2, Strength: 3));
        Assert.Equal((1.0, 0.3), (new ShotScene(scene, "dome").Surroundings.Exposure, new ShotScene(scene, "dome").Surroundings.Strength));
        scene.Keep(new TakeBack("dome", [Surroundings.Single], [CheatChannel.Exposure]));
        Assert.Equal(-2, new ShotScene(scene, "dome").Surroundings.Exposure);
        scene.Keep(new Everywhere("dome"));
        Assert.Equal((SurroundingsKind.Even, 0.3, -2.0), (scene.Surroundings.Kind, scene.Surroundings.Strength, scene.Surroundings.Exposure));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetSurroundings(Strength: -1)));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetSurroundings(Exposure: 41)));
    }

    [Theory]
    [InlineData(LightType.Panel, 0.0)]
    [InlineData(LightType.Directional, 91.0)]
    [InlineData(LightType.Point, -1.0)]
    public void A_lamp_without_a_fitting_size_is_refused(LightType type, double size) => Some.Refuses(Refusals.NotUnderstood, () => new Light(type, Size: size).Checked());

    [Fact]
    public void A_lamp_that_becomes_another_kind_keeps_a_fitting_size()
    {
        var scene = Some.Scene(Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = new(LightType.Point) });
        scene.Keep(new SetLight(["lamp"], LightType.Panel));
        Assert.Equal(1, scene.Find("lamp")!.Light!.Size);
        scene.Keep(new SetLight(["lamp"], Size: 2, PanelHeight: 0.5));
        scene.Keep(new SetLight(["lamp"], LightType.Directional));
        Assert.Equal(0, scene.Find("lamp")!.Light!.Size);
        scene.Keep(new SetLight(["lamp"], Temperature: 2700));
        Assert.Equal(Kelvin.Color(2700), scene.Find("lamp")!.Light!.Shown);
        scene.Keep(new SetLight(["lamp"], Color: "#00FF00"));
        Assert.Equal(("#00FF00", null), (scene.Find("lamp")!.Light!.Shown, scene.Find("lamp")!.Light!.Temperature));
    }
}
