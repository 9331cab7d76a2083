using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>
/// How a picture is laid on, in glTF's numbers for filters and wrapping and KHR_texture_transform's order: a coordinate is repeated, then turned
/// counter-clockwise about the picture's upper left corner, then offset.
/// </summary>
/// <param name="WrapS">10497: repeated; 33071: its edge goes on; 33648: mirrored at each repetition.</param>
/// <param name="Repeat">How often it comes across and down; null: once.</param>
/// <param name="Offset">In pictures; null: none.</param>
/// <param name="Turn">Degrees.</param>
public sealed record TextureUse(
    string Channel,
    string Image,
    int TexCoord = 0,
    int WrapS = 10497,
    int WrapT = 10497,
    int? MagFilter = null,
    int? MinFilter = null,
    double? Strength = null,
    Uv? Repeat = null,
    Uv? Offset = null,
    double Turn = 0)
{
    private const double MostRepeat = 1e5;

    /// <summary>What a picture of a material can be for: the channels of glTF's core materials.</summary>
    public static readonly IReadOnlyList<string> Channels = ["BaseColor", "MetallicRoughness", "Normal", "Occlusion", "Emissive"];

    private static readonly int[] Wraps = [10497, 33071, 33648];
    private static readonly int[] MagFilters = [0, 9728, 9729];
    private static readonly int[] MinFilters = [0, 9728, 9729, 9984, 9985, 9986, 9987];

    /// <exception cref="Refusal">not-understood.</exception>
    public TextureUse Checked() =>
        Channels.Contains(Channel) && Image is { Length: 64 } && Image.All(char.IsAsciiHexDigitLower) && TexCoord is >= 0 and < 8
        && Wraps.Contains(WrapS) && Wraps.Contains(WrapT) && MagFilters.Contains(MagFilter ?? 0) && MinFilters.Contains(MinFilter ?? 0)
        && Strength is null or (>= 0 and <= 1e6)
        && Repeat is null or { U: not 0 and >= -MostRepeat and <= MostRepeat, V: not 0 and >= -MostRepeat and <= MostRepeat }
        && Offset is null or { U: >= -MostRepeat and <= MostRepeat, V: >= -MostRepeat and <= MostRepeat } && Turn is >= -36_000 and <= 36_000
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A picture of a material needs a channel of glTF, the hash of an image, wraps and filters by their numbers in glTF, and repeats that are not zero.");
}

[JsonConverter(typeof(CamelCase<AlphaMode>))]
public enum AlphaMode
{
    Opaque,
    Mask,
    Blend,
}

/// <summary>Two numbers across and down a picture, in JSON <c>[u,v]</c>.</summary>
[JsonConverter(typeof(UvConverter))]
public readonly record struct Uv(double U, double V);

public sealed class UvConverter : JsonConverter<Uv>
{
    public override Uv Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        Span<double> both = stackalloc double[2];
        Arrays.Read(ref reader, both);
        return new(both[0], both[1]);
    }

    public override void Write(Utf8JsonWriter writer, Uv value, JsonSerializerOptions options) => Arrays.Write(writer, [value.U, value.V]);
}

/// <summary>By what the pictures of a surface find their place on a thing.</summary>
[JsonConverter(typeof(CamelCase<LiesHow>))]
public enum LiesHow
{
    /// <summary>By the thing's own texture coordinates.</summary>
    Own,

    /// <summary>Projected from the six sides of the node's frame.</summary>
    Box,

    /// <summary>Projected from one direction of the node's frame.</summary>
    Flat,
}

/// <summary>A side of a node's frame, by the direction that it faces.</summary>
[JsonConverter(typeof(CamelCase<LiesFrom>))]
public enum LiesFrom
{
    /// <summary>+Y.</summary>
    Top,

    /// <summary>−Y.</summary>
    Bottom,

    /// <summary>+Z.</summary>
    Front,

    /// <summary>−Z.</summary>
    Back,

    /// <summary>−X.</summary>
    Left,

    /// <summary>+X.</summary>
    Right,
}

/// <summary>How the pictures of a surface lie on things. Formulas: model.md, Box projection.</summary>
/// <param name="Metres">How wide one picture is.</param>
/// <param name="Aspect">Of the picture: width by height.</param>
/// <param name="True">Whether metres are those of the world, whatever the node's scale; else those of its own frame.</param>
/// <param name="From">The direction that flat ones come from.</param>
public sealed record Lies(LiesHow How = LiesHow.Own, double Metres = 1, double Aspect = 1, bool True = false, LiesFrom From = LiesFrom.Top)
{
    public static readonly Lies Own = new();

    /// <exception cref="Refusal">not-understood.</exception>
    public Lies Checked() => Enum.IsDefined(How) && Metres is >= 1e-6 and <= 1e6 && Aspect is >= 1e-4 and <= 1e4
        ? this
        : throw new Refusal(Refusals.NotUnderstood, "A picture is between 0.000001 and 1 000 000 metres wide.");
}

/// <summary>A surface in the metallic-roughness model of glTF 2.0.</summary>
public sealed record Surface(
    Color Color = default,
    double Roughness = 0.9,
    double Metalness = 0,
    double Opacity = 1,
    Color Emissive = default,
    double EmissiveStrength = 1,
    AlphaMode AlphaMode = AlphaMode.Opaque,
    double AlphaCutoff = 0.5,
    bool DoubleSided = false,
    bool Unlit = false,
    Lies? Lies = null)
{
    private const int MostTextures = 16;
    private const string UsualColor = "#CFC8BB";
    private const string Black = "#000000";

    public static readonly Surface Default = new();

    public Color Color { get; init => field = value.Or(UsualColor); } = Color.Or(UsualColor);

    public Color Emissive { get; init => field = value.Or(Black); } = Emissive.Or(Black);

    /// <summary>Never a default array, whoever makes the surface.</summary>
    public ImmutableArray<TextureUse> Textures { get => field.IsDefault ? [] : field; init; }

    /// <summary>Refuses numbers and colours that mean nothing.</summary>
    /// <exception cref="Refusal">not-understood, too-large.</exception>
    public Surface Checked()
    {
        double[] shares = [Roughness, Metalness, Opacity, AlphaCutoff];
        if (!shares.All(v => v is >= 0 and <= 1) || !(EmissiveStrength is >= 0 and <= 1e6))
        {
            throw new Refusal(Refusals.NotUnderstood, "Roughness, metalness, opacity and cutoff of a material lie between 0 and 1.");
        }

        Color.Checked();
        Emissive.Checked();
        if (Textures.Length > MostTextures)
        {
            throw new Refusal(Refusals.TooLarge, $"A material has at most {MostTextures} pictures.");
        }

        foreach (var use in Textures)
        {
            use.Checked();
        }

        Lies?.Checked();
        return this;
    }

    public bool Equals(Surface? other) =>
        other is not null && Color == other.Color && Roughness == other.Roughness && Metalness == other.Metalness
        && Opacity == other.Opacity && Emissive == other.Emissive && EmissiveStrength == other.EmissiveStrength
        && AlphaMode == other.AlphaMode && AlphaCutoff == other.AlphaCutoff && DoubleSided == other.DoubleSided
        && Unlit == other.Unlit && Lies == other.Lies && Textures.AsSpan().SequenceEqual(other.Textures.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Color, Roughness, Metalness, Textures.Length);
}
