using System.Collections.Immutable;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>How a texture is read, in glTF's numbers for filters and wrapping.</summary>
/// <param name="WrapS">10497: repeated.</param>
public sealed record TextureUse(
    string Channel,
    string Image,
    int TexCoord = 0,
    int WrapS = 10497,
    int WrapT = 10497,
    int? MagFilter = null,
    int? MinFilter = null,
    double? Strength = null)
{
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
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "A picture of a material needs a channel of glTF, the hash of an image, and wraps and filters by their numbers in glTF.");
}

[JsonConverter(typeof(CamelCase<AlphaMode>))]
public enum AlphaMode
{
    Opaque,
    Mask,
    Blend,
}

/// <summary>A surface in the metallic-roughness model of glTF 2.0; colours as #RRGGBB in sRGB. Textures are kept for the way out.</summary>
public sealed record Material(
    string Color = "#CFC8BB",
    double Roughness = 0.9,
    double Metalness = 0,
    double Opacity = 1,
    string Emissive = "#000000",
    double EmissiveStrength = 1,
    AlphaMode AlphaMode = AlphaMode.Opaque,
    double AlphaCutoff = 0.5,
    bool DoubleSided = false,
    bool Unlit = false,
    string? Name = null)
{
    private const int MostTextures = 16;

    public static readonly Material Default = new();

    /// <summary>Never a default array, whoever makes the material.</summary>
    public ImmutableArray<TextureUse> Textures { get => field.IsDefault ? [] : field; init; }

    /// <summary>Refuses numbers and colours that mean nothing.</summary>
    public Material Checked()
    {
        double[] shares = [Roughness, Metalness, Opacity, AlphaCutoff];
        if (!shares.All(v => v is >= 0 and <= 1) || !(EmissiveStrength is >= 0 and <= 1e6))
        {
            throw new Refusal(Refusals.NotUnderstood, "Roughness, metalness, opacity and cutoff of a material lie between 0 and 1.");
        }

        CheckColor(Color);
        CheckColor(Emissive);
        if (Textures.Length > MostTextures)
        {
            throw new Refusal(Refusals.TooLarge, $"A material has at most {MostTextures} pictures.");
        }

        foreach (var use in Textures)
        {
            use.Checked();
        }

        return this;
    }

    internal static void CheckColor(string color)
    {
        if (color is not { Length: 7 } || color[0] != '#' || !color.Skip(1).All(char.IsAsciiHexDigit))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{color}” is no colour. Write it as # and six figures, such as #C9A66B.");
        }
    }

    public bool Equals(Material? other) =>
        other is not null && Color == other.Color && Roughness == other.Roughness && Metalness == other.Metalness
        && Opacity == other.Opacity && Emissive == other.Emissive && EmissiveStrength == other.EmissiveStrength
        && AlphaMode == other.AlphaMode && AlphaCutoff == other.AlphaCutoff && DoubleSided == other.DoubleSided
        && Unlit == other.Unlit && Name == other.Name && Textures.AsSpan().SequenceEqual(other.Textures.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Color, Roughness, Metalness, Name);
}
