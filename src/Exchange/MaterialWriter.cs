using System.Numerics;
using CalmPivot.Core.Scene;
using SharpGLTF.Memory;
using SharpGLTF.Schema2;
using AlphaMode = CalmPivot.Core.Scene.AlphaMode;
using Gltf = SharpGLTF.Schema2;
using Material = CalmPivot.Core.Scene.Material;

namespace CalmPivot.Exchange;

/// <summary>Writes materials and their textures, each once.</summary>
internal sealed class MaterialWriter(ModelRoot model, IReadOnlyDictionary<string, byte[]> images)
{
    private readonly Dictionary<string, Gltf.Material> _written = [];
    private readonly Dictionary<string, Image> _images = [];

    /// <param name="material">Null: what is made of nothing in particular, as it looks.</param>
    public Gltf.Material Write(Material? material)
    {
        if (_written.TryGetValue(material?.Id ?? Material.None, out var known))
        {
            return known;
        }

        var target = model.CreateMaterial(material?.Name);
        target.Extras = OwnForm.Extras(material is null
            ? new() { ["none"] = true }
            : new() { ["id"] = material.Id, ["material"] = OwnForm.Write(new MaterialChoice("", new("", "") { Surface = material.Surface })) });
        Fill(target, material?.Surface ?? Surface.Default);
        return _written[material?.Id ?? Material.None] = target;
    }

    private void Fill(Gltf.Material target, Surface material)
    {
        if (material.Unlit)
        {
            target.InitializeUnlit();
        }
        else
        {
            target.InitializePBRMetallicRoughness();
        }

        target.DoubleSided = material.DoubleSided;
        target.Alpha = material.AlphaMode switch { AlphaMode.Mask => Gltf.AlphaMode.MASK, AlphaMode.Blend => Gltf.AlphaMode.BLEND, _ => Gltf.AlphaMode.OPAQUE };
        if (material.AlphaMode == AlphaMode.Mask)
        {
            target.AlphaCutoff = (float)material.AlphaCutoff;
        }

        Channel(target, "BaseColor", c => c.Color = new Vector4(Colors.ToLinear(material.Color), (float)material.Opacity));
        if (!material.Unlit)
        {
            Channel(target, "MetallicRoughness", c => SetFactor(c, "RoughnessFactor", material.Roughness));
            Channel(target, "MetallicRoughness", c => SetFactor(c, "MetallicFactor", material.Metalness));
            Channel(target, "Emissive", c => c.Color = new Vector4(Colors.ToLinear(material.Emissive), 1));
            if (material.EmissiveStrength != 1 && Colors.ToLinear(material.Emissive) != Vector3.Zero)
            {
                Channel(target, "Emissive", c => SetFactor(c, "EmissiveStrength", material.EmissiveStrength));
            }
        }

        foreach (var use in material.Textures)
        {
            // What does not lie by the thing's own coordinates goes out with such as were made for it.
            Texture(target, material.Lies is null ? use : use with { TexCoord = 0 });
        }
    }

    private static void Channel(Gltf.Material target, string name, Action<MaterialChannel> act)
    {
        if (target.FindChannel(name) is { } channel)
        {
            act(channel);
        }
    }

    private static void SetFactor(MaterialChannel channel, string name, double value)
    {
        if (channel.Parameters.FirstOrDefault(p => p.Name == name) is { } parameter)
        {
            parameter.Value = (float)value;
        }
    }

    private void Texture(Gltf.Material target, TextureUse use)
    {
        if (!images.TryGetValue(use.Image, out var bytes))
        {
            return;
        }

        if (!_images.TryGetValue(use.Image, out var image))
        {
            _images[use.Image] = image = model.UseImage(new MemoryImage(bytes));
        }

        Channel(target, use.Channel, channel =>
        {
            channel.SetTexture(
                use.TexCoord,
                image,
                null,
                (TextureWrapMode)use.WrapS,
                (TextureWrapMode)use.WrapT,
                (TextureMipMapFilter)(use.MinFilter ?? (int)TextureMipMapFilter.DEFAULT),
                (TextureInterpolationFilter)(use.MagFilter ?? (int)TextureInterpolationFilter.DEFAULT));
            if (use.Repeat is not null || use.Offset is not null || use.Turn != 0)
            {
                channel.SetTransform(
                    new((float)(use.Offset?.U ?? 0), (float)(use.Offset?.V ?? 0)),
                    new((float)(use.Repeat?.U ?? 1), (float)(use.Repeat?.V ?? 1)),
                    (float)(use.Turn * Math.PI / 180));
            }

            var strength = MaterialReader.Channels.First(c => c.Channel == use.Channel).Strength;
            if (strength is not null && use.Strength is { } value)
            {
                SetFactor(channel, strength, value);
            }
        });
    }
}
