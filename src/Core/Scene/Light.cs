using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

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

    /// <summary>The outer cone of a spot that says nothing, as in KHR_lights_punctual.</summary>
    public const double UsualOuterCone = 45;

    /// <param name="name">Whose light it is, for the refusal.</param>
    public Light Checked(string? name = null)
    {
        Material.CheckColor(Color);
        var cones = (InnerCone ?? 0) is >= 0 and <= 90 && (OuterCone ?? 45) is >= 0.01 and <= 90 && (InnerCone ?? 0) <= (OuterCone ?? 45);
        return Intensity is >= 0 and < 1e12 && Range is null or (>= 1e-6 and <= 1e12) && cones
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"{(name is null ? "A lamp" : $"“{name}”")} needs an intensity from 0 to a million millions, a range of at least 0.000001 m, and an inner cone within an outer one of 0.01 to 90°.");
    }
}
