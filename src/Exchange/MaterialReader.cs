using System.Collections.Immutable;
using System.Security.Cryptography;
using CalmPivot.Core.Scene;
using SharpGLTF.Schema2;
using AlphaMode = CalmPivot.Core.Scene.AlphaMode;
using Gltf = SharpGLTF.Schema2;
using Material = CalmPivot.Core.Scene.Material;

namespace CalmPivot.Exchange;

/// <summary>Reads materials; their textures are kept whole, for the way out.</summary>
internal sealed class MaterialReader
{
    /// <summary>The texture channels of glTF's core materials, with the factor of those that have a strength.</summary>
    internal static readonly (string Channel, string? Strength)[] Channels =
        [("BaseColor", null), ("MetallicRoughness", null), ("Normal", "NormalScale"), ("Occlusion", "OcclusionStrength"), ("Emissive", null)];

    public Dictionary<string, (string MediaType, byte[] Bytes)> Images { get; } = [];

    public HashSet<string> Notes { get; } = [];

    public Material Read(Gltf.Material? source)
    {
        if (source is null)
        {
            // glTF's own default: white, rough 1, metal 1 is defined, but no reader draws a bare mesh as metal.
            return new Material { Color = "#FFFFFF", Roughness = 1 };
        }

        var color = source.FindChannel("BaseColor")?.Color ?? System.Numerics.Vector4.One;
        var emissive = source.FindChannel("Emissive")?.Color ?? System.Numerics.Vector4.Zero;
        var read = new Material
        {
            Name = string.IsNullOrWhiteSpace(source.Name) ? null : source.Name,
            Color = Colors.FromLinear(color.X, color.Y, color.Z),
            Opacity = Math.Clamp(color.W, 0, 1),
            Roughness = Factor(source, "MetallicRoughness", "RoughnessFactor", 1),
            Metalness = Factor(source, "MetallicRoughness", "MetallicFactor", source.Unlit ? 0 : 1),
            Emissive = Colors.FromLinear(emissive.X, emissive.Y, emissive.Z),
            EmissiveStrength = Math.Clamp(Factor(source, "Emissive", "EmissiveStrength", 1, 1e6f), 0, 1e6),
            AlphaMode = source.Alpha switch { Gltf.AlphaMode.MASK => AlphaMode.Mask, Gltf.AlphaMode.BLEND => AlphaMode.Blend, _ => AlphaMode.Opaque },
            AlphaCutoff = Math.Clamp(source.AlphaCutoff, 0, 1),
            DoubleSided = source.DoubleSided,
            Unlit = source.Unlit,
            Textures = [.. Channels.Select(c => Texture(source, c.Channel, c.Strength)).OfType<TextureUse>()],
        };
        return OwnForm.Checked<Material>(OwnForm.Of(source)?["material"], m => m.Checked()) is { } own && Agree(own, read) ? own : read;
    }

    /// <summary>Whether a material of our own is the one that the file describes, but for rounding and what it has no place for.</summary>
    private static bool Agree(Material own, Material file)
    {
        static bool Same(string a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
        return (own.Name ?? "") == (file.Name ?? "") && Same(own.Color, file.Color) && OwnForm.Agrees(own.Opacity, file.Opacity)
            && (own.Unlit || (OwnForm.Agrees(own.Roughness, file.Roughness) && OwnForm.Agrees(own.Metalness, file.Metalness)
                && Same(own.Emissive, file.Emissive) && OwnForm.Agrees(own.EmissiveStrength, file.EmissiveStrength)))
            && own.AlphaMode == file.AlphaMode && (own.AlphaMode != AlphaMode.Mask || OwnForm.Agrees(own.AlphaCutoff, file.AlphaCutoff))
            && own.DoubleSided == file.DoubleSided && own.Unlit == file.Unlit
            && own.Textures.Length == file.Textures.Length
            && own.Textures.Zip(file.Textures).All(t => t.First with { Strength = null } == t.Second with { Strength = null }
                && OwnForm.Agrees(t.First.Strength ?? 1, t.Second.Strength ?? 1));
    }

    private static double Factor(Gltf.Material source, string channel, string factor, double otherwise, float most = 1)
    {
        var parameter = source.FindChannel(channel)?.Parameters.FirstOrDefault(p => p.Name == factor);
        return parameter?.Value is float value ? Math.Clamp(value, 0, most) : otherwise;
    }

    private TextureUse? Texture(Gltf.Material source, string channel, string? strength)
    {
        if (source.FindChannel(channel) is not { Texture: { } texture } found)
        {
            return null;
        }

        var content = texture.PrimaryImage?.Content;
        if (content is not { IsEmpty: false } image || (!image.IsPng && !image.IsJpg))
        {
            Notes.Add("Pictures other than PNG and JPEG were left out.");
            return null;
        }

        var bytes = image.Content.ToArray();
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        Images[hash] = (image.MimeType, bytes);
        var sampler = texture.Sampler;
        return new(
            channel,
            hash,
            found.TextureCoordinate,
            (int)(sampler?.WrapS ?? TextureWrapMode.REPEAT),
            (int)(sampler?.WrapT ?? TextureWrapMode.REPEAT),
            sampler is null ? null : (int)sampler.MagFilter,
            sampler is null ? null : (int)sampler.MinFilter,
            strength is null ? null : Factor(source, channel, strength, 1, 1e6f));
    }
}
