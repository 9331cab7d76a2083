using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes a material, or a copy of one.</summary>
/// <param name="Like">What it is like: another material by its id, or what is said; null: as things without one are.</param>
/// <param name="Index">Before which other it stands; null: last, a copy right after what it was copied from.</param>
/// <param name="Nodes">What gets it at once.</param>
/// <param name="Slot">Of these one slot only.</param>
public sealed record MakeMaterial(string? Id = null, string? Name = null, MaterialChoice? Like = null, int? Index = null, IReadOnlyList<string>? Nodes = null, int? Slot = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        var copied = Like is { Said: null, Id: { Length: > 0 } of } ? Materials.Get(draft, of) : null;
        var surface = copied?.Surface ?? Like?.Said?.Surface ?? Surface.Default;
        var made = Materials.Make(draft, Id, Wanted(copied), surface, Index ?? (copied is null ? null : draft.IndexOf(copied) + 1));
        if (Nodes is { Count: > 0 })
        {
            new Assign(Nodes, made.Id, Slot).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var copied = Like is { Said: null, Id: { Length: > 0 } of } ? say.Scene.FindMaterial(of) : null;
        return $"Made the material {say.NewNameIn(Lists.Materials, Wanted(copied))}"
            + (copied is null ? "" : $" like {Speaker.Quoted(copied.Name)}")
            + (Nodes is { Count: > 0 } ? $" for {say.Names(Nodes)}" : "");
    }

    private string Wanted(Material? copied) =>
        !string.IsNullOrWhiteSpace(Name) ? Name : copied?.Name ?? (Like?.Said is { } said ? said.Name.Length > 0 ? said.Name : said.Surface.Color.Nearest : "Material");
}
