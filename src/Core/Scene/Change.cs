using System.Collections.Immutable;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Scene;

/// <summary>A node before and after an edit; null where it did not exist.</summary>
public readonly record struct NodeChange(string Id, Node? Before, Node? After)
{
    public static implicit operator EntityChange(NodeChange change) => new(change.Id, change.Before, change.After);
}

/// <summary>
/// What an edit did to the scene: every node it wrote, as it was and as it became, and whatever it wrote of other kinds.
/// <code>
/// var change = draft.ToChange();
/// document.Apply(change);            // done
/// document.Apply(change.Reversed()); // and taken back
/// </code>
/// </summary>
public sealed record Change(IReadOnlyList<NodeChange> Nodes)
{
    /// <summary>What was written beside nodes: collections.</summary>
    public IReadOnlyList<EntityChange> Entities { get; init; } = [];

    /// <summary>Geometry that the edit made, by its hash; it is kept before a node can use it.</summary>
    public IReadOnlyDictionary<string, Geometry> Made { get; init; } = ImmutableDictionary<string, Geometry>.Empty;

    public static readonly Change None = new([]);

    public bool IsEmpty => Nodes.Count == 0 && Entities.Count == 0;

    /// <summary>Everything that was written, of whatever kind.</summary>
    public IEnumerable<EntityChange> All => Nodes.Select(n => (EntityChange)n).Concat(Entities);

    /// <summary>A change of things of all kinds.</summary>
    public static Change Of(IEnumerable<EntityChange> all)
    {
        var (nodes, entities) = (new List<NodeChange>(), new List<EntityChange>());
        foreach (var change in all)
        {
            if ((change.After ?? change.Before) is Node)
            {
                nodes.Add(new(change.Id, (Node?)change.Before, (Node?)change.After));
            }
            else
            {
                entities.Add(change);
            }
        }

        return new(nodes) { Entities = entities };
    }

    public Change Reversed() => Of(All.Select(n => new EntityChange(n.Id, n.After, n.Before)).Reverse());
}
