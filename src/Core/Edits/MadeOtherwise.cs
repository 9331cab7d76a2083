using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Where an edit of every shot comes out otherwise than if it were made there: in shots in which what it writes, or what carries it, is their own.</summary>
internal static class MadeOtherwise
{
    /// <param name="said">What becomes of the nodes there, by whether they are several and whether it is done: "keeps a shear of its own".</param>
    public static IReadOnlyList<string> InWords(IScene scene, Edit edit, Speaker say, Func<bool, string> said)
    {
        // What is picked and has of its own here is passed over.
        var layer = scene as ShotScene;
        var picked = edit.Picked.Distinct().Where(id => layer?.CheatsOn(id).Any(c => CheatChannel.Of(c.Channel)?.IsPlace == true) != true).ToList();
        var draft = new SceneDraft(scene);
        if (!Made(draft, edit))
        {
            return [];
        }

        var (nodes, layers) = (new List<string>(), new List<string>());
        foreach (var other in OtherLayer.Of(draft, picked))
        {
            var wanted = new SceneDraft(other.Before);
            var isMade = Made(wanted, edit);
            var differing = picked.Where(id => other.After.Find(id) is { } now && !(isMade && Promises.IsKept(wanted, other.After, wanted.Get(id), now))).ToList();
            if (differing.Count > 0)
            {
                nodes.AddRange(differing);
                layers.AddRange(other.Titles);
            }
        }

        nodes = [.. nodes.Distinct()];
        return nodes.Count == 0 ? [] : [$"in {StayingWords.Listed(layers)} {say.Names(nodes)} {said(nodes.Count > 1)}"];
    }

    private static bool Made(SceneDraft draft, Edit edit)
    {
        try
        {
            edit.ApplyTo(draft);
            return true;
        }
        catch (Refusal)
        {
            // What cannot be done is refused where it is done.
            return false;
        }
    }
}
