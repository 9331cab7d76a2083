using System.Collections.Immutable;
using System.Text.Json.Serialization;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<NodeKind>))]
public enum NodeKind
{
    Shape,
    Mesh,
    Group,
    Light,
    Camera,

    /// <summary>A named point with directions; not in the tree. Its parent, where it has one, is what it follows.</summary>
    Mark,
}

/// <summary>Whether the node is on in the working view and in the final picture, and whether it is locked.</summary>
public readonly record struct Switches(bool Working, bool Final, bool Locked)
{
    public static readonly Switches Default = new(true, true, false);
}

/// <summary>
/// Anything in the tree. Its position among its siblings is the order of <see cref="Rank"/>, so that inserting a node
/// writes that node alone.
/// </summary>
/// <param name="Materials">One for a shape; for a mesh one for each slot that its geometry names.</param>
public sealed record Node(
    string Id,
    string Name,
    NodeKind Kind,
    string? Parent,
    double Rank,
    Placement Placement,
    Shape? Shape,
    string? Geometry,
    ImmutableArray<Material> Materials,
    Camera? Camera,
    Light? Light,
    Switches Switches)
{
    public const int MostNameLength = 500;

    /// <summary>Normals that replace those the geometry was made with; null: as made.</summary>
    public Normals? Normals { get; init; }

    public bool Equals(Node? other) =>
        other is not null && Id == other.Id && Name == other.Name && Kind == other.Kind && Parent == other.Parent
        && BitConverter.DoubleToInt64Bits(Rank) == BitConverter.DoubleToInt64Bits(other.Rank)
        && Placement.Equals(other.Placement) && Equals(Shape, other.Shape) && Geometry == other.Geometry
        && Materials.AsSpan().SequenceEqual(other.Materials.AsSpan())
        && Equals(Normals, other.Normals) && Equals(Camera, other.Camera) && Equals(Light, other.Light) && Switches == other.Switches;

    public override int GetHashCode() => HashCode.Combine(Id, Name, Parent, Placement);
}
