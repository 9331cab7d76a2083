using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>A place on the extent of something along one axis.</summary>
[JsonConverter(typeof(CamelCase<AlignPlace>))]
public enum AlignPlace
{
    Min,
    Middle,
    Max,
    Pivot,
}

/// <summary>Several movers each by themselves, or as one block.</summary>
[JsonConverter(typeof(CamelCase<MoveAs>))]
public enum MoveAs
{
    Each,
    Block,
}

/// <summary>Which place of the mover goes to which place of the target, along one axis.</summary>
public sealed record AlignAxis(AlignPlace From, AlignPlace To);

/// <summary>The axes along which nodes are aligned; those left out stay.</summary>
public sealed record AlignAxes(AlignAxis? X = null, AlignAxis? Y = null, AlignAxis? Z = null)
{
    [JsonIgnore]
    public IReadOnlyList<AlignAxis?> All => [X, Y, Z];
}

/// <summary>
/// Brings places on the extents of nodes to places on the extent of a target, along the axes of a space (own and parent
/// mean the target's). Bounds are exact: the extent of the vertices along those axes. A mover counts with all that rides on
/// it; a target with geometry counts by itself, so that things can stand on a desk that carries others already. Rotation and scale can be matched too;
/// they are matched first.
/// </summary>
public sealed record Align(
    IReadOnlyList<string> Nodes,
    string To,
    AlignAxes Axes,
    Space Space,
    MoveAs As = MoveAs.Each,
    bool Rotation = false,
    bool Scale = false) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var target = draft.Get(To);
        var movers = Targets.Movers(draft, [.. Nodes.Where(id => id != To)]);
        foreach (var node in movers)
        {
            if (Edges.FirstBelow(draft, To, new HashSet<string> { node.Id }) is not null)
            {
                throw new Refusal(
                    Refusals.WouldLoop,
                    $"“{target.Name}” rides on “{node.Name}” and would move along. Align “{node.Name}” to something that stays.");
            }
        }

        if (Space is ChannelsSpace)
        {
            throw ChannelsSpace.OnlyForTurning();
        }

        var lead = draft.Get(Nodes[^1]);
        var axes = Space.Axes(draft, target, lead);
        Match(draft, movers, target);
        var toAxes = new Affine(axes.Transposed(), Vec3.Zero);
        var moving = movers.Select(m => m.Id).ToHashSet();
        var there = Spans.OfTarget(draft, target, toAxes, moving);
        var spans = movers.ConvertAll(m => Spans.Of(draft, draft.Get(m.Id), toAxes));
        if (As == MoveAs.Block)
        {
            var block = spans[^1] with { Bounds = spans.Aggregate(Bounds.Empty, (all, s) => all.With(s.Bounds)) };
            spans = spans.ConvertAll(_ => block);
        }

        Spans.Shift(draft, movers.Select((m, i) => (m.Id, axes * Way(spans[i], there))));
    }

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        for (var i = 0; i < 3; i++)
        {
            if (Axes.All[i] is { } axis)
            {
                parts.Add($"{"XYZ"[i]} {Word(axis.From)} to {Word(axis.To)}");
            }
        }

        parts.AddRange(Rotation ? ["rotation"] : []);
        parts.AddRange(Scale ? ["scale"] : []);
        var what = parts.Count == 0 ? "nowhere" : string.Join(", ", parts);
        var block = As == MoveAs.Block && Nodes.Count > 1 ? ", as one block" : "";
        return $"Aligned {say.Names(Nodes)} to {say.Name(To)}: {what}{block}";
    }

    private static string Word(AlignPlace place) => place switch
    {
        AlignPlace.Min => "low",
        AlignPlace.Max => "high",
        AlignPlace.Middle => "middle",
        _ => "pivot",
    };

    private Vec3 Way(Spans mover, Spans there)
    {
        var way = Vec3.Zero;
        for (var i = 0; i < 3; i++)
        {
            if (Axes.All[i] is { } axis)
            {
                way = way.With(i, there.At(axis.To, i) - mover.At(axis.From, i));
            }
        }

        return way;
    }

    private void Match(SceneDraft draft, List<Node> movers, Node target)
    {
        if (!Rotation && !Scale)
        {
            return;
        }

        var (axes, size) = (OwnSpace.Of(draft, target), Channels.WorldScale(draft, target));
        Writer.Write(draft, movers.ConvertAll(mover =>
        {
            var node = draft.AsItStands(mover);
            var frame = draft.FrameOf(node);
            frame.CheckInvertible(node.Name);
            var placement = Rotation ? frame.Heading(node.Placement, axes) : node.Placement;
            if (Scale && node.Kind != NodeKind.Mark)
            {
                var now = Channels.WorldScale(draft, node with { Placement = placement });
                var factors = new Vec3(Math.Abs(size.X / now.X), Math.Abs(size.Y / now.Y), Math.Abs(size.Z / now.Z));
                placement = placement with { Scale = placement.Scale.Times(factors) };
            }

            placement.Check(node.Name, node.Placement);
            return node with { Placement = placement };
        }));
    }
}
