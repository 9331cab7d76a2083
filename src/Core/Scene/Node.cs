using System.Collections.Immutable;
using System.Text.Json.Serialization;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

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

/// <summary>How a node is drawn in the working view; the later one of two is the coarser.</summary>
[JsonConverter(typeof(CamelCase<DrawnAs>))]
public enum DrawnAs
{
    Full,
    Wire,
    Box,

    /// <summary>
    /// A controller: a shape drawn in lines, seen in the working view only, left out of pictures, of what is exported as meshes, and of the bounds of
    /// what carries it. It is so by itself: what rides on it is as it is.
    /// </summary>
    Controller,
}

/// <summary>Whether the node is on in the working view and in the final picture, whether it is locked, and how it is drawn.</summary>
[method: JsonConstructor]
public readonly record struct Switches(bool Working = true, bool Final = true, bool Locked = false, DrawnAs Drawn = DrawnAs.Full)
{
    public static readonly Switches Default = new(true, true, false);

    /// <summary>These on a node of the kind: only a shape is a controller; what stops being one is drawn in full.</summary>
    public Switches On(NodeKind kind) => Drawn == DrawnAs.Controller && kind != NodeKind.Shape ? this with { Drawn = DrawnAs.Full } : this;
}

/// <summary>What a group or a collection says of itself.</summary>
/// <param name="Color">#RRGGBB; null: none.</param>
/// <param name="Closed">A press on a member picks the group; a second press goes inside.</param>
public sealed record Label(string? Color = null, string? Note = null, bool Closed = false)
{
    public const int MostNoteLength = 5_000;

    public static readonly Label None = new();

    /// <exception cref="Refusal">not-understood, too-large.</exception>
    public Label Checked()
    {
        if (Color is not null)
        {
            Scene.Color.Check(Color);
        }

        return Note is not { Length: > MostNoteLength }
            ? this
            : throw new Refusal(Refusals.TooLarge, $"A note has at most {MostNoteLength} characters; this one has {Note.Length}. Shorten it.");
    }
}

/// <summary>
/// Anything in the tree. Its position among its siblings is the order of <see cref="Rank"/>, so that inserting a node
/// writes that node alone.
/// <code>
/// var group = Node.Bare("desk", "Desk", NodeKind.Group, parent: null, Placement.Default);
/// var moved = group with { Placement = group.Placement with { Position = new(0, 1, 0) } };
/// </code>
/// </summary>
/// <param name="Materials">Ids: one for a shape; for a mesh one for each slot that its geometry names, empty where the slot has none; those after the last are left out.</param>
public sealed record Node(
    string Id,
    string Name,
    NodeKind Kind,
    string? Parent,
    double Rank,
    Placement Placement,
    Shape? Shape,
    string? Geometry,
    ImmutableArray<string> Materials,
    Camera? Camera,
    Light? Light,
    Switches Switches) : Arranged(Id, Name, Parent, Rank, Switches)
{
    public const int MostNameLength = 500;

    /// <summary>A node with nothing but a place: a group, a mark.</summary>
    public static Node Bare(string id, string name, NodeKind kind, string? parent, Placement placement) =>
        new(id, name, kind, parent, 0, placement, null, null, [], null, null, Switches.Default);

    /// <summary>Normals that replace those the geometry was made with; null: as made.</summary>
    public Normals? Normals { get; init; }

    /// <summary>The collections that the node was put into, in the order of joining.</summary>
    public ImmutableArray<string> Collections { get; init; } = [];

    /// <summary>What nodes have in common that share their shape and surface; null: they are its own.</summary>
    public string? Shares { get; init; }

    /// <summary>The id of the material of a slot; empty: it has none.</summary>
    public string MaterialOf(int slot) => slot < Materials.Length ? Materials[slot] : Material.None;

    /// <summary>The same with another material in a slot; empty: none.</summary>
    public Node WithMaterial(int slot, string id)
    {
        var all = Materials;
        while (all.Length <= slot)
        {
            all = all.Add(Material.None);
        }

        return this with { Materials = Trimmed(all.SetItem(slot, id)) };
    }

    /// <summary>Materials of slots without those at the end that are none.</summary>
    public static ImmutableArray<string> Trimmed(ImmutableArray<string> materials)
    {
        var length = materials.Length;
        while (length > 0 && materials[length - 1].Length == 0)
        {
            length--;
        }

        return length == materials.Length ? materials : materials[..length];
    }

    /// <summary>By what it stands otherwise than it is placed, in their order.</summary>
    public ImmutableArray<Constraint> Constraints { get; init; } = [];

    public override IFields Fields => NodeFields.Table;

    public override string? List => Lists.Of(Kind, Parent);

    public override IEnumerable<string> Names() => NodeReferences.All.SelectMany(r => r.Of(this));

    public override Entity? Without(Predicate<string> gone) =>
        NodeReferences.Led(this, (reference, id) => reference != NodeReferences.Parent && !reference.Outlives && gone(id) ? null : id);

    public bool Equals(Node? other) =>
        ReferenceEquals(this, other) || (other is not null && Id == other.Id && NodeFields.Table.Same(this, other));

    public override int GetHashCode() => HashCode.Combine(Id, Name, Parent, Placement);
}

public static class Lenses
{
    extension(Node node)
    {
        /// <summary>It sees or shines, by its lens axes.</summary>
        public bool IsLens => node.Camera is not null || node.Light is not null;

        /// <summary>What its constraints go by.</summary>
        public Own ToOwn() => node.IsLens ? node.Placement.ToOwn() with { IsLens = true } : node.Placement.ToOwn();

        /// <summary>The axes that are pointed at something: its own ones, of a camera or a lamp those that it sees or shines by.</summary>
        /// <param name="linear">Of the world matrix by which it stands.</param>
        public Mat3 Pointers(Mat3 linear) => node.IsLens ? linear.LensAxes() : node.Placement.OwnAxes(linear);
    }
}

public static class Controllers
{
    extension(Node node)
    {
        /// <summary>Drawn in lines, for the hand only.</summary>
        public bool IsController => node is { Kind: NodeKind.Shape, Switches.Drawn: DrawnAs.Controller };
    }
}
