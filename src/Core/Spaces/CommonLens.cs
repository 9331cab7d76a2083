using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>What the lamps among several nodes have in common; nothing where they differ.</summary>
/// <param name="Count">How many of them are lamps.</param>
/// <param name="Range">Metres; 0: without end.</param>
/// <param name="Shown">The colour that they shine in.</param>
/// <param name="Lumens">All the light that one gives; nothing: it has no such sum.</param>
/// <param name="Temperature">Kelvin; 0: in a colour.</param>
/// <param name="PanelHeight">Metres; 0: as high as wide.</param>
public sealed record CommonLight(
    int Count, LightType? Type, Color? Color, Color? Shown, double? Intensity, double? Lumens, double? Range, double? InnerCone, double? OuterCone,
    double? Temperature, double? Size, double? PanelHeight, bool? Shadow)
{
    public static CommonLight Of(SceneDraft draft, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        List<Light> all = [.. nodes.Select(draft.Find).Select(n => n?.Light).OfType<Light>()];
        return new(
            all.Count,
            Common.Of(all, l => l.Type),
            Common.OfColor(all, l => l.Color),
            Common.OfColor(all, l => l.Shown),
            Common.Of(all, l => l.Intensity),
            all.Exists(l => l.Lumens is null) ? null : Common.Of(all, l => l.Lumens ?? 0),
            Common.Of(all, l => l.Range ?? 0),
            Common.Of(all, l => l.InnerCone ?? 0),
            Common.Of(all, l => l.OuterCone ?? Light.UsualOuterCone),
            Common.Of(all, l => l.Temperature ?? 0),
            Common.Of(all, l => l.Size),
            Common.Of(all, l => l.PanelHeight ?? 0),
            Common.Of(all, l => l.CastsShadows));
    }
}

/// <summary>What the cameras among several nodes have in common; nothing where they differ.</summary>
/// <param name="Count">How many of them are cameras.</param>
/// <param name="Near">Metres; 0: as needed.</param>
/// <param name="Far">Metres; 0: as needed.</param>
/// <param name="FocalLength">Millimetres.</param>
/// <param name="Aperture">The f-number; 0: all is sharp.</param>
/// <param name="FocusName">What they are sharp at, by its name.</param>
public sealed record CommonCamera(
    int Count, Projection? Projection, double? Fov, double? Height, double? Near, double? Far, double? Aspect, double? FocalLength, int? PictureWidth, int? PictureHeight,
    double? ShiftX, double? ShiftY, double? Aperture, double? Focus, string? FocusName)
{
    public static CommonCamera Of(SceneDraft draft, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        List<Camera> all = [.. nodes.Select(draft.Find).Select(n => n?.Camera).OfType<Camera>()];
        return new(
            all.Count,
            Common.Of(all, c => c.Projection),
            Common.Of(all, c => c.Fov),
            Common.Of(all, c => c.Height),
            Common.Of(all, c => c.Near ?? 0),
            Common.Of(all, c => c.Far ?? 0),
            Common.Of(all, c => c.Aspect ?? Camera.UsualAspect),
            Common.Of(all, c => c.FocalLength),
            Common.Of(all, c => c.PictureSize().Width),
            Common.Of(all, c => c.PictureSize().Height),
            Common.Of(all, c => c.ShiftX),
            Common.Of(all, c => c.ShiftY),
            Common.Of(all, c => c.Aperture ?? 0),
            Common.Of(all, c => c.Focus ?? Camera.UsualFocus),
            Common.OfText(all, c => c.FocusOn is { } id ? draft.Find(id)?.Name ?? "" : ""));
    }
}

/// <summary>The value that all have, or nothing.</summary>
internal static class Common
{
    public static TValue? Of<T, TValue>(IReadOnlyList<T> all, Func<T, TValue> get)
        where TValue : struct =>
        all.Count > 0 && all.Skip(1).All(one => EqualityComparer<TValue>.Default.Equals(get(one), get(all[0]))) ? get(all[0]) : null;

    public static Color? OfColor<T>(IReadOnlyList<T> all, Func<T, Color> get) =>
        Of(all, one => get(one).Linear) is { } ? get(all[0]) : (Color?)null;

    public static string? OfText<T>(IReadOnlyList<T> all, Func<T, string> get) =>
        all.Count > 0 && all.Skip(1).All(one => string.Equals(get(one), get(all[0]), StringComparison.OrdinalIgnoreCase)) ? get(all[0]) : null;
}
