using System.Globalization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Changes what is given of a shot; all else stays.</summary>
/// <param name="Camera">The node that it is seen through; empty: none.</param>
/// <param name="Note">Empty: none.</param>
/// <param name="Colour">#RRGGBB; empty: none.</param>
/// <param name="Index">Its place in the order; its number stays.</param>
public sealed record SetShot(
    string Id = "",
    string? Number = null,
    string? Name = null,
    string? Camera = null,
    int? Frames = null,
    string? Note = null,
    string? Colour = null,
    int? Index = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var shot = draft.FindShot(Id) ?? throw Layered.NoSuchShot();
        shot = Changed(draft, shot, this);
        if (Index is { } index)
        {
            Ranks.Seat(draft, [shot], index);
        }
        else
        {
            draft.Put(shot);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var title = Speaker.Quoted(Shot.TitleOf(say.Scene, Id));
        List<string> parts = [];
        void Add(bool given, string what)
        {
            if (given)
            {
                parts.Add(what);
            }
        }

        Add(Name is not null, $"now called {Speaker.Quoted(Name ?? "")}");
        Add(Number is not null, Number is "" ? "without number" : $"number {Number}");
        Add(Camera is not null, Camera is "" ? "without camera" : $"seen through {say.Name(Camera ?? "")}");
        Add(Frames is not null, (Frames ?? 0).ToString(CultureInfo.InvariantCulture) + " frames long");
        Add(Note is not null, Note is "" ? "without note" : "another note");
        Add(Colour is not null, Colour is "" ? "without colour" : "another colour");
        Add(Index is not null, PlaceIn([.. say.Scene.Shots.Where(shot => shot != Id)], Index ?? 0, shot => Speaker.Quoted(Shot.TitleOf(say.Scene, shot))));
        return $"Shot {title}: {(parts.Count == 0 ? "nothing" : string.Join(", ", parts))}";
    }

    /// <summary>"first in the order", "before 03 Dome".</summary>
    /// <param name="others">What is in the order besides.</param>
    internal static string PlaceIn(IReadOnlyList<string> others, int index, Func<string, string> say) =>
        index <= 0 ? "first in the order" : index >= others.Count ? "last in the order" : $"before {say(others[index])}";

    /// <exception cref="Refusal">not-understood, too-large, not-found.</exception>
    internal static Shot Changed(SceneDraft draft, Shot shot, SetShot to)
    {
        if (to.Camera is { Length: > 0 } camera && draft.Get(camera) is { Camera: null } other)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{other.Name}” is no camera. A shot is seen through one.");
        }

        new Label(to.Colour is { Length: > 0 } ? to.Colour : null, to.Note).Checked();
        return shot with
        {
            Name = to.Name is { } name ? Rename.Fitting(name) : shot.Name,
            Number = to.Number is { } number ? Fitting(number) : shot.Number,
            Camera = Given(to.Camera, shot.Camera),
            Frames = to.Frames is { } frames ? CheckFrames(frames) : shot.Frames,
            Note = Given(to.Note, shot.Note),
            Colour = Given(to.Colour, shot.Colour),
        };
    }

    /// <summary>Refuses a shot whose words or numbers no edit would give it.</summary>
    /// <exception cref="Refusal">not-understood, too-large.</exception>
    public static void CheckNumbers(Shot shot)
    {
        ArgumentNullException.ThrowIfNull(shot);
        Rename.Fitting(shot.Name);
        Fitting(shot.Number);
        new Label(shot.Colour, shot.Note).Checked();
        CheckFrames(shot.Frames);
    }

    private static int CheckFrames(int frames) => frames is >= 1 and <= Shot.MostFrames
        ? frames
        : throw new Refusal(Refusals.NotUnderstood, $"A shot is 1 to {Shot.MostFrames} frames long, not {frames}.");

    /// <exception cref="Refusal">not-understood.</exception>
    public static string Fitting(string number)
    {
        var trimmed = number.Trim();
        return trimmed.Length <= Shot.MostNumberLength && !trimmed.Any(char.IsControl) && WholeText.Is(trimmed)
            ? trimmed
            : throw new Refusal(Refusals.NotUnderstood, $"The number of a shot has at most {Shot.MostNumberLength} characters and no line breaks.");
    }

    private static string? Given(string? given, string? present) => given is null ? present : string.IsNullOrWhiteSpace(given) ? null : given;
}
