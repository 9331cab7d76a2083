using System.Collections.Immutable;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Scene;

/// <summary>A node before and after an edit; null where it did not exist.</summary>
public readonly record struct NodeChange(string Id, Node? Before, Node? After);

/// <summary>What an edit did to the scene: every node it wrote, as it was and as it became.</summary>
public sealed record Change(IReadOnlyList<NodeChange> Nodes)
{
    /// <summary>Geometry that the edit made, by its hash; it is kept before a node can use it.</summary>
    public IReadOnlyDictionary<string, Geometry> Made { get; init; } = ImmutableDictionary<string, Geometry>.Empty;

    public static readonly Change None = new([]);

    public bool IsEmpty => Nodes.Count == 0;

    public Change Reversed() => new([.. Nodes.Select(n => new NodeChange(n.Id, n.After, n.Before)).Reverse()]);
}

/// <summary>The parts of a node that an edit can write, and that an undo puts back, each by itself.</summary>
[Flags]
public enum NodeFields
{
    None = 0,
    Existence = 1,
    Name = 2,
    Seat = 4,
    Placement = 8,
    Shape = 16,
    Material = 32,
    Lens = 64,
    Switches = 128,
    Collections = 256,
    Label = 512,
    Rule = 1024,
}

public static class NodeFieldsOf
{
    public static readonly IReadOnlyList<NodeFields> All = [.. Enum.GetValues<NodeFields>().Where(f => f != NodeFields.None)];

    public static readonly NodeFields Every = All.Aggregate(NodeFields.None, (every, field) => every | field);

    /// <summary>Which parts differ between two states of a node.</summary>
    public static NodeFields Written(this NodeChange change)
    {
        var (_, before, after) = change;
        if (before is null || after is null)
        {
            return before is null && after is null ? NodeFields.None : NodeFields.Existence;
        }

        var fields = NodeFields.None;
        void Mark(bool same, NodeFields field) => fields |= same ? NodeFields.None : field;
        Mark(before.Name == after.Name, NodeFields.Name);
        Mark(before.Parent == after.Parent && before.Rank.Equals(after.Rank), NodeFields.Seat);
        Mark(before.Placement == after.Placement, NodeFields.Placement);
        Mark(before.Kind == after.Kind && Equals(before.Shape, after.Shape) && before.Geometry == after.Geometry && Equals(before.Normals, after.Normals) && before.Shares == after.Shares, NodeFields.Shape);
        Mark(before.Materials.AsSpan().SequenceEqual(after.Materials.AsSpan()), NodeFields.Material);
        Mark(Equals(before.Camera, after.Camera) && Equals(before.Light, after.Light), NodeFields.Lens);
        Mark(before.Switches == after.Switches, NodeFields.Switches);
        Mark(before.Collections.AsSpan().SequenceEqual(after.Collections.AsSpan()), NodeFields.Collections);
        Mark(before.Label == after.Label, NodeFields.Label);
        Mark(before.Rule == after.Rule, NodeFields.Rule);
        return fields;
    }

    /// <summary>The node with the named parts taken from another state of it.</summary>
    public static Node Taking(this Node node, NodeFields fields, Node from)
    {
        bool Has(NodeFields field) => (fields & field) != 0;
        return node with
        {
            Name = Has(NodeFields.Name) ? from.Name : node.Name,
            Parent = Has(NodeFields.Seat) ? from.Parent : node.Parent,
            Rank = Has(NodeFields.Seat) ? from.Rank : node.Rank,
            Placement = Has(NodeFields.Placement) ? from.Placement : node.Placement,
            Kind = Has(NodeFields.Shape) ? from.Kind : node.Kind,
            Shape = Has(NodeFields.Shape) ? from.Shape : node.Shape,
            Geometry = Has(NodeFields.Shape) ? from.Geometry : node.Geometry,
            Normals = Has(NodeFields.Shape) ? from.Normals : node.Normals,
            Materials = Has(NodeFields.Material) ? from.Materials : node.Materials,
            Camera = Has(NodeFields.Lens) ? from.Camera : node.Camera,
            Light = Has(NodeFields.Lens) ? from.Light : node.Light,
            Switches = Has(NodeFields.Switches) ? from.Switches : node.Switches,
            Shares = Has(NodeFields.Shape) ? from.Shares : node.Shares,
            Collections = Has(NodeFields.Collections) ? from.Collections : node.Collections,
            Label = Has(NodeFields.Label) ? from.Label : node.Label,
            Rule = Has(NodeFields.Rule) ? from.Rule : node.Rule,
        };
    }
}
