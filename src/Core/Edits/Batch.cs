using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Several edits as one step: all of them or none.</summary>
public static class Batch
{
    public const int MostEdits = 10_000;

    /// <summary>Runs edits on a draft over the scene and tells what they would change; the scene itself stays as it is.</summary>
    /// <exception cref="Refusal">One of the edits cannot be done.</exception>
    public static (Change Change, string Sentence) Run(IScene scene, IReadOnlyList<Edit> edits)
    {
        var draft = Draft(scene, edits, out var sentence);
        return (draft.ToChange(), sentence);
    }

    /// <summary>The scene as edits would leave it, not yet kept.</summary>
    /// <exception cref="Refusal">One of the edits cannot be done.</exception>
    public static SceneDraft Draft(IScene scene, IReadOnlyList<Edit> edits) => Draft(scene, edits, out _);

    private static SceneDraft Draft(IScene scene, IReadOnlyList<Edit> edits, out string sentence)
    {
        ArgumentNullException.ThrowIfNull(edits);
        if (edits.Count is 0 or > MostEdits)
        {
            throw edits.Count == 0
                ? new Refusal(Refusals.NotUnderstood, "There is no edit in this call.")
                : new Refusal(Refusals.TooLarge, $"At most {MostEdits} edits make one step; these are {edits.Count}. Send them in several steps.");
        }

        var draft = new SceneDraft(scene) { Bound = SceneDraft.MostWork };
        string? first = null;
        foreach (var edit in edits)
        {
            if (edit is null)
            {
                throw new Refusal(Refusals.NotUnderstood, "One of the edits of this call is empty.");
            }

            edit.ApplyTo(draft);
            draft.KnownCentres.Clear();

            // As it was before, and only of what can be done: what cannot may not even be said.
            first ??= edit.Say(new Speaker(scene));
        }

        sentence = edits.Count > 1 ? $"{first}, and {edits.Count - 1} more" : first!;
        Worlds.Check(draft);
        return draft;
    }
}
