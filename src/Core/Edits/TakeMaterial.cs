using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Gives things the materials of another, slot by slot; what has more slots takes the last for the rest.</summary>
/// <param name="From">What they are taken from; null: the lead, from which the others take.</param>
public sealed record TakeMaterial(IReadOnlyList<string> Nodes, string? From = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override IReadOnlyList<string> Edited => [.. Nodes.Where(id => id != (From ?? Nodes[^1]))];

    public override void ApplyTo(SceneDraft draft)
    {
        Targets.CheckPicked(Nodes);
        var from = draft.Get(From ?? Nodes[^1]);
        var slots = Materials.SlotsOf(draft, from);
        if (slots == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{from.Name}” is neither a shape nor a mesh, so it is made of nothing. Choose another one.");
        }

        List<string> takers = [.. Nodes.Distinct().Where(id => id != from.Id && draft.Find(id) is { Kind: NodeKind.Shape or NodeKind.Mesh })];
        if (takers.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, $"There is nothing that could take the material of “{from.Name}”. Pick shapes or meshes beside it.");
        }

        foreach (var node in Targets.Movers(draft, takers, ChildrenMode.Stay))
        {
            Sharing.Put(draft, draft.Get(node.Id), taker =>
            {
                for (var slot = Materials.SlotsOf(draft, taker) - 1; slot >= 0; slot--)
                {
                    taker = taker.WithMaterial(slot, from.MaterialOf(Math.Min(slot, slots - 1)));
                }

                return taker;
            });
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var from = From ?? Nodes[^1];
        return $"Gave {say.Names([.. Nodes.Where(id => id != from)])} the material of {say.Name(from)}";
    }
}
