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
        var movers = Targets.Movers(draft, Nodes, ChildrenMode.Stay);

        // Constraints of single angles read them in the order.
        var remembered = Writer.Remember(draft, movers);
        foreach (var node in movers)
        {
            var placement = node.Placement;
            if (placement.Order != Order)
            {
                var angles = Euler.FromMatrix(placement.R, Order, placement.Rotation);
                draft.Put(node with { Placement = placement with { Order = Order, Rotation = angles } });
            }
        }

        Writer.Restore(draft, remembered);
    }

    /// <summary>What turns with single angles of it, or is limited in its own, reads others.</summary>
    public override string? Foretell(IScene scene) => Jumps.OfConstrained(scene, this, Nodes);

    public override string Say(Speaker say) => $"Read the rotation of {say.Names(Nodes)} in the order {Order}";
}
