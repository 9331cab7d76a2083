using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Chooses how nodes with what they carry, or the members of collections, are drawn in the working view.</summary>
public sealed record Draw(IReadOnlyList<string> Nodes, DrawnAs As) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        if (As == DrawnAs.Controller && Nodes.Select(draft.GetArranged).FirstOrDefault(n => n is not Node { Kind: NodeKind.Shape }) is { } other)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{other.Name}” is no shape, and only shapes serve as controllers. Add one, and let it carry this.");
        }

        Targets.Switch(draft, Nodes, s => s with { Drawn = As });
    }

    public override string Say(Speaker say) => $"Drew {say.Names(Nodes)} " + As switch
    {
        DrawnAs.Wire => "as wires",
        DrawnAs.Box => "as boxes",
        DrawnAs.Controller => Nodes.Count == 1 ? "as a controller" : "as controllers",
        _ => "in full",
    };
}
