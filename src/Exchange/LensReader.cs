using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using SharpGLTF.Schema2;
using Camera = CalmPivot.Core.Scene.Camera;
using Gltf = SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>Reads cameras and KHR_lights_punctual.</summary>
internal static class LensReader
{
    public static Camera Camera(Gltf.Camera source)
    {
        switch (source.Settings)
        {
            case CameraPerspective p:
                double? far = float.IsFinite(p.ZFar) && p.ZFar > p.ZNear ? p.ZFar : null;
                return new Camera
                {
                    Projection = Projection.Perspective,
                    Fov = Math.Clamp(p.VerticalFOV * Degrees.PerRadian, 0.01, 179),
                    Near = Math.Max(p.ZNear, 1e-6),
                    Far = far is { } reach ? Math.Max(reach, Math.Max(p.ZNear, 1e-6) * 2) : null,
                    Aspect = Aspect(p.AspectRatio ?? 0),
                };
            case CameraOrthographic o:
                return new Camera
                {
                    Projection = Projection.Parallel,
                    Height = Math.Max(2 * Math.Abs(o.YMag), 1e-6),
                    Near = Math.Max(o.ZNear, 1e-6),
                    Far = Math.Max(o.ZFar, Math.Max(o.ZNear, 1e-6) * 2),
                    Aspect = Aspect(o.YMag == 0 ? 0 : Math.Abs(o.XMag / o.YMag)),
                };
            default:
                return Core.Scene.Camera.Default;
        }
    }

    /// <summary>Whether a lens of our own is the one that the file describes, but for rounding and what it has no place for.</summary>
    public static bool Agree(Camera own, Camera file) =>
        own.Projection == file.Projection && OwnForm.Agrees(LensWriter.NearOf(own), file.Near) && (LensWriter.FarOf(own) is var far && !double.IsFinite(far) ? file.Far is null : OwnForm.Agrees(far, file.Far))
        && OwnForm.Agrees(own.Aspect ?? Core.Scene.Camera.UsualAspect, file.Aspect ?? Core.Scene.Camera.UsualAspect)
        && (own.Projection == Projection.Perspective ? OwnForm.Agrees(own.Fov, file.Fov) : OwnForm.Agrees(own.Height, file.Height));

    public static bool Agree(Light own, Light file)
    {
        var type = LensWriter.PunctualOf(own);
        var spot = own.Type == LightType.Spot;
        return type == LensWriter.PunctualOf(file) && Colors.Agree(own.Shown, file.Color)
            && OwnForm.Agrees(own.Intensity, file.Intensity)
            && (own.Type == LightType.Directional || OwnForm.Agrees(own.Range, file.Range))
            && (!spot || (Math.Abs((own.InnerCone ?? 0) - (file.InnerCone ?? 0)) < 0.01 && Math.Abs((own.OuterCone ?? 45) - (file.OuterCone ?? 45)) < 0.01));
    }

    /// <summary>The usual shape is not written down; in single precision it comes back a little off.</summary>
    private static double? Aspect(double given) =>
        given is > 0.01 and < 100 && Math.Abs(given - Core.Scene.Camera.UsualAspect) > 1e-5 ? given : null;

    public static Light Light(PunctualLight source)
    {
        var spot = source.LightType == PunctualLightType.Spot;
        return new Light
        {
            Type = source.LightType switch
            {
                PunctualLightType.Directional => LightType.Directional,
                PunctualLightType.Spot => LightType.Spot,
                _ => LightType.Point,
            },
            Color = Colors.FromLinear(source.Color.X, source.Color.Y, source.Color.Z),
            Intensity = source.Intensity,
            Range = source.LightType != PunctualLightType.Directional && float.IsFinite(source.Range) && source.Range > 0 ? source.Range : null,
            InnerCone = spot ? Math.Clamp(source.InnerConeAngle * Degrees.PerRadian, 0, 90) : null,
            OuterCone = spot ? Math.Clamp(source.OuterConeAngle * Degrees.PerRadian, 0.01, 90) : null,
        };
    }
}
