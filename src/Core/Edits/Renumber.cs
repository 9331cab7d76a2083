using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Numbers all shots anew in their order: 010, 020, 030.</summary>
public sealed record Renumber(int From = 10, int By = 10) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        if (From is < 0 or > 1_000_000 || By is < 1 or > 10_000)
        {
            throw new Refusal(Refusals.NotUnderstood, "Shots are numbered from 0 to 1000000 on, by 1 to 10000.");
        }

        var next = (long)From;
        foreach (var shot in draft.AllShots().ToList())
        {
            draft.Put(shot with { Number = ShotNumbers.Say(next) });
            next += By;
        }
    }

    public override string Say(Speaker say) => "Numbered the shots anew";
}
