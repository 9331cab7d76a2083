using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Finds the cheats that an edit is about.</summary>
internal static class Cheats
{
    /// <summary>
    /// The cheats of a shot on some nodes. A channel stands for all that begin with it: "position" for its three letters.
    /// </summary>
    /// <param name="nodes">Null: of all.</param>
    /// <param name="channels">Null: all but whether they are seen.</param>
    /// <exception cref="Refusal">not-found; not-understood: there are none; locked.</exception>
    public static List<Cheat> Of(SceneDraft draft, string shot, IReadOnlyList<string>? nodes, IReadOnlyList<string>? channels)
    {
        var title = (draft.FindShot(shot) ?? throw Layered.NoSuchShot()).Title;
        var some = nodes?.Select(draft.GetCheatable).Select(a => a.Id).ToHashSet();
        var found = draft.CheatsOf(shot).Where(c => (some is null || some.Contains(c.Of)) && (channels?.Any(name => Fits(c.Channel, name)) ?? !c.IsSeen)).ToList();
        if (found.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, $"Nothing of this is otherwise in {title} than in the scene.");
        }

        foreach (var id in found.Where(c => !c.IsSeen).Select(c => c.Of).Distinct())
        {
            Targets.CheckUnlocked(draft, draft.GetCheatable(id));
        }

        draft.Spend(found.Count);
        return found;
    }

    /// <summary>Whether a channel is one, or begins with it: "position" stands for its three letters.</summary>
    internal static bool Fits(string channel, string name) =>
        channel == name || (name.Length > 0 && channel.StartsWith(name, StringComparison.Ordinal) && channel[name.Length] is '.');
}
