using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What of a dropped node comes to rest: its surface where it touches first, or its pivot.</summary>
[JsonConverter(typeof(CamelCase<DropBy>))]
public enum DropBy
{
    Lowest,
    Pivot,
}

/// <summary>
/// Drops nodes down, or along any direction, until they touch what is in the way: exact against triangles. The ground (world
/// zero's height) holds what meets nothing else on its way down to it. Hidden nodes are passed through.
/// </summary>
/// <param name="Along">A direction in the world; null: down.</param>
public sealed record Drop(IReadOnlyList<string> Nodes, Vec3? Along = null, DropBy By = DropBy.Lowest, MoveAs As = MoveAs.Each) : Edit
{
    private static readonly Vec3 Down = new(0, -1, 0);

    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var along = Along ?? Down;
        if (!along.IsFinite || along.Length < 1e-12)
        {
            throw new Refusal(Refusals.NotUnderstood, "A drop needs a direction to fall along.");
        }

        along = along.Unit();
        var movers = Targets.Movers(draft, Nodes);
        var moving = movers.SelectMany(m => draft.Riding(m.Id)).Select(n => n.Id).ToHashSet();
        if (draft.Constrained.Count > 0)
        {
            moving.UnionWith(Edges.Dependents(draft, movers.Select(m => m.Id)));
        }

        var still = new FallField(along);
        foreach (var node in draft.Branch(null).Where(n => !moving.Contains(n.Id) && Seen.IsSeen(draft, n)))
        {
            Stand(draft, still, node);
        }

        var fell = false;
        if (As == MoveAs.Block)
        {
            fell = Fall(draft, movers, still, along);
        }
        else
        {
            // The one that lies lowest first: the others may come to rest on it.
            var toLine = new Affine(new Mat3(new(along.X, 0, 0), new(along.Y, 0, 0), new(along.Z, 0, 0)), Vec3.Zero);
            foreach (var node in movers.OrderByDescending(m => Spans.Of(draft, m, toLine).Bounds.High.X).ToList())
            {
                fell |= Fall(draft, [node], still, along);
                foreach (var riding in draft.Riding(node.Id))
                {
                    Stand(draft, still, riding);
                }
            }
        }

        if (!fell)
        {
            throw new Refusal(
                Refusals.NotFound,
                $"There is nothing {(Along is null ? "below" : "along this direction for")} {new Speaker(draft).Names(Nodes)} to come to rest on. Move it over something first.");
        }
    }

    public override string Say(Speaker say) =>
        $"Dropped {say.Names(Nodes)}{(Along is null ? "" : " along a direction")}{(By == DropBy.Pivot ? ", by the pivot" : "")}"
        + (As == MoveAs.Block && Nodes.Count > 1 ? ", as one block" : "");

    private static void Stand(SceneDraft draft, FallField still, Node node)
    {
        if (!node.IsController && Extents.GeometryOf(draft, node) is { } geometry)
        {
            still.Add(geometry, draft.World(node));
        }
    }

    private bool Fall(SceneDraft draft, List<Node> block, FallField still, Vec3 along)
    {
        var contact = new Contacts(along, draft.Spend);
        foreach (var top in block)
        {
            if (By == DropBy.Pivot)
            {
                contact.AddFallingPoint(draft.PivotOf(top));
                continue;
            }

            foreach (var node in draft.Riding(top.Id))
            {
                if ((node.Id == top.Id || !node.IsController) && Extents.GeometryOf(draft, node) is { } geometry)
                {
                    contact.AddFalling(geometry, draft.World(node));
                }
            }

            if (Extents.OfBranch(draft, top, Affine.Identity).IsEmpty)
            {
                contact.AddFallingPoint(draft.PivotOf(top));
            }
        }

        foreach (var (geometry, world) in still.Under(contact.Falling))
        {
            contact.AddStill(geometry, world);
        }

        if (contact.Distance() is not { } way)
        {
            return false;
        }

        Spans.Shift(draft, block.Select(node => (node.Id, along * way)));

        return true;
    }
}
