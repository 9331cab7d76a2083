using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Sets stored values of a node's placement as given.</summary>
public sealed record Place(string Node, PlacementPatch Placement) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        var node = Targets.One(draft, Node);
        var placement = Placement.ApplyTo(node.Placement);
        placement.Check(node.Name, node.Placement);
        draft.Put(node with { Placement = placement });
    }

    public override string Say(Speaker say) => $"Placed {say.Name(Node)}: {say.PlacementChange(Placement)}";
}
