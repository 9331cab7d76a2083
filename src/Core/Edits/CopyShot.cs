using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Copies a shot with all that it has of its own, right after it; or splits it: the copy takes the frames from some on.</summary>
/// <param name="Id">That of the copy.</param>
/// <param name="SplitAt">How many frames the first keeps; null: both are as long as it was.</param>
public sealed record CopyShot(string Shot, string? Id = null, string? Name = null, int? SplitAt = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var shot = draft.FindShot(Shot) ?? throw Layered.NoSuchShot();
        MakeShot.CheckRoom(draft);
        if (SplitAt is { } split && (split < 1 || split >= shot.Frames))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{shot.Title}” is {shot.Frames} frames long. Split it after frame 1 to {shot.Frames - 1}.");
        }

        var index = draft.IndexOf(shot) + 1;
        var copy = shot with
        {
            Id = Seats.NewId(draft, Id),
            Name = draft.DistinctNameIn(Lists.Shots, Rename.Fitting(Name ?? shot.Name)),
            Number = ShotNumbers.At(draft, index),
            Frames = shot.Frames - (SplitAt ?? 0),
        };
        if (SplitAt is { } first)
        {
            draft.Put(shot with { Frames = first });
        }

        Ranks.Seat(draft, [copy], index);
        foreach (var cheat in draft.CheatsOf(Shot).ToList())
        {
            Narrow.Put(draft, copy.Id, cheat.Of, cheat.Channel, cheat.Value);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var title = Scene.Shot.TitleOf(say.Scene, Shot);
        return SplitAt is { } at ? $"Split the shot {title} after {at} {(at == 1 ? "frame" : "frames")}" : $"Copied the shot {title}";
    }
}
