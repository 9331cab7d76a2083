using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Takes constraints off; what they moved stands as it is placed again.</summary>
/// <param name="Of">Entries; without an id: all of the node.</param>
public sealed record Unconstrain(IReadOnlyList<EntryOf> Of) : Edit
{
    public override IReadOnlyList<string> Picked => [.. Of.Select(o => o.Node).Distinct()];

    public override void ApplyTo(SceneDraft draft)
    {
        Targets.CheckPicked(Picked);
        foreach (var (id, entry) in Of)
        {
            var node = Targets.One(draft, id);
            draft.Put(node with { Constraints = entry is null ? [] : node.Constraints.RemoveAt(ConstraintTargets.IndexOf(node, entry)) });
        }
    }

    public override string? Foretell(IScene scene) => Jumps.Said(scene, this, Picked);

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var entry = Of is [{ Id: { } id, Node: var node }] ? say.Scene.Find(node)?.Constraints.FirstOrDefault(c => c.Id == id) : null;
        return entry is null ? $"Took the constraints off {say.Names(Picked)}" : $"Took {ConstraintWords.Title(entry, say)} off {say.Names(Picked)}";
    }
}
