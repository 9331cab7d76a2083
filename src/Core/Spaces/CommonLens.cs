using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>What the lamps among several nodes have in common; nothing where they differ.</summary>
/// <param name="Count">How many of them are lamps.</param>
/// <param name="Range">Metres; 0: without end.</param>
public sealed record CommonLight(int Count, LightType? Type, string? Color, double? Intensity, double? Range, double? InnerCone, double? OuterCone)
{
    public static CommonLight Of(SceneDraft draft, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        List<Light> all = [.. nodes.Select(draft.Find).Select(n => n?.Light).OfType<Light>()];
        return new(
            all.Count,
            Common.Of(all, l => l.Type),
            Common.OfText(all, l => l.Color),
            Common.Of(all, l => l.Intensity),
            Common.Of(all, l => l.Range ?? 0),
            Common.Of(all, l => l.InnerCone ?? 0),
            Common.Of(all, l => l.OuterCone ?? Light.UsualOuterCone));
    }
}

/// <summary>What the cameras among several nodes have in common; nothing where they differ.</summary>
/// <param name="Count">How many of them are cameras.</param>
public sealed record CommonCamera(int Count, Projection? Projection, double? Fov, double? Height, double? Near, double? Far, double? Aspect)
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
            Common.Of(all, c => c.Near),
            Common.Of(all, c => c.Far),
            Common.Of(all, c => c.Aspect ?? Camera.UsualAspect));
    }
}

/// <summary>The value that all have, or nothing.</summary>
internal static class Common
{
    public static TValue? Of<T, TValue>(IReadOnlyList<T> all, Func<T, TValue> get)
        where TValue : struct =>
        all.Count > 0 && all.Skip(1).All(one => EqualityComparer<TValue>.Default.Equals(get(one), get(all[0]))) ? get(all[0]) : null;

    public static string? OfText<T>(IReadOnlyList<T> all, Func<T, string> get) =>
        all.Count > 0 && all.Skip(1).All(one => string.Equals(get(one), get(all[0]), StringComparison.OrdinalIgnoreCase)) ? get(all[0]) : null;
}
