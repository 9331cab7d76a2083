using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using SharpGLTF.Schema2;
using AlphaMode = CalmPivot.Core.Scene.AlphaMode;
using Gltf = SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>Reads materials; their textures are kept whole, for the way out.</summary>
internal sealed class MaterialReader
{
    /// <summary>The texture channels of glTF's core materials, with the factor of those that have a strength.</summary>
    internal static readonly (string Channel, string? Strength)[] Channels =
        [("BaseColor", null), ("MetallicRoughness", null), ("Normal", "NormalScale"), ("Occlusion", "OcclusionStrength"), ("Emissive", null)];

    public Dictionary<string, (string MediaType, byte[] Bytes)> Images { get; } = [];

    public HashSet<string> Notes { get; } = [];

    private readonly Dictionary<int, string> _ids = [];
    private readonly List<Core.Scene.Material> _alike = [];
    private readonly Dictionary<(string Name, Surface Surface), Core.Scene.Material> _found = [];

    /// <summary>From the ids that our own files carry to the fresh ones.</summary>
    public Dictionary<string, string> Ids { get; } = [];

    /// <summary>The materials that were read; equal ones of one file once.</summary>
    public IReadOnlyList<Core.Scene.Material> Found => [.. _found.Values.Concat(_alike).OrderBy(m => m.Rank)];

    /// <summary>The id of a material, which is read where it comes first.</summary>
    public string Id(Gltf.Material? source)
    {
        // glTF's own default is white, rough 1, metal 1, but no reader draws a bare mesh as metal.
        if (source is null)
        {
            return IdOf("White", new Surface { Color = "#FFFFFF", Roughness = 1 });
        }

        if (!_ids.TryGetValue(source.LogicalIndex, out var id))
        {
            var own = OwnForm.Of(source)?["id"] is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;
            var surface = Read(source);
            var name = Rename.Nearest(source.Name, surface.Color.Nearest);

            // Two of ours that are alike stay two.
            _ids[source.LogicalIndex] = id = own is null ? IdOf(name, surface) : Add(name, surface);
            if (own is not null)
            {
                Ids.TryAdd(own, id);
            }
        }

        return id;
    }

    /// <summary>The material of a node whose mesh does not go out; former versions said it in full.</summary>
    public string Id(MaterialChoice choice) => choice.Said is { } said ? IdOf(Rename.Nearest(said.Name, said.Surface.Color.Nearest), said.Surface) : Ids.GetValueOrDefault(choice.Id, Core.Scene.Material.None);

    private string IdOf(string name, Surface surface) => _found.TryGetValue((name, surface), out var known) ? known.Id : Add(name, surface);

    private string Add(string name, Surface surface)
    {
        var material = new Core.Scene.Material(OwnScene.Fresh(), name, _found.Count + _alike.Count + 1) { Surface = surface };
        if (!_found.TryAdd((name, surface), material))
        {
            _alike.Add(material);
        }

        return material.Id;
    }

    private Surface Read(Gltf.Material source)
    {

        var color = source.FindChannel("BaseColor")?.Color ?? System.Numerics.Vector4.One;
        var emissive = source.FindChannel("Emissive")?.Color ?? System.Numerics.Vector4.Zero;
        var read = new Surface
        {
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
        return Own(OwnForm.Of(source)?["material"]) is { } own && Agree(own, read) ? own : read;
    }

    /// <summary>Whether a material of our own is the one that the file describes, but for rounding and what it has no place for.</summary>
    private static bool Agree(Surface own, Surface file)
    {
        return Colors.Agree(own.Color, file.Color) && OwnForm.Agrees(own.Opacity, file.Opacity)
            && (own.Unlit || (OwnForm.Agrees(own.Roughness, file.Roughness) && OwnForm.Agrees(own.Metalness, file.Metalness)
                && Colors.Agree(own.Emissive, file.Emissive) && (own.Emissive.Linear == Core.Numbers.Vec3.Zero || OwnForm.Agrees(own.EmissiveStrength, file.EmissiveStrength))))
            && own.AlphaMode == file.AlphaMode && (own.AlphaMode != AlphaMode.Mask || OwnForm.Agrees(own.AlphaCutoff, file.AlphaCutoff))
            && own.DoubleSided == file.DoubleSided && own.Unlit == file.Unlit
            && own.Textures.Length == file.Textures.Length && own.Textures.All(use => file.Textures.Any(there => Agree(use, there, own.Lies is null)));
    }

    /// <param name="laid">Whether they lie by the mesh's own coordinates; else those in the file were made for them.</param>
    private static bool Agree(TextureUse own, TextureUse file, bool laid)
    {
        static bool Near(Uv? a, Uv? b, double usual) =>
            OwnForm.Agrees(a?.U ?? usual, b?.U ?? usual) && OwnForm.Agrees(a?.V ?? usual, b?.V ?? usual);
        return own.Channel == file.Channel && own.Image == file.Image && (!laid || own.TexCoord == file.TexCoord)
            && own.WrapS == file.WrapS && own.WrapT == file.WrapT && (own.MagFilter ?? 0) == (file.MagFilter ?? 0) && (own.MinFilter ?? 0) == (file.MinFilter ?? 0)
            && OwnForm.Agrees(own.Strength ?? 1, file.Strength ?? 1)
            && Near(own.Repeat, file.Repeat, 1) && Near(own.Offset, file.Offset, 0) && OwnForm.Agrees(own.Turn, file.Turn);
    }

    /// <summary>What our own files say of a surface, by the table of a material's fields.</summary>
    private static Surface? Own(JsonNode? json)
    {
        // A former version wrote its name as null.
        (json as JsonObject)?.Remove("name");
        return OwnForm.Checked<MaterialChoice>(json, choice => choice.Said is { } said && said.Surface.Checked() is not null ? choice : throw Container.Broken("a material"))?.Said?.Surface;
    }

    /// <summary>As two numbers that can be computed with.</summary>
    private static Uv Fitting(System.Numerics.Vector2 v, float least)
    {
        double One(float x) => !float.IsFinite(x) || Math.Abs(x) < least ? least : Math.Clamp(x, -1e5, 1e5);
        return new(One(v.X), One(v.Y));
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
        if (content is not { IsEmpty: false } image || (!image.IsPng && !image.IsJpg && !image.IsWebp))
        {
            Notes.Add("Pictures other than PNG, JPEG and WebP were left out.");
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
            strength is null ? null : Factor(source, channel, strength, 1, 1e6f))
        {
            Repeat = found.TextureTransform is { } transform && transform.Scale != System.Numerics.Vector2.One ? Fitting(transform.Scale, 1e-5f) : null,
            Offset = found.TextureTransform is { } moved && moved.Offset != System.Numerics.Vector2.Zero ? Fitting(moved.Offset, 0) : null,
            Turn = found.TextureTransform is { } turned && float.IsFinite(turned.Rotation) ? Math.Clamp(turned.Rotation * 180.0 / Math.PI, -36_000, 36_000) : 0,
        };
    }
}
