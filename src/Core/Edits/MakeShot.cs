using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>A shot as an edit makes it; what is left out is as usual.</summary>
/// <param name="Number">Left out: between those of its neighbours.</param>
/// <param name="Index">Its place in the order; left out: last.</param>
public sealed record NewShot(
    string? Id = null,
    string? Number = null,
    string? Name = null,
    string? Camera = null,
    int? Frames = null,
    string? Note = null,
    string? Colour = null,
    int? Index = null);

/// <summary>
/// Makes a shot. Nothing in it is otherwise than in the scene.
/// <code>
/// new MakeShot(new(Name: "Dome", Camera: "dome-camera", Frames: 96))
/// </code>
/// </summary>
public sealed record MakeShot(NewShot Shot) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        CheckRoom(draft);
        var made = new Shot(Seats.NewId(draft, Shot.Id), draft.DistinctNameIn(Lists.Shots, Rename.Fitting(Shot.Name ?? "Shot")));
        made = SetShot.Changed(draft, made, new(Camera: Shot.Camera, Frames: Shot.Frames, Note: Shot.Note, Colour: Shot.Colour));
        made = made with { Number = Shot.Number is { } number ? SetShot.Fitting(number) : ShotNumbers.At(draft, Shot.Index) };
        Ranks.Seat(draft, [made], Shot.Index);
    }

    public override string Say(Speaker say) => $"Made the shot {say.NewNameIn(Lists.Shots, Shot.Name ?? "Shot")}";

    /// <exception cref="Refusal">too-large.</exception>
    internal static void CheckRoom(SceneDraft draft)
    {
        if (draft.Shots.Count >= Scene.Shot.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"A scene has at most {Scene.Shot.Most} shots. Remove some first, or begin another scene.");
        }
    }
}
