using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using SharpGLTF.Schema2;
using Camera = CalmPivot.Core.Scene.Camera;
using Gltf = SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>Writes cameras and KHR_lights_punctual.</summary>
internal static class LensWriter
{
    public static void Write(ModelRoot model, Gltf.Node node, Camera camera)
    {
        var target = model.CreateCamera(node.Name);
        if (camera.Projection == Projection.Perspective)
        {
            target.SetPerspectiveMode((float?)camera.Aspect, (float)(camera.Fov / Degrees.PerRadian), (float)NearOf(camera), (float)FarOf(camera));
        }
        else
        {
            var half = camera.Height / 2;
            target.SetOrthographicMode((float)(half * (camera.Aspect ?? Camera.UsualAspect)), (float)half, (float)NearOf(camera), (float)FarOf(camera));
        }

        node.Camera = target;
    }

    /// <summary>The nearest kind that the standard has: of a panel a spot that shines to all of one side.</summary>
    public static PunctualLightType PunctualOf(Light light) => light.Type switch
    {
        LightType.Directional => PunctualLightType.Directional,
        LightType.Spot or LightType.Panel => PunctualLightType.Spot,
        _ => PunctualLightType.Point,
    };

    /// <summary>The standard wants a near plane of every lens, and a far one of those in parallel.</summary>
    public static double NearOf(Camera camera) => camera.Near ?? Math.Min(UsualNear, (camera.Far ?? 1) / 10);

    public static double FarOf(Camera camera) => camera.Far ?? (camera.Projection == Projection.Perspective ? double.PositiveInfinity : Math.Max(UsualFar, NearOf(camera) * 10));

    private const double UsualNear = 0.01;
    private const double UsualFar = 10_000;

    public static void Write(ModelRoot model, Gltf.Node node, Light light)
    {
        var type = PunctualOf(light);
        var target = model.CreatePunctualLight(node.Name, type);
        target.Color = Colors.ToLinear(light.Shown);
        target.Intensity = (float)light.Intensity;
        if (light.Range is { } range && type != PunctualLightType.Directional)
        {
            target.Range = (float)range;
        }

        if (type == PunctualLightType.Spot)
        {
            // Half as strong at 60° from straight ahead as a panel is, and dark to the side.
            var (within, around) = light.Type == LightType.Panel ? (0, 90) : (light.InnerCone ?? 0, light.OuterCone ?? Light.UsualOuterCone);
            var outer = around / Degrees.PerRadian;
            target.SetSpotCone((float)Math.Min(within / Degrees.PerRadian, outer - 1e-4), AtMostQuarter(outer));
        }

        node.PunctualLight = target;
    }

    /// <summary>In 32 bits a quarter turn is more than one, which no reader needs to take.</summary>
    private static float AtMostQuarter(double angle) => (float)angle is var near && near > Math.PI / 2 ? MathF.BitDecrement(near) : (float)angle;
}
