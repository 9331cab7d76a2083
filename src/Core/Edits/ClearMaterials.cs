using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Removes the materials that nothing uses.</summary>
public sealed record ClearMaterials : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var unused = Unused(draft);
        if (unused.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "Every material is used, so there is nothing to clear.");
        }

        unused.ForEach(draft.Remove);
    }

    public override string? Foretell(IScene scene)
    {
        var unused = Unused(scene);
        return unused.Count == 0 ? null
            : $"{string.Join(", ", unused.Take(4).Select(m => $"“{Speaker.Quoted(m.Name)}”"))}{(unused.Count > 4 ? $" and {unused.Count - 4} more" : "")} {(unused.Count == 1 ? "goes" : "go")}.";
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var count = Unused(say.Scene).Count;
        return $"Cleared {(count == 1 ? "1 material" : $"{count} materials")} that nothing used";
    }

    private static List<Material> Unused(IScene scene) => [.. scene.AllMaterials().Where(m => scene.Referrers(m.Id).Count == 0)];
}
