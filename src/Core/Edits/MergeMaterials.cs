using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes one of materials that are alike but for their names: the first of each stays, and all that uses the others uses it.</summary>
/// <param name="Of">Only among these; null: all.</param>
public sealed record MergeMaterials(IReadOnlyList<string>? Of = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var alike = Alike(draft);
        if (alike.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "No two materials are alike, so there is nothing to merge.");
        }

        foreach (var group in alike)
        {
            foreach (var other in group.Skip(1))
            {
                Materials.Lead(draft, other.Id, group[0].Id);
                draft.Remove(other);
            }
        }
    }

    public override string? Foretell(IScene scene)
    {
        var alike = Alike(scene);
        return alike.Count == 0 ? null
            : Speaker.Sentence([.. alike.Take(3).Select(g => $"“{Speaker.Quoted(g[0].Name)}” takes the place of {(g.Count == 2 ? $"“{Speaker.Quoted(g[1].Name)}”" : $"{g.Count - 1} others")}"), .. alike.Count > 3 ? [$"and so for {alike.Count - 3} more"] : Array.Empty<string>()]);
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var gone = Alike(say.Scene).Sum(g => g.Count - 1);
        return gone == 1 ? "Merged 1 material into one that is like it" : $"Merged {gone} materials into those that are like them";
    }

    private List<List<Material>> Alike(IScene scene) =>
        [.. (Of is null ? scene.AllMaterials() : scene.AllMaterials().Where(m => Of.Contains(m.Id))).GroupBy(m => m.Surface).Select(g => g.ToList()).Where(g => g.Count > 1)];
}
