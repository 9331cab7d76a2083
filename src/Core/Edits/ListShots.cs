using System.Globalization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What a list makes of one shot.</summary>
/// <param name="Shot">The shot that is there already; null: it is made.</param>
/// <param name="Title">As it is called afterwards.</param>
/// <param name="Changes">What will not be as it was, as words; none: nothing.</param>
public sealed record ListedChange(string? Shot, string Title, IReadOnlyList<string> Changes);

/// <summary>
/// Makes the shots of a list, or changes those that are there: they are found by their names, each once, of several by their numbers, else in the order of both. The shots of the list come to stand in
/// its order; those that it does not name stay where and as they are, and nothing is ever removed.
/// <code>
/// new ListShots([new(Name: "Dome", Frames: 120), new(Name: "New one", Frames: 48)])
/// </code>
/// </summary>
/// <param name="Shots">What is left out of one stays as it is. Ids and indices count for nothing.</param>
/// <param name="FirstFrame">The number of the first frame of the scene; null: as it is.</param>
public sealed record ListShots(IReadOnlyList<NewShot> Shots, int? FirstFrame = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        if (Shots.Count > Shot.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"This list holds {Shots.Count.ToString(CultureInfo.InvariantCulture)} shots; a scene has at most {Shot.Most}. Take a part of it.");
        }

        if (FirstFrame is not null)
        {
            new SetTiming(FirstFrame: FirstFrame).ApplyTo(draft);
        }

        var matched = Matched(draft);
        var order = Order(draft, matched);
        draft.Spend(order.Count);
        for (var i = 0; i < Shots.Count; i++)
        {
            if (matched[i] is { } id)
            {
                var given = Shots[i];
                new SetShot(id, given.Number, null, given.Camera, given.Frames, given.Note, given.Colour).ApplyTo(draft);
            }
        }

        // What is there stands in its place before the rest is made between, so that new numbers lie between their neighbours'.
        Seat(draft, [.. order.Select(o => o.Id).OfType<string>()]);
        for (var i = 0; i < order.Count; i++)
        {
            if (order[i] is (null, { } listed))
            {
                var given = Shots[listed];
                new MakeShot(given with { Id = null, Index = i }).ApplyTo(draft);

                // As it stands in the list, so that the same list finds it again.
                draft.Put(draft.FindShot(draft.Shots[i])! with { Name = Rename.Fitting(given.Name ?? "Shot") });
            }
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var (made, changed, _) = Counts(say.Scene);
        return $"Took in a list of {Shots.Count.ToString(CultureInfo.InvariantCulture)} shots: {made} made, {changed} changed{(CountsAnew(say.Scene) ? $", from frame {FirstFrame} on" : "")}";
    }

    /// <summary>Whether the first frame gets another number.</summary>
    public bool CountsAnew(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return FirstFrame is { } first && first != scene.Timing.FirstFrame;
    }

    public override string? Foretell(IScene scene)
    {
        var (made, changed, others) = Counts(scene);
        var counts = CountsAnew(scene) ? $" The first frame becomes {FirstFrame}." : "";
        return (made, changed) == (0, 0) && !IsMoved(scene) && counts.Length == 0
            ? "Every shot of this list is in the scene already, as the list has it."
            : $"{made} made, {changed} changed, {Shots.Count - made - changed} as they are; {(others == 1 ? "1 other stays" : $"{others} others stay")} in the scene.{counts}";
    }

    /// <summary>How many it makes, how many it changes, and how many others are there.</summary>
    private (int Made, int Changed, int Others) Counts(IScene scene)
    {
        var changes = Changes(scene);
        var there = changes.Count(c => c.Shot is not null);
        return (changes.Count - there, changes.Count(c => c.Shot is not null && c.Changes.Count > 0), scene.Shots.Count - there);
    }

    /// <summary>What the list makes of each of its shots, in words, said before it is done.</summary>
    public IReadOnlyList<ListedChange> Changes(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (matched, say) = (Matched(scene), new Speaker(scene));
        return [.. Shots.Select((given, i) =>
        {
            if (matched[i] is not { } id)
            {
                var number = given.Number is { Length: > 0 } ? given.Number + " " : "";
                return new ListedChange(null, number + (given.Name ?? "Shot"), [$"new, {(given.Frames ?? new Shot("", "").Frames).ToString(CultureInfo.InvariantCulture)} frames"]);
            }

            var shot = scene.FindShot(id)!;
            List<string> words = [];
            void Add<T>(T? given, T? present, string what, Func<T, string> said)
            {
                if (given is not null && !given.Equals(present))
                {
                    words.Add($"{what} {(present is null ? "none" : said(present))} → {said(given)}");
                }
            }

            Add(given.Number, shot.Number, "number", n => n.Length == 0 ? "none" : n);
            Add(given.Frames, shot.Frames, "frames", n => n?.ToString(CultureInfo.InvariantCulture) ?? "none");
            Add(given.Camera, shot.Camera ?? "", "camera", c => c.Length == 0 ? "none" : say.Name(c));
            Add(given.Note, shot.Note ?? "", "note", n => n.Length == 0 ? "none" : $"“{Speaker.Quoted(n)}”");
            Add(given.Colour, shot.Colour ?? "", "colour", c => c.Length == 0 ? "none" : c);
            return new ListedChange(id, shot.Title, words);
        })];
    }

    /// <summary>Whether the order will not be as it was.</summary>
    public bool IsMoved(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var present = Order(scene, Matched(scene)).Select(o => o.Id).OfType<string>();
        return !present.SequenceEqual(scene.Shots);
    }

    /// <summary>For each of the list the shot that is there already.</summary>
    private string?[] Matched(IScene scene)
    {
        var waiting = scene.AllShots().GroupBy(s => NameOf(s.Name)).ToDictionary(g => g.Key, g => g.ToList());
        var found = new string?[Shots.Count];

        // Of several with one name, that with the same number first; then in the order of both.
        foreach (var byNumber in new[] { true, false })
        {
            for (var i = 0; i < Shots.Count; i++)
            {
                if (found[i] is null && waiting.TryGetValue(NameOf(Shots[i].Name), out var those)
                    && those.FindIndex(s => !byNumber || s.Number == Shots[i].Number?.Trim()) is >= 0 and var at)
                {
                    found[i] = those[at].Id;
                    those.RemoveAt(at);
                }
            }
        }

        return found;
    }

    private static string NameOf(string? name) => (name ?? "Shot").Trim().ToUpperInvariant();

    /// <summary>The shots as they will follow each other: those of the list fill, in its order, the places that they hold; what is new follows the one before it.</summary>
    private List<(string? Id, int? Listed)> Order(IScene scene, string?[] matched)
    {
        var places = matched.OfType<string>().ToHashSet();
        var order = new List<(string? Id, int? Listed)>();
        var next = 0;
        void New()
        {
            for (; next < matched.Length && matched[next] is null; next++)
            {
                order.Add((null, next));
            }
        }

        if (places.Count > 0)
        {
            foreach (var id in scene.Shots)
            {
                if (!places.Contains(id))
                {
                    order.Add((id, null));
                    continue;
                }

                // What is new before the first that is there stands before it.
                New();
                order.Add((matched[next], next));
                next++;
                New();
            }
        }
        else
        {
            order.AddRange(scene.Shots.Select(id => ((string?)id, (int?)null)));
        }

        New();
        return order;
    }

    private static void Seat(SceneDraft draft, List<string> order)
    {
        if (draft.Shots.SequenceEqual(order))
        {
            return;
        }

        draft.PutInRow([.. order.Select((id, i) => (Entity)(draft.FindShot(id)! with { Rank = i + 1 }))]);
    }
}
