using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// All that a node names: what carries it (of a mark what it follows), the collections that it belongs to, those that it
/// shares its shape with, and what its constraints look at.
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

    public static readonly IReadOnlyList<Reference<Node>> All = [Parent, Collections, Shares, Targets];

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

    /// <summary>Most nodes name nothing but their parent.</summary>
    private static bool IsInTreeOnly(Node node) => node.Kind.IsInTree() && node.Collections.IsEmpty && node.Shares is null && node.Constraints.IsEmpty;
}
