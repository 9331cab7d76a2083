using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// The colour of a surface or a lamp: shares of red, green and blue, in the primaries of sRGB. In JSON <c>"#RRGGBB"</c> in sRGB where that says it exactly, else
/// <c>[r,g,b]</c>, linear from 0 to 1, as in glTF 2.0.
/// <code>
/// Color brass = "#C99A4E";
/// var finer = Color.Of(new(0.5843, 0.3231, 0.0765)); // finer.Text is null
/// </code>
/// </summary>
[JsonConverter(typeof(ColorConverter))]
public readonly record struct Color
{
    private Color(string? text, Vec3 linear) => (Text, Linear) = (text, linear);

    /// <summary>Six figures behind a #, as they were written; null: it is finer than they can say.</summary>
    public string? Text { get; }

    /// <summary>Its linear shares.</summary>
    public Vec3 Linear { get; }

    /// <summary>It, or another one where nothing was said.</summary>
    public Color Or(Color usual) => Text is null && Linear == Vec3.Zero ? usual : this;

    /// <summary>The six figures that are nearest to it.</summary>
    public string Nearest => Text ?? "#" + string.Concat(Linear.ToArray().Select(v => SRgb.Step(v).ToString("X2", CultureInfo.InvariantCulture)));

    public static implicit operator Color(string text) => Of(text);

    /// <summary>Of six figures behind a #. What is no colour is one only until it is checked.</summary>
    public static Color Of(string text) => IsColor(text)
        ? new(text, new(Channel(text, 1), Channel(text, 3), Channel(text, 5)))
        : new(text ?? "", Vec3.Zero);

    /// <summary>Of linear shares; where six figures say it exactly, by them.</summary>
    public static Color Of(Vec3 linear)
    {
        Color text = new Color(null, linear).Nearest;
        return text.Linear == linear ? text : new(null, linear);
    }

    /// <summary>Refuses what is no colour.</summary>
    /// <exception cref="Refusal">not-understood.</exception>
    public Color Checked()
    {
        if (Text is { } text)
        {
            Check(text);
            return this;
        }

        return Linear.ToArray().All(v => v is >= 0 and <= 1)
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A colour has three linear shares from 0 to 1, such as [0.25, 0.5, 1].");
    }

    /// <exception cref="Refusal">not-understood.</exception>
    public static void Check(string text)
    {
        if (!IsColor(text))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{text}” is no colour. Write it as # and six figures, such as #C9A66B.");
        }
    }

    /// <summary>As a sentence says it.</summary>
    public override string ToString() => Nearest.ToUpperInvariant();

    internal ulong Added(ulong digest) => Text is { } text ? Digests.Add(digest, text) : Digests.Add(digest, Linear);

    private static bool IsColor(string text) => text is { Length: 7 } && text[0] == '#' && text.AsSpan(1).ContainsAnyExcept(Figures) == false;

    private static readonly System.Buffers.SearchValues<char> Figures = System.Buffers.SearchValues.Create("0123456789abcdefABCDEF");

    private static double Channel(string text, int at) => SRgb.Linear(int.Parse(text.AsSpan(at, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture));
}

public sealed class ColorConverter : JsonConverter<Color>
{
    public override Color Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
        {
            return Color.Of(reader.GetString()!);
        }

        Span<double> linear = stackalloc double[3];
        Arrays.Read(ref reader, linear);
        return Color.Of(new Vec3(linear[0], linear[1], linear[2]));
    }

    public override void Write(Utf8JsonWriter writer, Color value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        if (value.Text is { } text)
        {
            writer.WriteStringValue(text);
        }
        else
        {
            Arrays.Write(writer, [value.Linear.X, value.Linear.Y, value.Linear.Z]);
        }
    }
}
