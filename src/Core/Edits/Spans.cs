using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Edits;

/// <summary>How far a node with all that rides on it reaches along some axes, and where its pivot lies along them.</summary>
public readonly record struct Spans(Bounds Bounds, Vec3 Pivot)
{
    /// <param name="toAxes">Leads from the world to the axes.</param>
    /// <param name="without">Nodes whose branches do not count.</param>
    public static Spans Of(SceneDraft draft, Node node, Affine toAxes, HashSet<string>? without = null)
    {
        var bounds = Extents.OfBranch(draft, node, toAxes, without);
        var pivot = toAxes.Point(draft.PivotOf(node));
        return new(bounds.IsEmpty ? new(pivot, pivot) : bounds, pivot);
    }

    /// <summary>What others are aligned to: a node's own geometry, without what stands on it; of a group, what it carries.</summary>
    public static Spans OfTarget(SceneDraft draft, Node node, Affine toAxes, HashSet<string> without)
    {
        var pivot = toAxes.Point(draft.PivotOf(node));
        return Extents.GeometryOf(draft, node) is { } geometry && geometry.Extent(toAxes * draft.World(node)) is { IsEmpty: false } own
            ? new(own, pivot)
            : Of(draft, node, toAxes, without);
    }

    public double At(AlignPlace place, int axis) => place switch
    {
        AlignPlace.Min => Bounds.Low[axis],
        AlignPlace.Max => Bounds.High[axis],
        AlignPlace.Middle => Bounds.Middle[axis],
        _ => Pivot[axis],
    };

    /// <summary>Moves a node by a way in the world.</summary>
    public static void Shift(SceneDraft draft, string id, Vec3 way) => Shift(draft, [(id, way)]);

    /// <summary>Moves nodes, each by its way in the world.</summary>
    public static void Shift(SceneDraft draft, IEnumerable<(string Id, Vec3 Way)> ways) => Writer.Write(draft, [.. ways.Select(w =>
    {
        var node = draft.AsItStands(draft.Get(w.Id));
        var frame = draft.FrameOf(node);
        frame.CheckInvertible(node.Name);
        var placement = node.Placement with { Position = node.Placement.Position + frame.Place.Linear.Inverse() * w.Way };
        placement.Check(node.Name, node.Placement);
        return node with { Placement = placement };
    })]);
}
