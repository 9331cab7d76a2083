using System.Globalization;

namespace CalmPivot.Core.Words;

/// <summary>A unit that lengths are shown and typed in; stored lengths are metres.</summary>
public sealed record Unit(string Word, double Metres)
{
    private static readonly Dictionary<string, Unit> Known = new[]
    {
        new Unit("m", 1), new Unit("cm", 0.01), new Unit("mm", 0.001), new Unit("km", 1000),
        new Unit("ft", 0.3048), new Unit("in", 0.0254), new Unit("units", 1),
    }.ToDictionary(u => u.Word);

    /// <summary>The units that a scene can be shown in.</summary>
    public static IReadOnlyList<string> OfScenes { get; } = ["m", "cm", "mm", "ft", "in", "units"];

    /// <summary>All units that are understood.</summary>
    public static IReadOnlyCollection<Unit> All => Known.Values;

    public static Unit? Find(string word) => Known.GetValueOrDefault(word);

    public static Unit Of(string word) => Find(word) ?? Known["m"];

    /// <summary>Three lengths with their unit once: "(0.2, 0, 1.5) m".</summary>
    public string Say(Numbers.Vec3 metres) =>
        $"({string.Join(", ", metres.ToArray().Select(v => Figure(v / Metres, 3)))})" + (Word == "units" ? "" : $" {Word}");

    public string Say(double metres) => Word == "units" ? Figure(metres / Metres, 3) : $"{Figure(metres / Metres, 3)} {Word}";

    /// <summary>A number with at most some decimals and no trailing zeros; small ones keep three figures instead of becoming 0.</summary>
    public static string Figure(double value, int decimals)
    {
        var rounded = Math.Round(value, decimals) + 0.0;
        if (rounded == 0 && Math.Abs(value) > 1e-12)
        {
            return value.ToString("G3", CultureInfo.InvariantCulture);
        }

        return Math.Abs(rounded) < 1e9
            ? rounded.ToString("0." + new string('#', decimals), CultureInfo.InvariantCulture)
            : value.ToString("G6", CultureInfo.InvariantCulture);
    }
}
