using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What an edit that is not meant to move anything makes jump: the nodes, and by how much.</summary>
public static class Jumps
{
    /// <summary>The jumps of some nodes between a scene and a draft over it.</summary>
    public static IReadOnlyList<(string Node, Jump Jump)> Of(IScene scene, SceneDraft draft, IEnumerable<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var before = new SceneDraft(scene);
        return
        [
            .. nodes.Distinct()
                .Where(id => scene.Find(id) is not null && draft.Find(id) is not null)
                .Select(id => (id, Jump.Of(draft.Get(id).Placement.ToOwn(), before.World(before.Get(id)), draft.World(draft.Get(id)))))
                .Where(jump => jump.Item2.IsSome),
        ];
    }

    /// <summary>The same of those that have constraints, and of all that go by what is stored anew where it stands: others stay by the edit itself.</summary>
    internal static string? OfConstrained(IScene scene, Edit edit, IEnumerable<string> nodes) =>
        scene.Constrained.Count == 0 ? null
        : Said(scene, edit, draft => nodes.Where(id => scene.Find(id) is { Constraints.IsEmpty: false }).Concat(StoredAnew.Readers(draft)));

    /// <summary>"Turns Tube by 12.3°.", said beforehand; null: nothing jumps, or it cannot be done.</summary>
    internal static string? Said(IScene scene, Edit edit, IEnumerable<string> nodes) => Said(scene, edit, _ => nodes);

    private static string? Said(IScene scene, Edit edit, Func<SceneDraft, IEnumerable<string>> nodes)
    {
        var draft = new SceneDraft(scene);
        try
        {
            edit.ApplyTo(draft);
            StoredAnew.Keep(draft);
            var jumps = Of(scene, draft, nodes(draft));
            return jumps.Count == 0 ? null : ConstraintWords.Jumps(jumps, new(scene));
        }
        catch (Refusal)
        {
            // What cannot be done is refused where it is done.
            return null;
        }
    }
}
