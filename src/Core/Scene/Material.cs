using System.Globalization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A surface as a shared thing, named: nodes name one for each slot of their geometry, and all that do change with it.
/// <code>
/// var brass = new Material("brass", "Brass") { Surface = new(Color: "#C99A4E", Roughness: 0.4, Metalness: 1) };
/// var ball = node with { Materials = ["brass"] };
/// var worn = scene.SurfaceOf(ball); // brass.Surface
/// </code>
/// </summary>
public sealed record Material(string Id, string Name, double Rank = 0) : Entity(Id, Name, Rank)
{
    public const int Most = 10_000;

    /// <summary>What stands where a slot has no material.</summary>
    public const string None = "";

    public Surface Surface { get; init; } = Surface.Default;

    public override IFields Fields => MaterialFields.Table;

    public override string List => Lists.Materials;

    public override IEnumerable<string> Names() => [];

    public override Entity? Without(Predicate<string> gone) => this;

    /// <summary>
    /// An id for one that comes without: a hash of its name and of what its surface says. Steps of former versions name materials by it, so it is never
    /// computed otherwise; a field that is added counts only where it is not as usual.
    /// </summary>
    public static string IdOf(Surface surface, string name)
    {
        ArgumentNullException.ThrowIfNull(surface);
        var digest = surface.Emissive.Added(surface.Color.Added(Digests.Add(Digests.Start, name)));
        foreach (var number in new[]
        {
            surface.Roughness, surface.Metalness, surface.Opacity, surface.EmissiveStrength, surface.AlphaCutoff,
            (int)surface.AlphaMode + (surface.DoubleSided ? 8 : 0) + (surface.Unlit ? 16 : 0),
        })
        {
            digest = Digests.Add(digest, number);
        }

        foreach (var use in surface.Textures)
        {
            digest = Digests.Add(Digests.Add(Digests.Add(digest, use.Channel), use.Image), use.Strength ?? -1);
            digest = Digests.Add(digest, ((use.TexCoord * 65_536.0 + use.WrapS) * 65_536 + use.WrapT) * 65_536 + (use.MagFilter ?? 0) * 7 + (use.MinFilter ?? 0));
            if (use.Repeat is not null || use.Offset is not null || use.Turn != 0)
            {
                digest = Digests.Add(digest, new Vec3(use.Repeat?.U ?? 1, use.Repeat?.V ?? 1, use.Turn));
                digest = Digests.Add(digest, new Vec3(use.Offset?.U ?? 0, use.Offset?.V ?? 0, 0));
            }
        }

        if (surface.Lies is { } lies)
        {
            digest = Digests.Add(digest, new Vec3(lies.Metres, lies.Aspect, (int)lies.How + 4 * (int)lies.From + (lies.True ? 32 : 0)));
        }

        return "m-" + digest.ToString("x16", CultureInfo.InvariantCulture);
    }
}

/// <summary>The fields of a material, each declared once. Colour, finish and pictures are written and undone each by themselves.</summary>
public static class MaterialFields
{
    public static readonly Fields<Material> Table = new(
        new Field<Material, string>("name", Parts.Name, Touches.Materials | Touches.Rules, m => m.Name, (m, v) => m with { Name = v }) { Required = true, Sum = Digests.Add },
        new Field<Material, double>("rank", Parts.Seat, Touches.Materials, m => m.Rank, (m, v) => m with { Rank = v }) { Alike = NodeFields.SameBits, Sum = Digests.Add },
        Of("color", Parts.Colour, s => s.Color, (s, v) => s with { Color = v }),
        Of("opacity", Parts.Colour, s => s.Opacity, (s, v) => s with { Opacity = v }),
        Of("alphaMode", Parts.Colour, s => s.AlphaMode, (s, v) => s with { AlphaMode = v }),
        Of("alphaCutoff", Parts.Colour, s => s.AlphaCutoff, (s, v) => s with { AlphaCutoff = v }),
        Of("roughness", Parts.Material, s => s.Roughness, (s, v) => s with { Roughness = v }),
        Of("metalness", Parts.Material, s => s.Metalness, (s, v) => s with { Metalness = v }),
        Of("emissive", Parts.Material, s => s.Emissive, (s, v) => s with { Emissive = v }),
        Of("emissiveStrength", Parts.Material, s => s.EmissiveStrength, (s, v) => s with { EmissiveStrength = v }),
        Of("doubleSided", Parts.Material, s => s.DoubleSided, (s, v) => s with { DoubleSided = v }),
        Of("unlit", Parts.Material, s => s.Unlit, (s, v) => s with { Unlit = v }),
        Of("textures", Parts.Pictures, s => s.Textures, (s, v) => s with { Textures = v }, (a, b) => a.AsSpan().SequenceEqual(b.AsSpan())),
        Of("lies", Parts.Pictures, s => s.Lies, (s, v) => s with { Lies = v }, usual: v => v is null));

    private static Field<Material, T> Of<T>(string name, Parts part, Func<Surface, T> get, Func<Surface, T, Surface> with, Func<T, T, bool>? alike = null, Predicate<T>? usual = null) =>
        new(name, part, part == Parts.Colour ? Touches.Materials | Touches.Rules : Touches.Materials, m => get(m.Surface), (m, v) => m with { Surface = with(m.Surface, v) })
        {
            Alike = alike,
            Usual = usual ?? (v => alike is null ? EqualityComparer<T>.Default.Equals(v, get(Surface.Default)) : alike(v, get(Surface.Default))),
        };
}
