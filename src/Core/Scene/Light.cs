using System.Text.Json.Serialization;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<LightType>))]
public enum LightType
{
    Point,
    Directional,
    Spot,
}

/// <summary>A light in the units of KHR_lights_punctual (candela, lux); it shines along its −Z. Cones in degrees from the axis.</summary>
/// <param name="Range">Metres; null: without end.</param>
public sealed record Light(
    LightType Type = LightType.Point,
    string Color = "#FFFFFF",
    double Intensity = 100,
    double? Range = null,
    double? InnerCone = null,
    double? OuterCone = null)
{
    public static readonly Light Default = new();

    public Light Checked()
    {
        Material.CheckColor(Color);
        var cones = (InnerCone ?? 0) is >= 0 and <= 90 && (OuterCone ?? 45) is > 0 and <= 90 && (InnerCone ?? 0) <= (OuterCone ?? 45);
        return Intensity is >= 0 and < 1e12 && Range is null or > 0 && cones
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A light needs an intensity of 0 or more, a range above 0, and an inner cone within an outer one of at most 90°.");
    }
}
