using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Sets what a scene counts time by. Lengths in frames stay as they are.</summary>
public sealed record SetTiming(double? Fps = null, int? FirstFrame = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var timing = draft.Timing;
        var asked = (timing with { Fps = Fps ?? timing.Fps, FirstFrame = FirstFrame ?? timing.FirstFrame }).Checked();
        if (asked != timing)
        {
            // Where it is as usual, there is none.
            draft.Put(asked);
        }
    }

    public override string Say(Speaker say) => (Fps, FirstFrame) switch
    {
        ({ } fps, null) => $"Set the scene to {Unit.Figure(fps, 3)} frames a second",
        (null, { } first) => $"Let the first frame be {first}",
        ({ } fps, { } first) => $"Set the scene to {Unit.Figure(fps, 3)} frames a second from frame {first} on",
        _ => "Left the frames of the scene as they are",
    };
}
