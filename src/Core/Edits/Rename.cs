using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Gives a node another name. Names may repeat; ids do not.</summary>
public sealed record Rename(string Node, string Name) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        var node = draft.GetArranged(Node);
        Targets.CheckUnlocked(draft, node);
        draft.Put(node with { Name = Fitting(Name) });
    }

    public override string Say(Speaker say) => $"Renamed {say.Name(Node)} to {Speaker.Quoted(Name)}";

    /// <summary>The name without blanks around it.</summary>
    /// <exception cref="Refusal">not-understood: empty, with line breaks or other control characters, or longer than 500 characters.</exception>
    public static string Fitting(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        var trimmed = name.Trim();
        if (trimmed.Length == 0 || trimmed.Any(char.IsControl) || !WholeText.Is(trimmed))
        {
            throw new Refusal(Refusals.NotUnderstood, "A name needs at least one character, and no line breaks or halves of characters.");
        }

        return trimmed.Length <= Scene.Node.MostNameLength
            ? trimmed
            : throw new Refusal(Refusals.TooLarge, $"A name has at most {Scene.Node.MostNameLength} characters; this one has {trimmed.Length}. Shorten it.");
    }

    /// <summary>The nearest name that fits, for texts of others: without control characters, cut between characters where it is too long.</summary>
    public static string Nearest(string? name, string otherwise)
    {
        var clean = WholeText.Start(string.Concat((name ?? "").Where(c => !char.IsControl(c))).Trim(), Scene.Node.MostNameLength).Trim();
        return clean.Length == 0 || !WholeText.Is(clean) ? otherwise : clean;
    }
}
