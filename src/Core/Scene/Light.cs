using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<LightType>))]
public enum LightType
{
    Point,
    Directional,
    Spot,

    /// <summary>An area that shines to one side, strongest straight ahead.</summary>
    Panel,
}

/// <summary>A light in the units of KHR_lights_punctual (candela, lux); it shines along its −Z. Cones in degrees from the axis.</summary>
/// <param name="Intensity">Candela, of a panel straight ahead; of a directional one lux.</param>
/// <param name="Range">Metres; null: without end.</param>
/// <param name="Temperature">Kelvin; null: it shines in its colour.</param>
/// <param name="Size">How wide what shines is, for soft shadows: metres in the world, whatever the scale; of a directional one degrees; of a panel its width.</param>
/// <param name="PanelHeight">Metres; null: as wide as high.</param>
/// <param name="Shadow">Whether what stands in its light casts a shadow; null: it does.</param>
public sealed record Light(
    LightType Type = LightType.Point,
    Color Color = default,
    double Intensity = 100,
    double? Range = null,
    double? InnerCone = null,
    double? OuterCone = null,
    double? Temperature = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] double Size = 0,
    double? PanelHeight = null,
    bool? Shadow = null)
{
    public static readonly Light Default = new();

    /// <summary>White where nothing is said.</summary>
    public Color Color { get; init => field = value.Or(White); } = Color.Or(White);

    /// <summary>The outer cone of a spot that says nothing, as in KHR_lights_punctual.</summary>
    public const double UsualOuterCone = 45;

    private const string White = "#FFFFFF";
    private const double MostSize = 1e6;
    private const double MostDegrees = 90;

    [JsonIgnore]
    public bool CastsShadows => Shadow != false;

    /// <summary>The colour that it shines in.</summary>
    [JsonIgnore]
    public Color Shown => Temperature is { } kelvin ? Kelvin.Color(kelvin) : Color;

    /// <summary>
    /// All the light that it gives, in lumen; null: a directional one gives it to every square metre. A spot by the falloff of KHR_lights_punctual, the
    /// square of a straight line in the cosine, a panel by Lambert's cosine.
    /// </summary>
    [JsonIgnore]
    public double? Lumens => Type switch
    {
        LightType.Directional => null,
        LightType.Panel => Math.PI * Intensity,
        LightType.Spot => Math.Tau * Intensity * Spread(Math.Cos((InnerCone ?? 0) * Math.PI / 180), Math.Cos((OuterCone ?? UsualOuterCone) * Math.PI / 180)),
        _ => 2 * Math.Tau * Intensity,
    };

    /// <param name="name">Whose light it is, for the refusal.</param>
    public Light Checked(string? name = null)
    {
        Color.Checked();
        var who = name is null ? "A lamp" : $"“{name}”";
        var cones = (InnerCone ?? 0) is >= 0 and <= 90 && (OuterCone ?? 45) is >= 0.01 and <= 90 && (InnerCone ?? 0) <= (OuterCone ?? 45);
        if (!(Intensity is >= 0 and < 1e12 && Range is null or (>= 1e-6 and <= 1e12) && cones))
        {
            throw new Refusal(Refusals.NotUnderstood, $"{who} needs an intensity from 0 to a million millions, a range of at least 0.000001 m, and an inner cone within an outer one of 0.01 to 90°.");
        }

        if (Temperature is not (null or (>= Kelvin.Least and <= Kelvin.Most)))
        {
            throw new Refusal(Refusals.NotUnderstood, $"{who} needs a temperature from {Kelvin.Least} to {Kelvin.Most} K, or a colour instead.");
        }

        var fits = Type == LightType.Directional ? Size is >= 0 and <= MostDegrees : Size is >= 0 and <= MostSize && (Type != LightType.Panel || Size >= 1e-6);
        return fits && PanelHeight is null or (>= 1e-6 and <= MostSize)
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"{who} needs a size from 0 to {MostSize / 1000} km, a panel more than nothing both ways, and what shines from far away at most {MostDegrees}°.");
    }

    private static double Spread(double inner, double outer) => 1 - inner + (inner - outer) / 3;
}
