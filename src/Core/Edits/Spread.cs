using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Along what nodes are spread: an axis of the space, or the line from the first picked pivot to the last.</summary>
[JsonConverter(typeof(CamelCase<SpreadAlong>))]
public enum SpreadAlong
{
    X,
    Y,
    Z,
    Line,
}

/// <summary>What becomes equal: the gaps between the bounds, or the steps between the pivots.</summary>
[JsonConverter(typeof(CamelCase<SpreadEqual>))]
public enum SpreadEqual
{
    Gaps,
    Pivots,
}

/// <summary>
/// Spreads nodes, in the order of their pivots along an axis or a line, so that gaps or steps are equal. The two ends stay,
/// and so does everything across the direction.
/// </summary>
public sealed record Spread(IReadOnlyList<string> Nodes, SpreadAlong Along, Space Space, SpreadEqual Equal = SpreadEqual.Gaps) : Edit
{
    /// <summary>The two ends stay, so that there must be one between.</summary>
    public const int Least = 3;

    public override IReadOnlyList<string> Picked => Nodes;

    /// <summary>The ends stay, and are counted.</summary>
    internal override IReadOnlyList<string> Edited => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var movers = Targets.Movers(draft, Nodes);
        if (movers.Count < Least)
        {
            throw new Refusal(Refusals.NothingPicked, "Spreading needs at least three objects that do not ride on each other: the two ends stay. Pick more.");
        }

        if (Space is ChannelsSpace)
        {
            throw ChannelsSpace.OnlyForTurning();
        }

        var direction = Direction(draft, movers);
        var toLine = new Affine(new Mat3(new(direction.X, 0, 0), new(direction.Y, 0, 0), new(direction.Z, 0, 0)), Vec3.Zero);
        var seats = movers
            .Select(node => (node.Id, Span: Spans.Of(draft, node, toLine)))
            .OrderBy(seat => seat.Span.Pivot.X)
            .ToList();
        var ways = Equal == SpreadEqual.Pivots ? ByPivots(seats.ConvertAll(s => s.Span)) : ByGaps(seats.ConvertAll(s => s.Span));
        Spans.Shift(draft, seats.Select((seat, i) => (seat.Id, direction * ways[i])).Skip(1).SkipLast(1));
    }

    public override string Say(Speaker say)
    {
        var along = Along == SpreadAlong.Line
            ? "along the line from the first to the last"
            : $"along {say.Of(Space, [Nodes.Count > 0 ? Nodes[^1] : ""])} {Along}";
        return $"Spread {say.Names(Nodes)} {along}, with equal {(Equal == SpreadEqual.Gaps ? "gaps" : "steps between pivots")}";
    }

    private static double[] ByPivots(List<Spans> seats)
    {
        var (first, last) = (seats[0].Pivot.X, seats[^1].Pivot.X);
        return [.. seats.Select((s, i) => first + (last - first) * i / (seats.Count - 1) - s.Pivot.X)];
    }

    private static double[] ByGaps(List<Spans> seats)
    {
        var room = seats[^1].Bounds.High.X - seats[0].Bounds.Low.X - seats.Sum(s => s.Bounds.Size.X);
        var gap = room / (seats.Count - 1);
        var ways = new double[seats.Count];
        var at = seats[0].Bounds.Low.X;
        for (var i = 0; i < seats.Count; i++)
        {
            ways[i] = at - seats[i].Bounds.Low.X;
            at += seats[i].Bounds.Size.X + gap;
        }

        return ways;
    }

    private Vec3 Direction(SceneDraft draft, List<Node> movers)
    {
        if (Along != SpreadAlong.Line)
        {
            var lead = draft.Get(Nodes[^1]);
            return Space.Axes(draft, lead, lead).Column((int)Along);
        }

        Vec3 Pivot(Node node) => draft.PivotOf(node);
        var line = Pivot(movers[^1]) - Pivot(movers[0]);
        return line.Length > 1e-9
            ? line.Unit()
            : throw new Refusal(Refusals.NotUnderstood, "The first and the last picked stand at the same point, so there is no line between them. Move one, or choose an axis.");
    }
}
