using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Where something is brought: to a node's pivot, to a mark, to a point of the world, or, with none of them, to world zero.</summary>
public sealed record BringTo(string? Node = null, string? Mark = null, Vec3? Point = null)
{
    /// <summary>"the mark Ramp", "Arm's pivot", "a pressed point", "world zero".</summary>
    internal string Words(Speaker say) =>
        Mark is not null ? $"the mark {say.Name(Mark)}"
        : Node is not null ? $"{say.Name(Node)}'s pivot"
        : Point is null ? "world zero" : "a pressed point";

    public (Vec3 Point, Mat3 Axes) In(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        if (Mark is not null)
        {
            var mark = Marks.Get(draft, Mark);
            return (draft.World(mark).Offset, Marks.Axes(draft, mark));
        }

        if (Node is null)
        {
            return Point is { IsFinite: false }
                ? throw new Refusal(Refusals.NotFinite, "A point to bring things to needs finite numbers.")
                : (Point ?? Vec3.Zero, Mat3.Identity);
        }

        var node = draft.Get(Node);
        return (draft.PivotOf(node), OwnSpace.Of(draft, node));
    }
}

/// <summary>Brings the pivots of nodes (or marks) to a point of the scene and, when asked, turns their own axes to the directions there.</summary>
/// <param name="Rotation">True: own axes become those of the target; scale and shear stay.</param>
/// <param name="Position">False: only the rotation is taken.</param>
public sealed record Bring(IReadOnlyList<string> Nodes, BringTo To, bool Rotation = false, bool Position = true) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var movers = Targets.Movers(draft, Nodes);
        var source = To.Mark ?? To.Node;
        if (source is not null)
        {
            var target = draft.Get(source);
            if (Edges.FirstBelow(draft, source, movers.Select(m => m.Id).ToHashSet()) is { } on && draft.Get(on) is var carrier)
            {
                throw new Refusal(Refusals.WouldLoop, carrier.Id == source
                    ? $"“{carrier.Name}” is there already. Pick something else to bring it to."
                    : $"“{target.Name}” rides on “{carrier.Name}” and would move along. Pick something else to bring it to.");
            }
        }

        var (point, axes) = To.In(draft);
        Writer.Write(draft, movers.ConvertAll(mover =>
        {
            var node = draft.AsItStands(mover);
            var frame = draft.FrameOf(node);
            frame.CheckInvertible(node.Name);
            var placement = Rotation ? frame.Heading(node.Placement, axes) : node.Placement;
            placement = Position ? placement with { Position = frame.Place.Inverse().Point(point) } : placement;
            placement.Check(node.Name, node.Placement);
            return node with { Placement = placement };
        }));
    }

    public override string Say(Speaker say)
    {
        var where = To.Words(say);
        return (Position, Rotation) switch
        {
            (true, true) => $"Brought {say.Names(Nodes)} to {where}, turned with it",
            (false, _) => $"Turned {say.Names(Nodes)} like {where}",
            _ => $"Brought {say.Names(Nodes)} to {where}",
        };
    }
}
