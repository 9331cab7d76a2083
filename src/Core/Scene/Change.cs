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
