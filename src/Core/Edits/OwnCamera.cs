using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Gives a shot a camera of its own: one like the one that it has, as it stands in that shot. What the shot had of the former camera of its own goes
/// into the new one.
/// </summary>
/// <param name="Id">Of the new camera.</param>
public sealed record OwnCamera(string Shot, string? Id = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var shot = draft.FindShot(Shot) ?? throw Layered.NoSuchShot();
        if (shot.Camera is null || new ShotScene(draft, Shot).Find(shot.Camera) is not { Camera: not null } camera)
        {
            throw new Refusal(Refusals.NotUnderstood, $"{shot.Title} has no camera to make another like. Choose one, or take the present view.");
        }

        var below = draft.Get(camera.Id);
        foreach (var cheat in draft.CheatsOf(Shot).Where(c => c.Of == camera.Id && !c.IsSeen).ToList())
        {
            draft.Remove(cheat);
        }

        var made = camera with
        {
            Id = Seats.NewId(draft, Id),
            Name = draft.DistinctName(Rename.Nearest($"{camera.Name} {shot.Title}", "Shot camera"), NodeKind.Camera, camera.Parent),
            Switches = below.Switches with { Locked = false },
        };
        Ranks.SeatAfter(draft, [made], below);
        draft.Put(shot with { Camera = made.Id });
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Gave {Scene.Shot.TitleOf(say.Scene, Shot)} a camera of its own";
    }
}
