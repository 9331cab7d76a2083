using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What an edit does to things that are to stay where they are, in shots in which it is not made: what it writes there, and what cannot stay.</summary>
public static class StayingWords
{
    private const int MostNamed = 4;

    /// <summary>
    /// "To stay where it is, it gets a place of its own in 03 Dome. In 04 Desk this makes Tube jump: by 12.3°."; null: nothing of the kind.
    /// </summary>
    /// <param name="done">The scene as the edit leaves it.</param>
    public static string? Of(SceneDraft done)
    {
        ArgumentNullException.ThrowIfNull(done);
        if (done.Shots.Count == 0)
        {
            return null;
        }

        var newly = Promises.NewlyCheating(done.Below, done.ToChange()).Select(shot => shot.Title).ToList();
        var words = new[] { newly.Count == 0 ? null : $"To stay where it is, it gets a place of its own in {Listed(newly)}.", Jumping(done) };
        return words.All(w => w is null) ? null : string.Join(" ", words.OfType<string>());
    }

    private static string? Jumping(SceneDraft done)
    {
        var held = done.Held.Where(h => h.In is not null).ToList();
        if (held.Count == 0)
        {
            return null;
        }

        var say = new Speaker(done.Below);
        var places = Listed([.. held.Select(h => h.In!.Shot).Distinct().Select(shot => shot is null ? "the scene" : Shot.TitleOf(done, shot))]);
        List<string> nodes = [.. held.Select(h => h.Node).Distinct()];
        return $"In {places} this makes {(nodes.Count > 1 ? $"{nodes.Count} objects" : say.Name(nodes[0]))} jump: {ConstraintWords.By([.. held.Select(h => h.Off)], say)}.";
    }

    private static string Listed(List<string> titles) =>
        $"{string.Join(", ", titles.Take(MostNamed))}{(titles.Count > MostNamed ? $" and {titles.Count - MostNamed} more" : "")}";
}
