using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<Projection>))]
public enum Projection
{
    Perspective,
    Parallel,
}

/// <summary>What a camera sees; it looks along its −Z.</summary>
/// <param name="Fov">The vertical angle of view in degrees; for perspective.</param>
/// <param name="Height">The height of what is seen, in metres; for parallel projection.</param>
/// <param name="Aspect">Width over height of the final picture; null: the usual one.</param>
public sealed record Camera(
    Projection Projection = Projection.Perspective,
    double Fov = 38,
    double Height = 4,
    double Near = 0.1,
    double Far = 1000,
    double? Aspect = null)
{
    public static readonly Camera Default = new();

    /// <summary>The picture's width over its height where a camera says nothing.</summary>
    public const double UsualAspect = 16.0 / 9;

    /// <param name="name">Whose lens it is, for the refusal.</param>
    public Camera Checked(string? name = null) =>
        Fov is >= 0.01 and <= 179 && Height is >= 1e-6 and < 1e9 && Near is >= 1e-6 and < 1e9 && Far > Near * (1 + 1e-6) && Far <= 1e12 && Aspect is null or (> 0.01 and < 100)
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"{(name is null ? "A camera" : $"“{name}”")} needs an angle from 0.01 to 179°, a height and a near plane of at least 0.000001 m, a far plane beyond its near plane, and a picture that is not thinner than 1 to 100.");
}
