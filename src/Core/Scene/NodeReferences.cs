using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// All that a node names: what carries it (of a mark what it follows), the collections that it belongs to, those that it
/// shares its shape with, what its constraints look at, its materials, and what it is focused on.
/// </summary>
public static class NodeReferences
{
    public static readonly Reference<Node> Parent = new(
        "parent",
        n => n.Parent is { } parent ? [parent] : [],
        (n, to) => n.Parent is { } parent ? n with { Parent = to(parent) } : n);

    public static readonly Reference<Node> Collections = new(
        "collections",
        n => n.Collections,
        (n, to) => n.Collections.IsEmpty ? n : n with { Collections = [.. n.Collections.Select(to).OfType<string>().Distinct()] });

    /// <summary>Nodes that share name no one of them, but a word that they have in common: its <see cref="Sharing(string)"/>.</summary>
    public static readonly Reference<Node> Shares = new(
        "shares",
        n => n.Shares is { } word ? [Sharing(word)] : [],
        (n, to) => n.Shares is { } word ? n with { Shares = to(Sharing(word))?[1..] } : n);

    /// <summary>What its constraints look at; an entry that cannot be without is taken off.</summary>
    public static readonly Reference<Node> Targets = new(
        "constraints",
        n => n.Constraints.SelectMany(c => c.Names),
        (n, to) => n.Constraints.IsEmpty ? n : n with { Constraints = [.. n.Constraints.Select(c => c.Led(to)).OfType<Constraint>()] });

    /// <summary>A slot whose material goes has none.</summary>
    public static readonly Reference<Node> Materials = new(
        "materials",
        n => n.Materials.Where(id => id.Length > 0),
        (n, to) => n.Materials.IsEmpty ? n : n with { Materials = Node.Trimmed([.. n.Materials.Select(id => id.Length == 0 ? id : to(id) ?? Material.None)]) });

    /// <summary>What a camera is sharp at; when that goes it is sharp as far away as it says.</summary>
    public static readonly Reference<Node> Focus = new(
        "camera.focusOn",
        n => n.Camera?.FocusOn is { } id ? [id] : [],
        (n, to) => n.Camera is { FocusOn: { } id } lens ? n with { Camera = lens with { FocusOn = to(id) } } : n);

    public static readonly IReadOnlyList<Reference<Node>> All = [Parent, Collections, Shares, Targets, Materials, Focus];

    /// <summary>What stands for a word of sharing where ids stand; no id begins so.</summary>
    public static string Sharing(string word) => "\u0002" + word;

    /// <summary>The same node with all that it names led to others.</summary>
    /// <param name="to">Where each leads, by the reference it stands in; null: it is left out.</param>
    public static Node Led(Node node, Func<Reference<Node>, string, string?> to)
    {
        foreach (var reference in All)
        {
            node = reference.Led(node, id => to(reference, id));
        }

        return node;
    }

    /// <summary>The ids that something names beside its place in the tree, which the tree itself knows.</summary>
    internal static IEnumerable<string> BesideTree(Entity entity) => entity is not Node node ? entity.Names()
        : IsInTreeOnly(node) ? []
        : All.Where(r => !(r == Parent && node.Kind.IsInTree())).SelectMany(r => r.Of(node));

    /// <summary>Whether two states of a node surely name the same, as where it was only moved; asked for each node of a drag.</summary>
    internal static bool NameTheSame(Entity? before, Entity? after) =>
        before is Node a && after is Node b && a.Kind == b.Kind && a.Parent == b.Parent && a.Shares == b.Shares
        && a.Collections == b.Collections && a.Constraints == b.Constraints && a.Materials == b.Materials
        && a.Camera?.FocusOn == b.Camera?.FocusOn;

    /// <summary>Most nodes name nothing but their parent.</summary>
    private static bool IsInTreeOnly(Node node) => node.Kind.IsInTree() && node.Collections.IsEmpty && node.Shares is null && node.Constraints.IsEmpty && node.Materials.IsEmpty && node.Camera?.FocusOn is null;
}
