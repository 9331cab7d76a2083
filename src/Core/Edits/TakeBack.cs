using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Takes cheats back: what they were of follows the scene again.</summary>
/// <param name="Nodes">Null: all that the shot has of its own.</param>
/// <param name="Channels">Null: all but whether they are seen.</param>
public sealed record TakeBack(string Shot, IReadOnlyList<string>? Nodes = null, IReadOnlyList<string>? Channels = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => Nodes ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var cheat in Cheats.Of(draft, Shot, Nodes, Channels))
        {
            draft.Remove(cheat);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var title = Scene.Shot.TitleOf(say.Scene, Shot);
        return Nodes is null ? $"Took back all that {title} had of its own" : $"Took back what {say.Names(Nodes)} had of {say.Their(Nodes)} own in {title}";
    }
}
