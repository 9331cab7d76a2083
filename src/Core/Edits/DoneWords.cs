using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
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
    /// <param name="all">The set that they are the first of.</param>
    /// <param name="before">What they were computed on.</param>
    /// <param name="narrow">They are made in one shot only, and do nothing elsewhere.</param>
    public static (string Said, string Besides) Of(IReadOnlyList<Edit> edits, IReadOnlyList<Edit> all, IScene before, SceneDraft done, bool narrow = false)
    {
        var say = new Speaker(before);
        if (all.Count > 1 && edits.Count == all.Count && edits[0] is Duplicate copy && Copied(copy, edits, say) is { } copied)
        {
            return (copied, "");
        }

        var (said, besides) = Of(edits[0], before, done);
        var elsewhere = narrow ? "" : string.Concat(edits[0].Elsewhere(before, done: true).Select(part => $"; {part}"));
        return (And(said, all), besides + elsewhere);
    }

    /// <summary>"Renamed A to B, and 2 more", and where the others do something else: "Moved A +1 m along the world's X, and 2 other edits".</summary>
    private static string And(string said, IReadOnlyList<Edit> all)
    {
        var more = all.Count - 1;
        return more == 0 ? said : all.All(edit => edit.GetType() == all[0].GetType()) ? $"{said}, and {more} more" : $"{said}, and {more} other {(more == 1 ? "edit" : "edits")}";
    }

    /// <summary>The one shot that edits make, with all else that they do being about its camera; null: they do something else.</summary>
    public static MakeShot? OneShot(IReadOnlyList<Edit> edits) =>
        edits.OfType<MakeShot>().ToList() is [var shot] && edits.All(e => e == shot || e.Picked.All(id => id == shot.Shot.Camera)) ? shot : null;

    private static (string Said, string Besides) Of(Edit edit, IScene before, SceneDraft done)
    {
        var edited = edit.Edited.Distinct().ToList();
        var own = edit.Picked.Distinct().Where(done.LeftOut.Contains).ToList();
        var (was, moves) = (new SceneDraft(done.Below), edit is Move or Rotate or Scale);
        var stayed = edited.Count > 1 ? edited.Where(id => !done.LeftOut.Contains(id) && Stayed(id, was, done, moves, edit.IsOfShots)).ToList() : [];
        if (own.Count + stayed.Count is 0 || edit.Picked.Concat(edited).All(id => own.Contains(id) || stayed.Contains(id)))
        {
            return (edit.Say(new(before)), "");
        }

        List<string> besides = [];
        var say = new Speaker(before);
        if (own.Count > 0)
        {
            besides.Add($"{say.Names(own)} kept {say.Their(own)} own{(before.Shot is { } shot ? $" in {shot.Title}" : "")}");
        }

        if (stayed.Count > 0)
        {
            besides.Add($"{say.Names(stayed)} stayed{(moves ? "" : stayed.Count == 1 ? " as it was" : " as they were")}");
        }

        return (edit.Say(new(before, (HashSet<string>)[.. own, .. stayed])), string.Concat(besides.Select(part => $"; {part}")));
    }

    /// <summary>Whether something was not written, nor what shots have of it, nor moved with what it rides on; or what holds it does not let a move show.</summary>
    private static bool Stayed(string id, SceneDraft was, SceneDraft done, bool moves, bool ofShots)
    {
        var (before, after) = (was.FindAny(id), done.FindAny(id));
        if (before is null || after is null)
        {
            return before is null == after is null;
        }

        if (!ofShots && before is Node node && after is Node now)
        {
            // What is written and comes to the same but for rounding was not moved.
            return Promises.IsKept(was, done, node, now) && (IsSame(node, now) || (moves && (!now.Constraints.IsEmpty || now.Equals(node with { Placement = now.Placement }))));
        }

        return before.Equals(after) && done.CheatsOn(id).ToHashSet().SetEquals(was.CheatsOn(id));
    }

    private static bool IsSame(Node node, Node now)
    {
        foreach (var channel in CheatChannel.All(node, Parts.Constraints))
        {
            node = channel.Read(node) is { } was && channel.Read(now) is { } value && was.IsAbout(value) ? (Node)channel.With(node, value) : node;
        }

        if (!now.Equals(node with { Placement = now.Placement }))
        {
            return false;
        }

        static bool Near(Vec3 a, Vec3 b) => (a - b).Length <= 1e-9 * Math.Max(1, a.Length);
        var (a, b) = (node.Placement, now.Placement);
        return a.Order == b.Order && a.Takes == b.Takes && Near(a.Position, b.Position) && Near(a.Rotation, b.Rotation) && Near(a.Scale, b.Scale)
            && Near(a.Shear, b.Shear) && Near(a.Pivot, b.Pivot) && Near(a.PivotTurn, b.PivotTurn);
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
