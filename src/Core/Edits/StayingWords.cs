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
        var words = new[]
        {
            Newly(done, (nodes, places) => $"To stay where {(nodes.Count > 1 ? "they are" : "it is")}, {new Speaker(done.Below).Names(nodes)} {(nodes.Count > 1 ? "get places of their" : "gets a place of its")} own in {places}."),
            Jumping(done, (nodes, places, by) => $"In {places} this makes {nodes} jump: {by}."),
        };
        return words.All(w => w is null) ? null : string.Join(" ", words.OfType<string>());
    }

    /// <summary>"Tube got a place of its own in 03 Dome", as it is said when it is done.</summary>
    public static IEnumerable<string> Afterwards(SceneDraft done)
    {
        ArgumentNullException.ThrowIfNull(done);
        var words = new[]
        {
            Newly(done, (nodes, places) => $"{new Speaker(done.Below).Names(nodes)} got {(nodes.Count > 1 ? "places of their" : "a place of its")} own in {places} to stay there"),
            Jumping(done, (nodes, places, by) => $"in {places} {nodes} jumped: {by}"),
        };
        return words.OfType<string>();
    }

    private static string? Newly(SceneDraft done, Func<List<string>, string, string> say)
    {
        var newly = done.Shots.Count == 0 ? [] : Promises.NewlyCheating(done.Below, done.ToChange()).ToList();
        return newly.Count == 0 ? null : say([.. newly.Select(n => n.Node).Distinct()], Listed([.. newly.Select(n => n.Shot.Title).Distinct()]));
    }

    private static string? Jumping(SceneDraft done, Func<string, string, string, string> said)
    {
        var held = done.Held.Where(h => h.In is not null).ToList();
        if (held.Count == 0)
        {
            return null;
        }

        var say = new Speaker(done.Below);
        var places = Listed([.. held.Select(h => h.In!.Shot).Distinct().Select(shot => shot is null ? "the scene" : Shot.TitleOf(done, shot))]);
        return said(say.Names([.. held.Select(h => h.Node).Distinct()]), places, ConstraintWords.By([.. held.Select(h => h.Off)], say));
    }

    internal static string Listed(List<string> titles) =>
        $"{string.Join(", ", titles.Take(MostNamed))}{(titles.Count > MostNamed ? $" and {titles.Count - MostNamed} more" : "")}";
}
