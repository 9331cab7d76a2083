using System.Collections.Immutable;
using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A named set of nodes for seeing and picking. Nodes say that they belong to it, or belong by its rule; it carries nothing and
/// has no place. Collections lie in collections.
/// <code>
/// var set = new Collection("set", "Scaffold", Parent: null, Rank: 1) { Rule = new(Name: "Rod*") };
/// </code>
/// </summary>
public sealed record Collection(string Id, string Name, string? Parent, double Rank, Switches Switches) : Arranged(Id, Name, Parent, Rank, Switches)
{
    public Collection(string id, string name, string? parent = null, double rank = 0)
        : this(id, name, parent, rank, Switches.Default)
    {
    }

    /// <summary>What makes nodes members by themselves; null: only what was put into it.</summary>
    public Rule? Rule { get; init; }

    public override IFields Fields => CollectionFields.Table;

    public override string List => Lists.OfCollections(Parent);

    public override IEnumerable<string> Names() => CollectionFields.References.SelectMany(r => r.Of(this));

    public override Entity? Without(Predicate<string> gone) => CollectionFields.References
        .Where(reference => reference != CollectionFields.Around && !reference.Outlives)
        .Aggregate(this, (collection, reference) => reference.Led(collection, id => gone(id) ? null : id));
}

/// <summary>The fields of a collection, each declared once, and all that it names.</summary>
public static class CollectionFields
{
    public static readonly Fields<Collection> Table = new(
        new Field<Collection, string>("name", Parts.Name, Touches.Rows, c => c.Name, (c, v) => c with { Name = v }) { Required = true, Sum = Numbers.Digests.Add },
        new Field<Collection, string?>("parent", Parts.Seat, Touches.Outline | Touches.Members, c => c.Parent, (c, v) => c with { Parent = v }),
        new Field<Collection, double>("rank", Parts.Seat, Touches.Outline | Touches.Members, c => c.Rank, (c, v) => c with { Rank = v }) { Alike = NodeFields.SameBits, Sum = Numbers.Digests.Add },
        new Field<Collection, Switches>("switches", Parts.Switches, Touches.Rows, c => c.Switches, (c, v) => c with { Switches = v }) { Usual = _ => false },
        new Field<Collection, Label>("label", Parts.Label, Touches.Rows, c => c.Label, (c, v) => c with { Label = v }) { Usual = v => v == Label.None },
        new Field<Collection, Rule?>("rule", Parts.Rule, Touches.Rows | Touches.Members, c => c.Rule, (c, v) => c with { Rule = v }) { Usual = v => v is null });

    public static readonly Reference<Collection> Around = new(
        "parent",
        c => c.Parent is { } around ? [around] : [],
        (c, to) => c.Parent is { } around ? c with { Parent = to(around) } : c);

    /// <summary>A rule without it would let in more than was meant, so it goes as a whole.</summary>
    public static readonly Reference<Collection> Under = new(
        "rule.under",
        c => c.Rule?.Under is { } under ? [under] : [],
        (c, to) => c.Rule is { Under: { } under } rule ? c with { Rule = to(under) is { } other ? rule with { Under = other } : null } : c)
    { Outlives = true };

    /// <summary>One of several materials that goes is left out; a rule without any would let in more than was meant.</summary>
    public static readonly Reference<Collection> OfMaterials = new(
        "rule.materials",
        c => c.Rule?.Materials is { } all ? all : [],
        (c, to) => c.Rule is { Materials: { } all } rule
            ? c with { Rule = all.Select(to).OfType<string>().Distinct().ToImmutableArray() is { Length: > 0 } some ? rule with { Materials = some } : null }
            : c);

    public static readonly IReadOnlyList<Reference<Collection>> References = [Around, Under, OfMaterials];
}
