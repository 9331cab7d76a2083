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
/// <param name="Near">Metres before the camera from which on it sees; null: all that stands before it.</param>
/// <param name="Far">Metres up to which it sees; null: however far.</param>
/// <param name="Aspect">Width over height of the final picture; null: the usual one.</param>
/// <param name="Pixels">How many pixels the final picture is wide; null: the usual number.</param>
/// <param name="ShiftX">How far the picture is shifted beside the axis, in picture heights; to the right.</param>
/// <param name="ShiftY">The same upward.</param>
/// <param name="Aperture">The f-number; null: all is sharp.</param>
/// <param name="Focus">Metres along the view at which it is sharp.</param>
/// <param name="FocusOn">The id of what it is sharp at, wherever that stands; null: as far as <paramref name="Focus"/> says.</param>
public sealed record Camera(
    Projection Projection = Projection.Perspective,
    double Fov = 38,
    double Height = 4,
    double? Near = null,
    double? Far = null,
    double? Aspect = null,
    int? Pixels = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] double ShiftX = 0,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] double ShiftY = 0,
    double? Aperture = null,
    double? Focus = null,
    string? FocusOn = null)
{
    public static readonly Camera Default = new();

    /// <summary>The picture's width over its height where a camera says nothing.</summary>
    public const double UsualAspect = 16.0 / 9;

    public const int UsualPixels = 1920;

    /// <summary>How far away it is sharp where nothing is said.</summary>
    public const double UsualFocus = 3;

    /// <summary>The longest side of a picture in pixels.</summary>
    public const int MostPixels = 8_192;

    /// <summary>The focal length in millimetres, for a picture of 36 × 24 mm that it fits into. Source: model.md, cameras.</summary>
    [JsonIgnore]
    public double FocalLength => FilmHeight(Aspect) / 2 / Math.Tan(Fov * (Math.PI / 360));

    /// <summary>Width and height of the picture in pixels.</summary>
    public (int Width, int Height) PictureSize() => PictureSize(Pixels ?? UsualPixels, Aspect ?? UsualAspect);

    /// <summary>Width and height in pixels of a picture so wide; one that would be too large is smaller both ways.</summary>
    /// <param name="wide">Pixels across that are wished for.</param>
    /// <param name="aspect">Width over height.</param>
    public static (int Width, int Height) PictureSize(int wide, double aspect)
    {
        wide = Math.Clamp(wide, 1, MostPixels);
        var high = wide / aspect;
        return high > MostPixels ? (Math.Max(1, (int)Math.Round(MostPixels * aspect)), MostPixels) : (wide, Math.Max(1, (int)Math.Round(high)));
    }

    /// <summary>How wide the opening is that light comes through, in metres; 0: all is sharp.</summary>
    [JsonIgnore]
    public double Opening => Aperture is { } number && Projection == Projection.Perspective ? FocalLength / 1000 / number : 0;

    /// <summary>The vertical angle of view of a focal length in millimetres, in degrees.</summary>
    public static double FovOf(double focalLength, double? aspect) => 2 * Math.Atan(FilmHeight(aspect) / (2 * focalLength)) * (180 / Math.PI);

    /// <param name="name">Whose lens it is, for the refusal.</param>
    public Camera Checked(string? name = null)
    {
        var who = name is null ? "A camera" : $"“{name}”";
        if (!(Fov is >= 0.01 and <= 179 && Height is >= 1e-6 and < 1e9 && Near is null or (>= 1e-6 and < 1e9) && Far is null or (> 1e-6 and <= 1e12)
            && !(Far <= (Near ?? 0) * (1 + 1e-6)) && Aspect is null or (>= 0.01 and <= 100)))
        {
            throw new Refusal(Refusals.NotUnderstood, $"{who} needs an angle from 0.01 to 179°, a height and a near plane of at least 0.000001 m, a far plane beyond its near plane, and a picture that is not thinner than 1 to 100.");
        }

        if (Pixels is not (null or (>= 16 and <= MostPixels)))
        {
            throw new Refusal(Refusals.NotUnderstood, $"{who} needs a picture that is 16 to {MostPixels} pixels wide.");
        }

        return ShiftX is >= -10 and <= 10 && ShiftY is >= -10 and <= 10 && Aperture is null or (>= 0.1 and <= 1000) && Focus is null or (>= 1e-4 and <= 1e9) && FocusOn is not ""
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"{who} needs a shift of at most ten picture heights, an f-number from 0.1 to 1000, and a focus of at least 0.0001 m.");
    }

    private static double FilmHeight(double? aspect) => Math.Min(24, 36 / (aspect ?? UsualAspect));
}
