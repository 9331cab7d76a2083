using System.Text.Json.Serialization;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<Projection>))]
public enum Projection
{
    Perspective,
    Parallel,
}

/// <summary>What a camera sees; it looks along its −Z.</summary>
public sealed record Camera
{
    public static readonly Camera Default = new();

    public Projection Projection { get; init; }

    /// <summary>The vertical angle of view in degrees; for perspective.</summary>
    public double Fov { get; init; } = 38;

    /// <summary>The height of what is seen, in metres; for parallel projection.</summary>
    public double Height { get; init; } = 4;
    public double Near { get; init; } = 0.1;
    public double Far { get; init; } = 1000;

    /// <summary>Width over height of the final picture; null: the usual one.</summary>
    public double? Aspect { get; init; }

    /// <summary>The picture's width over its height where a camera says nothing.</summary>
    public const double UsualAspect = 16.0 / 9;

    public Camera Checked() =>
        Fov is > 0 and < 180 && Height is > 0 and < 1e9 && Near is > 0 and < 1e9 && Far > Near && Far <= 1e12 && Aspect is null or (> 0.01 and < 100)
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A camera needs an angle between 0 and 180°, a height above 0, and a far plane beyond its near plane, and a picture that is not thinner than 1 to 100.");
}
