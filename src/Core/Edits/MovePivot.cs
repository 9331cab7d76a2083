using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Along which axes the 27 points of a node's bounds are taken.</summary>
[JsonConverter(typeof(CamelCase<AnchorAxes>))]
public enum AnchorAxes
{
    Own,
    World,
}

/// <summary>Where a pivot goes: one of the 27 points of the node's own bounds, a point of the world, or a point of its own frame.</summary>
/// <param name="Anchor">−1, 0 or 1 along each axis: low, middle, high.</param>
public sealed record PivotPlace(Vec3? Anchor = null, AnchorAxes Of = AnchorAxes.Own, Vec3? Point = null, Vec3? Own = null);

/// <summary>
/// Puts the pivot elsewhere and turns its directions. Geometry and children stay (law 1), unless the numbers are to be
/// kept: then the node shifts so that its new pivot stands where the old one stood.
/// </summary>
public sealed record MovePivot(IReadOnlyList<string> Nodes, PivotPlace? To = null, Vec3? Turn = null, Keep Keep = Keep.World) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        if (Nodes.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "Nothing is picked. Pick the objects first.");
        }

        var edited = new List<Node>();
        foreach (var node in Nodes.Distinct().Select(draft.Get))
        {
            Targets.CheckUnlocked(node);
            var placement = node.Placement;
            if (To is not null)
            {
                var pivot = PivotIn(draft, node);
                placement = Keep == Keep.World ? placement.WithPivot(pivot) : placement with { Pivot = pivot };
            }

            if (Turn is { } turn)
            {
                if (!turn.IsFinite)
                {
                    throw new Refusal(Refusals.NotFinite, "The pivot's directions need finite angles.");
                }

                placement = Keep == Keep.World ? placement.WithPivotTurn(turn) : placement with { PivotTurn = turn };
            }

            placement.Check(node.Name, node.Placement);
            edited.Add(node with { Placement = placement });
        }

        edited.ForEach(draft.Put);
    }

    public override string Say(Speaker say) => (To, Turn) switch
    {
        ({ } to, _) => $"Put the pivot of {say.Names(Nodes)} at {say.PivotPlace(to)}{Kept}",
        (null, { } turn) => $"Turned the pivot of {say.Names(Nodes)} to {say.Angles(turn)}{Kept}",
        _ => $"Left the pivot of {say.Names(Nodes)}",
    };

    private string Kept => Keep == Keep.Numbers ? ", numbers kept" : "";

    private Vec3 PivotIn(SceneDraft draft, Node node)
    {
        if (To!.Own is { } own)
        {
            return own;
        }

        // Where the node itself is too thin, its frame cannot be entered from the world.
        if (To.Point is { } point)
        {
            draft.FrameOf(node).CheckInvertible(node.Name);
            return draft.World(node).Inverse().Point(point);
        }

        var anchor = To.Anchor ?? throw new Refusal(Refusals.NotUnderstood, "Say where the pivot goes: an anchor or a point.");
        if (!anchor.IsFinite || Math.Max(Math.Abs(anchor.X), Math.Max(Math.Abs(anchor.Y), Math.Abs(anchor.Z))) > 1)
        {
            throw new Refusal(Refusals.NotUnderstood, "An anchor has −1, 0 or 1 along each axis: low, middle, high.");
        }

        var world = To.Of == AnchorAxes.World;
        var bounds = world ? Extents.Own(draft, node, Affine.Identity) : Extents.InOwnFrame(draft, node);
        if (bounds.IsEmpty)
        {
            throw new Refusal(
                Refusals.NotUnderstood,
                $"“{node.Name}” has no extent to put its pivot on. Give a point instead.");
        }

        return world ? draft.World(node).Inverse().Point(bounds.Anchor(anchor)) : bounds.Anchor(anchor);
    }
}
