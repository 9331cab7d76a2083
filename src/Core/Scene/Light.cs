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
public sealed record Light
{
    public static readonly Light Default = new();

    public LightType Type { get; init; }
    public string Color { get; init; } = "#FFFFFF";
    public double Intensity { get; init; } = 100;
    public double? Range { get; init; }
    public double? InnerCone { get; init; }
    public double? OuterCone { get; init; }

    public Light Checked()
    {
        Material.CheckColor(Color);
        var cones = (InnerCone ?? 0) is >= 0 and <= 90 && (OuterCone ?? 45) is > 0 and <= 90 && (InnerCone ?? 0) <= (OuterCone ?? 45);
        return Intensity is >= 0 and < 1e12 && Range is null or > 0 && cones
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A light needs an intensity of 0 or more, a range above 0, and an inner cone within an outer one of at most 90°.");
    }
}
