using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Where a new group gets its pivot.</summary>
[JsonConverter(typeof(CamelCase<GroupAt>))]
public enum GroupAt
{
    /// <summary>The middle of the bounds of all that goes into it.</summary>
    Middle,

    /// <summary>The middle of the base of these bounds.</summary>
    Base,

    /// <summary>World zero.</summary>
    Zero,

    /// <summary>The pivot of the lead.</summary>
    Lead,
}

/// <summary>
/// Puts nodes into a new group under their lowest common ancestor, with rotation 0 and scale 1. The group stands where
/// the first of them stood; they keep their order and their places in the world.
/// </summary>
public sealed record Group(IReadOnlyList<string> Nodes, string? Name = null, GroupAt At = GroupAt.Middle, string? Id = null) : Edit
{
    public override IReadOnlyList<string> Picked => Id is { } id ? [id] : Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var movers = Targets.Movers(draft, Nodes);
        PutUnder.CheckInTree(movers);
        var id = Seats.NewId(draft, Id);
        var under = CommonAncestor(draft, movers);
        var order = OrderOf(draft, movers);
        var point = PointOf(draft, movers);
        var frame = draft.FrameUnder(under, Takes.All);
        frame.CheckInvertible(under is null ? "world" : draft.Get(under).Name);
        var placement = Placement.Default with { Position = frame.Place.Inverse().Point(point) };
        var name = draft.DistinctName(Rename.Fitting(Name ?? "Group"), NodeKind.Group, under);
        placement.Check(name);
        var group = Node.Bare(id, name, NodeKind.Group, under, placement);
        Ranks.Seat(draft, [group], SeatUnder(draft, under, order[0]));
        new PutUnder([.. order.Select(n => n.Id)], id).ApplyTo(draft);
    }

    public override string Say(Speaker say) =>
        $"Grouped {say.Names(Nodes)} into {NameOf(say)}, pivot at {PlaceInWords(say)}";

    private string NameOf(Speaker say)
    {
        var draft = new SceneDraft(say.Scene);
        var present = Nodes.Select(draft.Find).OfType<Node>().ToList();
        return present.Count == 0 ? Speaker.Quoted(Name ?? "Group") : say.NewName(Name ?? "Group", NodeKind.Group, CommonAncestor(draft, present));
    }

    private string PlaceInWords(Speaker say) => At switch
    {
        GroupAt.Base => "the middle of the base",
        GroupAt.Zero => "world zero",
        GroupAt.Lead => $"{say.Names([.. Nodes.TakeLast(1)])}'s pivot",
        _ => "the middle of the bounds",
    };

    private Vec3 PointOf(SceneDraft draft, List<Node> movers)
    {
        Vec3 PivotOf(Node node) => draft.PivotOf(node);
        switch (At)
        {
            case GroupAt.Zero:
                return Vec3.Zero;
            case GroupAt.Lead:
                return PivotOf(draft.Get(Nodes[^1]));
        }

        var bounds = Extents.OfBranches(draft, movers);
        if (bounds.IsEmpty)
        {
            // Cameras, lights and empty groups have no bounds; their pivots stand for them.
            bounds = movers.Aggregate(Bounds.Empty, (all, node) => all.With(PivotOf(node)));
        }

        return At == GroupAt.Base ? bounds.Middle with { Y = bounds.Low.Y } : bounds.Middle;
    }

    /// <summary>The lowest node that carries all of them; null: only the world does.</summary>
    private static string? CommonAncestor(SceneDraft draft, List<Node> movers)
    {
        var common = draft.Ancestors(movers[0]).Select(a => a.Id).ToList();
        foreach (var node in movers)
        {
            var above = draft.Ancestors(node).Select(a => a.Id).ToHashSet();
            common.RemoveAll(id => !above.Contains(id));
        }

        return common.FirstOrDefault();
    }

    /// <summary>The nodes as they stand in the tree, whatever order they were picked in.</summary>
    private static List<Node> OrderOf(SceneDraft draft, List<Node> movers)
    {
        if (movers.Count == 1)
        {
            return movers;
        }

        // By their places from the top down, not by a walk through everything.
        var places = movers.ToDictionary(n => n.Id, n => draft.Ancestors(n).Prepend(n).Reverse().Select(draft.IndexOf).ToArray());
        return [.. movers.OrderBy(n => places[n.Id], Comparer<int[]>.Create((a, b) => a.AsSpan().SequenceCompareTo(b)))];
    }

    private static int SeatUnder(SceneDraft draft, string? under, Node first)
    {
        var at = first;
        while (at.Parent != under)
        {
            at = draft.Get(at.Parent!);
        }

        return draft.IndexOf(at);
    }
}
