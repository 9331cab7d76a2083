using CalmPivot.Core.Amounts;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Lamps and cameras are changed by typing, for several at once, and by their handles on the stage.</summary>
public sealed class LensStories
{
    private static readonly Gen<double?> Given = Gen.Select(Gen.Bool, Gen.Double[0.5, 80]).Select((there, v) => there ? v : (double?)null);

    private static SceneDocument Studio(params Node[] more) => Some.Scene(
    [
        Node.Bare("sun", "Sun lamp", NodeKind.Light, null, Placement.Default) with { Light = new(LightType.Spot, Intensity: 40, InnerCone: 10, OuterCone: 30) },
        Node.Bare("lantern", "Lantern", NodeKind.Light, null, Placement.Default) with { Rank = 2, Light = new(LightType.Point, Intensity: 10, Range: 4) },
        Node.Bare("dome", "Dome camera", NodeKind.Camera, null, Placement.Default) with { Rank = 3, Camera = new() },
        Some.Box("desk", null),
        .. more,
    ]);

    private static string Said(SceneDocument scene, Edit edit) => Core.Edits.Batch.Run(scene, [edit]).Sentence;

    [Fact]
    public void What_is_not_given_stays_as_it_was() =>
        Gen.Select(Given, Given, Given, Gen.Bool).Sample((intensity, range, outer, colour) =>
        {
            var scene = Studio();
            var before = scene.Find("sun")!.Light!;
            scene.Keep(new SetLight(["sun"], Color: colour ? "#102030" : (Color?)null, Intensity: intensity, Range: range, OuterCone: outer));
            var after = scene.Find("sun")!.Light!;
            Assert.Equal(intensity ?? before.Intensity, after.Intensity);
            Assert.Equal(range ?? before.Range, after.Range);
            Assert.Equal(outer ?? before.OuterCone, after.OuterCone);
            Assert.Equal(colour ? "#102030" : before.Color, after.Color);
            Assert.Equal(before.Type, after.Type);
            Assert.True(after.InnerCone <= after.OuterCone);
        });

