using System.Text.Json.Serialization;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Whether values are read as stored, in the parent, or in the world.</summary>
[JsonConverter(typeof(CamelCase<ReadIn>))]
public enum ReadIn
{
    Parent,
    World,
}

/// <summary>
/// Sets channels of nodes to values, or changes each by itself: position, rotation, scale or size, as stored or in the world.
/// In the world the pivot's place, the own axes and the scale along them are what is set; the other two stay.
/// </summary>
/// <param name="Values">For X, Y and Z; null: stays.</param>
public sealed record SetChannel(
    IReadOnlyList<string> Nodes,
    ChannelName Channel,
    IReadOnlyList<double?> Values,
    AmountMode Mode = AmountMode.Set,
    ReadIn In = ReadIn.Parent) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    [JsonIgnore]
    internal override Read Reads => Channel switch { ChannelName.Position => Read.Position, ChannelName.Rotation => Read.Rotation, _ => Read.Scale };

    public override void ApplyTo(SceneDraft draft)
    {
        if (Values.Count != 3 || Values.Any(v => v is { } value && !double.IsFinite(value)))
        {
            throw new Refusal(Refusals.NotUnderstood, "A channel takes three values, for X, Y and Z; each a finite number or nothing.");
        }

        // Parents first: in the world a child's numbers count from where its parent then stands. A change, though, is made
        // once: what rides on another of the picked goes with it.
        var nodes = Targets.Movers(draft, Nodes, Mode == AmountMode.Set ? ChildrenMode.Stay : ChildrenMode.Along);
        foreach (var id in nodes.OrderBy(n => draft.Ancestors(n).Count()).Select(n => n.Id).ToList())
        {
            var node = draft.Get(id);
            if (node.Kind == NodeKind.Mark && Channel is (ChannelName.Scale or ChannelName.Size))
            {
                continue;
            }

            if (In == ReadIn.World)
            {
                var shown = draft.AsItStands(node);
                var wanted = InWorld(draft, shown);
                wanted.Check(node.Name, shown.Placement);
                Writer.Write(draft, [shown with { Placement = wanted }]);
                continue;
            }

            var placement = Stored(draft, node);
            placement.Check(node.Name, node.Placement);
            draft.Put(node with { Placement = placement });
        }
    }

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        for (var i = 0; i < 3 && i < Values.Count; i++)
        {
            if (Values[i] is { } value)
            {
                parts.Add($"{"XYZ"[i]} {Figure(say, value)}");
            }
        }

        var world = In == ReadIn.World ? " in the world" : "";
        var channel = Channel.Word();
        return parts.Count == 0 ? $"Left the {channel} of {say.Names(Nodes)}" : Mode switch
        {
            AmountMode.Set => $"Set the {channel} of {say.Names(Nodes)}{world} to {string.Join(", ", parts)}",
            _ => $"Changed the {channel} of {say.Names(Nodes)}{world} by {string.Join(", ", parts)}",
        };
    }

    private string Figure(Speaker say, double value) => (Mode, Channel) switch
    {
        (AmountMode.Multiply, _) => "× " + Unit.Figure(value, 4),
        (_, ChannelName.Rotation) => say.Angle(value),
        (_, ChannelName.Scale) => Unit.Figure(value, 4),
        _ => say.Length(value),
    };

    private Vec3 Set(Vec3 present)
    {
        for (var i = 0; i < 3; i++)
        {
            if (Values[i] is { } value)
            {
                present = present.With(i, new Amount(Mode, value).ApplyTo(present[i]));
            }
        }

        return present;
    }

    private Placement Stored(SceneDraft draft, Node node) => Channel switch
    {
        ChannelName.Position => node.Placement with { Position = Set(node.Placement.Position) },
        ChannelName.Rotation => node.Placement with { Rotation = Set(node.Placement.Rotation) },
        ChannelName.Scale => node.Placement with { Scale = Set(node.Placement.Scale) },
        _ => Sized(draft, node, node.Placement.Scale),
    };

    private Placement InWorld(SceneDraft draft, Node node)
    {
        var frame = draft.FrameOf(node);
        frame.CheckInvertible(node.Name);
        var (present, p) = (Channels.Of(draft, node, world: true, Vec3.One), node.Placement);
        switch (Channel)
        {
            case ChannelName.Position:
                return p with { Position = frame.Place.Inverse().Point(Set(present.Position)) };
            case ChannelName.Rotation:
                return frame.Heading(p, Euler.ToMatrix(Set(present.Rotation), p.Order));
            case ChannelName.Scale:
                var wanted = Set(present.Scale);
                return p with { Scale = p.Scale.Times(new(wanted.X / present.Scale.X, wanted.Y / present.Scale.Y, wanted.Z / present.Scale.Z)) };
            default:
                return Sized(draft, node, present.Scale);
        }
    }

    private Placement Sized(SceneDraft draft, Node node, Vec3 scale)
    {
        var extent = Channels.Extent(draft, node);
        var present = extent.Times(scale.Map(Math.Abs));
        var wanted = Set(present);
        var stored = node.Placement.Scale;
        for (var i = 0; i < 3; i++)
        {
            if (Values[i] is null)
            {
                continue;
            }

            if (!(extent[i] > 1e-12))
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” has no extent along its {"XYZ"[i]}, so no size can be set there.");
            }

            stored = stored.With(i, stored[i] * (wanted[i] / present[i]));
        }

        return node.Placement with { Scale = stored };
    }
}
