using System.Collections.Immutable;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Wire;

/// <summary>What a node looks like, apart from where it stands.</summary>
/// <param name="Lies">How pictures lie on it, where not by its own coordinates: alike for nodes on which they lie alike.</param>
public sealed record Look(Shape? Shape, string? Geometry, Normals? Normals, ImmutableArray<string> Materials, string? Lies)
{
    /// <param name="worldOf">Where a node stands.</param>
    public static Look Of(IScene scene, Node node, Func<string, Affine> worldOf)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        ArgumentNullException.ThrowIfNull(worldOf);
        return new(node.Shape, node.Geometry, node.Normals, node.Materials, node.Materials.IsEmpty ? null : Laying.Of(scene, node, worldOf(node.Id))?.Key);
    }

    public bool Equals(Look? other) =>
        other is not null && Equals(Shape, other.Shape) && Geometry == other.Geometry && Equals(Normals, other.Normals)
        && Lies == other.Lies && Materials.AsSpan().SequenceEqual(other.Materials.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Shape, Geometry, Materials.IsEmpty ? null : Materials[0]);
}

/// <summary>The looks of many nodes. Thousands share a few, so each is said once.</summary>
/// <param name="Of">Which of the looks each of the asked nodes has, in their order; −1: it is not there.</param>
public sealed record Looks(IReadOnlyList<Look> Distinct, IReadOnlyList<int> Of)
{
    public static Looks From(IScene scene, IEnumerable<string> ids, Func<string, Affine> worldOf)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(ids);
        var (known, distinct) = (new Dictionary<Look, int>(), new List<Look>());
        var of = new List<int>();
        foreach (var id in ids)
        {
            if (scene.Find(id) is not { } node)
            {
                of.Add(-1);
                continue;
            }

            var look = Look.Of(scene, node, worldOf);
            if (!known.TryGetValue(look, out var at))
            {
                known[look] = at = distinct.Count;
                distinct.Add(look);
            }

            of.Add(at);
        }

        return new(distinct, of);
    }
}
