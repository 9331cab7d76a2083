using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Says whether nodes and collections are seen in the pictures of shots.</summary>
/// <param name="Of">Nodes and collections.</param>
/// <param name="On">Null: as in the scene.</param>
public sealed record SeeIn(IReadOnlyList<string> Shots, IReadOnlyList<string> Of, bool? On = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => Of;

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        Targets.CheckPicked(Of);
        var some = Of.Distinct().Select(draft.GetArranged).ToList();
        foreach (var shot in Shots.Distinct())
        {
            _ = draft.FindShot(shot) ?? throw Layered.NoSuchShot();
            foreach (var one in some)
            {
                if (On is { } on)
                {
                    Narrow.Put(draft, shot, one.Id, CheatChannel.Seen, CheatValue.Of(on));
                }
                else if (draft.FindAny(Cheat.IdOf(shot, one.Id, CheatChannel.Seen)) is { } cheat)
                {
                    draft.Remove(cheat);
                }
            }

            draft.Spend(some.Count);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var where = Shots.Count == 1 ? Shot.TitleOf(say.Scene, Shots[0]) : $"{Shots.Count} shots";
        return On is { } on ? $"Switched {say.Names(Of)} {(on ? "on" : "off")} in {where}{(on ? "" : $"; {(Of.Count == 1 ? "it stays" : "they stay")} in the scene")}"
            : $"Let {say.Names(Of)} be seen in {where} as in the scene";
    }
}
