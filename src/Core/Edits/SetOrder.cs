using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Reads the rotation of nodes in another order; the orientation stays, the three angles become those of the new order.</summary>
public sealed record SetOrder(IReadOnlyList<string> Nodes, EulerOrder Order) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            var placement = node.Placement;
            if (placement.Order != Order)
            {
                var angles = Euler.FromMatrix(placement.R, Order, placement.Rotation);
                draft.Put(node with { Placement = placement with { Order = Order, Rotation = angles } });
            }
        }
    }

    public override string Say(Speaker say) => $"Read the rotation of {say.Names(Nodes)} in the order {Order}";
}
