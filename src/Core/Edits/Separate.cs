using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Takes meshes of several unconnected pieces apart: the first piece stays the node, the others become siblings right after it.</summary>
public sealed record Separate(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            if (Extents.GeometryOf(draft, node) is not { } geometry || node.Geometry is null)
            {
                throw new Refusal(
                    Refusals.NotUnderstood,
                    node.Shape is null ? $"“{node.Name}” has no geometry to take apart." : $"“{node.Name}” is a shape made from parameters, which is one piece.");
            }

            var pieces = Pieces.Of(geometry);
            if (pieces.Count < 2)
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” is one piece, so there is nothing to separate.");
            }

            if (pieces.Count > Duplicate.MostNew)
            {
                throw new Refusal(Refusals.TooLarge, $"“{node.Name}” has {pieces.Count} pieces; at most {Duplicate.MostNew} become objects in one step.");
            }

            var first = node with { Geometry = draft.Keep(pieces[0]), Shares = null };
            draft.Put(first);
            var others = pieces.Skip(1)
                .Select((piece, i) => first with { Id = Seats.Derived(draft, node.Id, "piece", i + 2), Geometry = draft.Keep(piece) })
                .ToList();
            Ranks.SeatAfter(draft, others, first);
            foreach (var other in others)
            {
                draft.Heirs.Add(new(node.Id, other.Id));
                draft.Put(draft.Get(other.Id) with { Name = draft.DistinctName(node.Name, node.Kind, node.Parent) });
            }
        }
    }

    public override string Say(Speaker say) => $"Separated {say.Names(Nodes)} into {say.Their(Nodes)} pieces";
}
