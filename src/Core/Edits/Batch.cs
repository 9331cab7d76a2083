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

        var draft = new SceneDraft(scene);
        string? first = null;
        foreach (var edit in edits)
        {
            if (edit is null)
            {
                throw new Refusal(Refusals.NotUnderstood, "One of the edits of this call is empty.");
            }

            first ??= edit.Say(new Speaker(draft));
            edit.ApplyTo(draft);
            draft.KnownCentres.Clear();
        }

        sentence = edits.Count > 1 ? $"{first}, and {edits.Count - 1} more" : first!;
        CheckWorlds(draft);
        return draft;
    }

    /// <summary>Numbers that are finite one by one can still multiply beyond what can be computed.</summary>
    private static void CheckWorlds(SceneDraft draft)
    {
        foreach (var node in draft.Written.Select(w => w.Value).OfType<Node>().Where(n => n.Kind != NodeKind.Collection).ToList())
        {
            // Modest numbers under a modest parent cannot lead beyond; of thousands nearly all are.
            if (!(node.Placement.IsModest && draft.FrameOf(node).IsModest) && !draft.World(node).IsFinite)
            {
                throw new Refusal(Refusals.NotFinite, $"“{node.Name}” would stand where nothing can be computed any more. Use smaller amounts.");
            }
        }
    }
}
