using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// The line of the history that a set of edits leaves, counted by what came of it: whoever kept its own in the shot, or did not move for what holds it, is not
/// among those that were edited, and is named; copies that were moved at once are one thing that was done, and so is a shot with the camera made for it.
/// </summary>
internal static class DoneWords
{
    /// <summary>"Moved Globe +1 m along the world's X", and what is said besides: "; Drum kept its own in 04 Desk".</summary>
    /// <param name="edits">They are made in the draft already.</param>
    /// <param name="of">How many edits they are the first of.</param>
    /// <param name="before">What they were computed on.</param>
    /// <param name="narrow">They are made in one shot only, and do nothing elsewhere.</param>
    public static (string Said, string Besides) Of(IReadOnlyList<Edit> edits, int of, IScene before, SceneDraft done, bool narrow = false)
    {
        var say = new Speaker(before);
        if (of > 1 && edits.Count == of && edits[0] is Duplicate copy && Copied(copy, edits, say) is { } copied)
        {
            return (copied, "");
        }

        var (said, besides) = Of(edits[0], say, done);
        var elsewhere = narrow ? "" : string.Concat(edits[0].Elsewhere(before, done: true).Select(part => $"; {part}"));
        return (And(said, of - 1), besides + elsewhere);
    }

    /// <summary>"…, and 2 more".</summary>
    public static string And(string said, int more) => more > 0 ? $"{said}, and {more} more" : said;

    /// <summary>The one shot that edits make, with all else that they do being about its camera; null: they do something else.</summary>
    public static MakeShot? OneShot(IReadOnlyList<Edit> edits) =>
        edits.OfType<MakeShot>().ToList() is [var shot] && edits.All(e => e == shot || e.Picked.All(id => id == shot.Shot.Camera)) ? shot : null;

    private static (string Said, string Besides) Of(Edit edit, Speaker say, SceneDraft done)
    {
        var picked = edit.Picked.Distinct().ToList();
        var own = picked.Where(done.LeftOut.Contains).ToList();
        var was = new SceneDraft(say.Scene);
        var stayed = edit is Move or Rotate or Scale && picked.Count > 1 ? picked.Where(id => !done.LeftOut.Contains(id) && Stayed(id, was, done)).ToList() : [];
        var rest = picked.Except(own).Except(stayed).ToList();
        if (rest.Count == 0 || rest.Count == picked.Count)
        {
            return (edit.Say(say), "");
        }

        // Where the lead is among them the words go by it as they did.
        var said = edit is Move or Rotate or Scale or Mirror && rest[^1] == picked[^1]
            ? edit.Instead(rest).Say(say)
            : edit.Say(say).Replace(say.Names(picked), say.Names(rest), StringComparison.Ordinal);
        List<string> besides = [];
        if (own.Count > 0)
        {
            besides.Add($"{say.Names(own)} kept {(own.Count == 1 ? "its" : "their")} own{(say.Scene.Shot is { } shot ? $" in {shot.Title}" : "")}");
        }

        if (stayed.Count > 0)
        {
            besides.Add($"{say.Names(stayed)} stayed");
        }

        return (said, $"; {string.Join(", ", besides)}");
    }

    /// <summary>Whether neither a node nor what it rides on was written, or what holds it does not let it show.</summary>
    private static bool Stayed(string id, SceneDraft was, SceneDraft done)
    {
        if (was.Find(id) is not { } node || done.Find(id) is not { } now)
        {
            return false;
        }

        var unwritten = done.Ancestors(now).Prepend(now).All(n => was.Find(n.Id) is { } before && before.Placement.Equals(n.Placement) && before.Constraints == n.Constraints);
        return unwritten || (!now.Constraints.IsEmpty && Promises.IsKept(was, done, node, now));
    }

    /// <summary>"Made a copy of Globe, moved +1 m along the world's X"; null: something else was done as well.</summary>
    private static string? Copied(Duplicate copy, IReadOnlyList<Edit> edits, Speaker say)
    {
        List<string> manners = [];
        foreach (var edit in edits.Skip(1))
        {
            if (!edit.Picked.All(copy.Picked.Contains) || edit is not (Move or Rotate or Scale or Mirror) || edit.Instead(copy.Nodes).Manner(say) is not { } manner)
            {
                return null;
            }

            manners.Add(say.DidEach(manner));
        }

        return $"{copy.Say(say)}, {string.Join(", ", manners)}";
    }
}
