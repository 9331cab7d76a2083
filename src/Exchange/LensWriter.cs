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
            target.SetPerspectiveMode((float?)camera.Aspect, (float)(camera.Fov / Degrees.PerRadian), (float)camera.Near, (float)camera.Far);
        }
        else
        {
            var half = camera.Height / 2;
            target.SetOrthographicMode((float)(half * (camera.Aspect ?? Camera.UsualAspect)), (float)half, (float)camera.Near, (float)camera.Far);
        }

        node.Camera = target;
    }

    public static void Write(ModelRoot model, Gltf.Node node, Light light)
    {
        var type = light.Type switch
        {
            LightType.Directional => PunctualLightType.Directional,
            LightType.Spot => PunctualLightType.Spot,
            _ => PunctualLightType.Point,
        };
        var target = model.CreatePunctualLight(node.Name, type);
        target.Color = Colors.ToLinear(light.Color);
        target.Intensity = (float)light.Intensity;
        if (light.Range is { } range && type != PunctualLightType.Directional)
        {
            target.Range = (float)range;
        }

        if (type == PunctualLightType.Spot)
        {
            var outer = (light.OuterCone ?? 45) / Degrees.PerRadian;
            target.SetSpotCone((float)Math.Min((light.InnerCone ?? 0) / Degrees.PerRadian, outer - 1e-4), (float)outer);
        }

        node.PunctualLight = target;
    }
}
