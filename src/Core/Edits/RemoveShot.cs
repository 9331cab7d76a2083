using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Removes a shot with all that it has of its own. Its camera stays in the scene.</summary>
public sealed record RemoveShot(string Id) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var shot = draft.FindShot(Id) ?? throw Layered.NoSuchShot();
        foreach (var cheat in draft.CheatsOf(Id).ToList())
        {
            draft.Remove(cheat);
        }

        draft.Remove(shot);
    }

    public override string? Foretell(IScene scene)
    {
        var count = scene.CheatsOf(Id).Select(c => c.Of).Distinct().Count();
        return count == 0 ? null : $"What {(count == 1 ? "1 object has" : $"{count} objects have")} of {(count == 1 ? "its" : "their")} own in it goes too.";
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Removed the shot {Shot.TitleOf(say.Scene, Id)}";
    }
}
