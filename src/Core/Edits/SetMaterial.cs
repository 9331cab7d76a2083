using System.Collections.Immutable;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes a material, and with it all that is made of it: those of its fields that are given. It counts in every shot.
/// <code>
/// new SetMaterial("brass", Roughness: 0.1, Mode: AmountMode.Add) // a little rougher
/// </code>
/// </summary>
/// <param name="Name">A new name.</param>
/// <param name="Textures">All its pictures; those that are left out are taken off.</param>
/// <param name="Lies">How its pictures lie.</param>
/// <param name="Mode">Whether the numbers given are the new ones, or change the present ones; shares stay between 0 and 1.</param>
public sealed record SetMaterial(
    string Material,
    string? Name = null,
    Color? Color = null,
    double? Opacity = null,
    AlphaMode? AlphaMode = null,
    double? AlphaCutoff = null,
    double? Roughness = null,
    double? Metalness = null,
    Color? Emissive = null,
    double? EmissiveStrength = null,
    bool? DoubleSided = null,
    bool? Unlit = null,
    ImmutableArray<TextureUse>? Textures = null,
    Lies? Lies = null,
    AmountMode Mode = AmountMode.Set) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var material = Materials.Get(draft, Material);
        var surface = Changed(material.Surface).Checked();
        draft.Put(material with { Name = Name is null ? material.Name : Rename.Fitting(Name), Surface = surface });
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        List<string?> parts =
        [
            Color is null ? null : $"colour {Color}",
            Share("opacity", Opacity),
            AlphaMode switch { Scene.AlphaMode.Opaque => "opaque", Scene.AlphaMode.Mask => "cut out", Scene.AlphaMode.Blend => "see-through", _ => null },
            Share("cut at", AlphaCutoff),
            Share("roughness", Roughness),
            Share("metalness", Metalness),
            Emissive is null ? null : $"glow {Emissive}",
            Share("glow's strength", EmissiveStrength),
            DoubleSided switch { true => "seen from both sides", false => "seen from outside", _ => null },
            Unlit switch { true => "without light and shade", false => "in light and shade", _ => null },
            Textures is not { } textures ? null : textures.IsEmpty ? "no pictures" : "its pictures",
            Lies is null ? null : InWords(Lies, say),
        ];
        var said = parts.OfType<string>().ToList();
        var renamed = Name is null ? null : $"Renamed the material {say.Name(Material)} to {Speaker.Quoted(Name)}";
        return said.Count == 0 && renamed is not null ? renamed
            : $"Changed the material {say.Name(Material)}: {(said.Count == 0 ? "nothing" : string.Join(", ", said))}" + (renamed is null ? "" : $"; called {Speaker.Quoted(Name!)}");
    }

    /// <summary>"lies as a box, 0.6 m a picture".</summary>
    private static string InWords(Lies lies, Speaker say) => lies.How switch
    {
        LiesHow.Box => $"lies as a box, {say.Length(lies.Metres)} a picture",
        LiesHow.Flat => $"lies flat from the {lies.From.ToString().ToLowerInvariant()}, {say.Length(lies.Metres)} a picture",
        _ => "lies by each thing's own coordinates",
    };

    private string? Share(string what, double? by) => EditWords.Changed(what, by, Mode, v => Unit.Figure(v, 3));

    private Surface Changed(Surface s)
    {
        double New(double? given, double present, double most = 1) =>
            given is not { } value ? present : Mode == AmountMode.Set ? value : Math.Clamp(new Amount(Mode, value).ApplyTo(present), 0, most);
        return s with
        {
            Color = Color ?? s.Color,
            Opacity = New(Opacity, s.Opacity),
            AlphaMode = AlphaMode ?? s.AlphaMode,
            AlphaCutoff = New(AlphaCutoff, s.AlphaCutoff),
            Roughness = New(Roughness, s.Roughness),
            Metalness = New(Metalness, s.Metalness),
            Emissive = Emissive ?? s.Emissive,
            EmissiveStrength = New(EmissiveStrength, s.EmissiveStrength, 1e6),
            DoubleSided = DoubleSided ?? s.DoubleSided,
            Unlit = Unlit ?? s.Unlit,
            Textures = Textures is { IsDefault: false } textures ? textures : s.Textures,
            Lies = Lies is null ? s.Lies : Lies == Lies.Own ? null : Lies,
        };
    }
}
