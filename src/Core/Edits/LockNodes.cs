using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Locks nodes against edits, or unlocks them.</summary>
public sealed record LockNodes(IReadOnlyList<string> Nodes, bool On) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft) => Targets.Switch(draft, Nodes, s => s with { Locked = On });

    public override string Say(Speaker say) => $"{(On ? "Locked" : "Unlocked")} {say.Names(Nodes)}";
}