    [Fact]
    public void The_cone_that_is_given_holds_and_the_other_gives_way()
    {
        var scene = Studio();
        scene.Keep(new SetLight(["sun"], OuterCone: 5));
        Assert.Equal((5, 5), (scene.Find("sun")!.Light!.InnerCone, scene.Find("sun")!.Light!.OuterCone));
        scene.Keep(new SetLight(["sun"], InnerCone: 50));
        Assert.Equal((50, 50), (scene.Find("sun")!.Light!.InnerCone, scene.Find("sun")!.Light!.OuterCone));
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => scene.Run(new SetLight(["sun"], InnerCone: 50, OuterCone: 20))).Word);
    }

    [Fact]
    public void Several_are_set_alike_or_changed_each_by_itself_and_what_is_no_lamp_stays()
    {
        var scene = Studio();
        scene.Keep(new SetLight(["desk", "sun", "lantern"], Intensity: 2, Mode: AmountMode.Multiply));
        Assert.Equal((80, 20), (scene.Find("sun")!.Light!.Intensity, scene.Find("lantern")!.Light!.Intensity));
        scene.Keep(new SetLight(["sun", "lantern"], Range: 1, Mode: AmountMode.Add));
        Assert.Equal((null, 5), (scene.Find("sun")!.Light!.Range, scene.Find("lantern")!.Light!.Range));
        scene.Keep(new SetLight(["sun", "lantern"], Range: 0));
        Assert.Null(scene.Find("lantern")!.Light!.Range);
        Assert.Null(scene.Find("desk")!.Light);
    }

    [Fact]
    public void What_cannot_be_is_refused_by_name_and_changes_nothing()
    {
        var scene = Studio();
        void Refused(Edit edit, string says)
        {
            var refusal = Assert.Throws<Refusal>(() => scene.Run(edit));
            Assert.Equal(Refusals.NotUnderstood, refusal.Word);
            Assert.Contains(says, refusal.Message, StringComparison.Ordinal);
        }

        Refused(new SetLight(["sun"], Intensity: -1), "“Sun lamp” needs");
        Refused(new SetLight(["sun"], Intensity: 1, Mode: AmountMode.Multiply, Color: "blue"), "colour");
        Refused(new SetLight(["desk", "dome"], Intensity: 1), "None of these is a lamp");
        Refused(new SetCamera(["dome"], Fov: 180), "“Dome camera” needs");
        Refused(new SetCamera(["dome"], Near: 5, Far: 4), "“Dome camera” needs");
        Refused(new SetCamera(["sun"], Fov: 20), "None of these is a camera");
        Refused(new SetCamera(["dome"], Fov: double.NaN), "needs");
    }

    [Fact]
    public void They_say_what_they_did()
    {
        var scene = Studio(Node.Bare("far", "Moonlight", NodeKind.Light, null, Placement.Default) with { Rank = 9, Light = new(LightType.Directional) });
        Assert.Equal("Changed the light of Sun lamp: intensity 12 cd, outer cone 20°", Said(scene, new SetLight(["sun"], Intensity: 12, OuterCone: 20)));
        Assert.Equal("Changed the light of Moonlight: intensity 3 lx", Said(scene, new SetLight(["far"], Intensity: 3)));
        Assert.Equal("Changed the light of 2 objects: intensity × 2", Said(scene, new SetLight(["sun", "far"], Intensity: 2, Mode: AmountMode.Multiply)));
        Assert.Equal("Changed the light of Lantern: a spot, colour #FFCC88, without end", Said(scene, new SetLight(["lantern"], LightType.Spot, "#FFCC88", Range: 0)));
        Assert.Equal("Changed the lens of Dome camera: angle of view 24°, far plane 50 m", Said(scene, new SetCamera(["dome"], Fov: 24, Far: 50)));
        Assert.Equal("Changed the lens of Dome camera: parallel, height +1 m", Said(scene, new SetCamera(["dome"], Projection.Parallel, Height: 1, Mode: AmountMode.Add)));
    }

    [Fact]
    public void What_several_have_in_common_is_told_and_what_differs_is_not()
    {
        var draft = new SceneDraft(Studio());
        var light = CommonLight.Of(draft, ["sun", "desk", "lantern"]);
        Assert.Equal((2, null, "#FFFFFF", null), (light.Count, light.Type, light.Color, light.Intensity));
        Assert.Equal((1, 30, 0), (CommonLight.Of(draft, ["sun"]).Count, CommonLight.Of(draft, ["sun"]).OuterCone, CommonLight.Of(draft, ["sun"]).Range));
        Assert.Equal((1, 38, Camera.UsualAspect), (CommonCamera.Of(draft, ["dome"]).Count, CommonCamera.Of(draft, ["dome"]).Fov, CommonCamera.Of(draft, ["dome"]).Aspect));
        Assert.Equal(0, CommonCamera.Of(draft, ["desk"]).Count);
    }

    /// <summary>Taken hold of anywhere and from anywhere, a handle does not jump: the ray through it gives the value that it has.</summary>
    [Fact]
    public void A_handle_of_a_lens_gives_its_present_value_where_it_stands() =>
        Gen.Select(Some.Placements, Some.Point, Some.Angles, Gen.Double[1, 40], Gen.Double[0, 35], Gen.Double[5, 100], Gen.Double[0.3, 9], Gen.Int[0, 4]).Sample(
            (placement, eye, turn, outer, within, fov, metres, kind) =>
            {
                var node = Node.Bare("it", "It", kind < 3 ? NodeKind.Light : NodeKind.Camera, null, placement) with
                {
                    Light = kind < 3 ? new((LightType)kind, Range: metres, InnerCone: Math.Min(within, outer), OuterCone: outer) : null,
                    Camera = kind < 3 ? null : new((Projection)(kind - 3), fov, metres),
                };
                var scene = Some.Scene(node);
                var view = new View(new(Euler.ToMatrix(turn, EulerOrder.XYZ), eye * 3), Parallel: false);
                var lens = new LensHandles(scene, node, scene.World("it"), view, 1.3);
                foreach (var grip in lens.Shape.Grips)
                {
                    var way = grip.At - view.World.Offset;
                    if (way.Length < 0.1 || lens.To(grip.Part, new(view.World.Offset, way.Unit()), 1e-9) is not { } edit)
                    {
                        continue;
                    }

                    scene.Run(edit);
                    var (given, present) = (grip.Part, edit) switch
                    {
                        (LensPart.Range, SetLight light) => (light.Range, metres),
                        (LensPart.InnerCone, SetLight light) => (light.InnerCone, Math.Min(within, outer)),
                        (LensPart.OuterCone, SetLight light) => (light.OuterCone, outer),
                        (LensPart.Fov, SetCamera camera) => (camera.Fov, fov),
                        (LensPart.Height, SetCamera camera) => (camera.Height, metres),
                        _ => throw new InvalidOperationException($"{edit} for {grip}"),
                    };
                    Assert.True(Math.Abs(given!.Value - present) < 1e-4 * (1 + present), $"{grip} gives {given}");
                }
            });

    [Fact]
    public void Handles_take_steps_and_stay_within_what_can_be()
    {
        var scene = Studio();
        var view = new View(new(Mat3.Identity, new(0, 0, 20)), Parallel: false);
        LensHandles Of(string id) => new(scene, scene.Find(id)!, Euler.ToMatrix(new(0, 90, 0), EulerOrder.XYZ) is var turned ? new(turned, Vec3.Zero) : default, view, 1);

        // It shines along −X; the ray passes 40° above that.
        Ray Through(double degrees) => new(view.World.Offset, (new Vec3(-Math.Cos(degrees * Math.PI / 180), Math.Sin(degrees * Math.PI / 180), 0) - view.World.Offset).Unit());
        Assert.Equal(40, ((SetLight)Of("sun").To(LensPart.OuterCone, Through(41), 5)!).OuterCone!.Value, tolerance: 1e-6);
        Assert.Equal(90, ((SetLight)Of("sun").To(LensPart.OuterCone, Through(170), null)!).OuterCone);
        Assert.Equal(0.05, ((SetLight)Of("sun").To(LensPart.Range, Through(180), null)!).Range);
        Assert.Null(Of("desk").To(LensPart.Range, Through(3), null));
        Assert.Empty(Of("desk").Shape.Lines);
    }
}
