using System.Collections.Immutable;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Exchange;

/// <summary>A selection that was given a name.</summary>
public sealed record KeptSelection(string Name, IReadOnlyList<string> Nodes);

/// <summary>What stands beside the tree and concerns the whole scene, in the extras of glTF's scene: unit, marks, collections, named selections.</summary>
internal static class OwnScene
{
    private const int MostSelections = 500;

    public static JsonObject Write(IScene scene, IReadOnlyList<KeptSelection> selections)
    {
        var own = new JsonObject { ["unit"] = scene.Unit };
        void Add(string name, JsonNode?[] all)
        {
            if (all.Length > 0)
            {
                own[name] = new JsonArray(all);
            }
        }

        Add("marks", [.. scene.Marks.Select(id => OwnForm.Write(new NodeData(scene.Find(id)!)))]);
        Add("collections", [.. scene.AllCollections().Select(c => OwnForm.Write(new EntityData(c)))]);
        OwnShots.Write(scene, own);
        Add("selections", [.. selections.Select(s => new JsonObject { ["name"] = s.Name, ["nodes"] = new JsonArray([.. s.Nodes.Select(n => (JsonNode?)n)]) })]);
        return own;
    }

    public static string? UnitOf(JsonObject own) =>
        own["unit"] is JsonValue value && value.TryGetValue<string>(out var unit) && Unit.OfScenes.Contains(unit) ? unit : null;

    /// <summary>The collections, with fresh ids; those that are damaged are left out, and said.</summary>
    /// <param name="ids">Leads from the ids in the file to those in here; the new ones are added.</param>
    public static List<Collection> Collections(JsonObject own, Dictionary<string, string> ids, ISet<string> notes)
    {
        var found = new List<Collection>();
        foreach (var collection in Sound(own, "collections", notes).OfType<Collection>())
        {
            // Outer ones come first, so that no loop can be closed.
            var parent = collection.Parent is { } outer && ids.TryGetValue(outer, out var known) && found.Exists(c => c.Id == known) ? known : null;
            found.Add(collection with { Id = ids[collection.Id] = Fresh(), Parent = parent });
        }

        string? Led(string named)
        {
            if (!ids.TryGetValue(named, out var known))
            {
                notes.Add("Rules of collections whose object or material is not in the file were left out.");
            }

            return known;
        }

        return found.ConvertAll(c => CollectionFields.OfMaterials.Led(CollectionFields.Under.Led(c, Led), Led));
    }

    /// <summary>The marks, with fresh ids; those that are damaged are left out, and said.</summary>
    /// <param name="ids">Leads from the ids in the file to those in here; the new ones are added.</param>
    public static List<Node> Marks(JsonObject own, Dictionary<string, string> ids, ISet<string> notes)
    {
        var found = new List<Node>();
        foreach (var mark in Sound(own, "marks", notes).OfType<Node>())
        {
            var source = mark.Parent is null ? null : ids.GetValueOrDefault(mark.Parent);
            if (source is null && mark.Parent is not null)
            {
                notes.Add("Marks whose object is not in the file were left out.");
                continue;
            }

            found.Add(mark with { Id = ids[mark.Id] = Fresh(), Parent = source });
        }

        return found;
    }

    public static List<KeptSelection> Selections(JsonObject own, Dictionary<string, string> ids)
    {
        var found = new List<KeptSelection>();
        foreach (var selection in (own["selections"] as JsonArray ?? []).OfType<JsonObject>().Take(MostSelections))
        {
            var nodes = (selection["nodes"] as JsonArray ?? []).OfType<JsonValue>()
                .Select(v => v.TryGetValue<string>(out var id) ? ids.GetValueOrDefault(id) : null).OfType<string>().ToList();
            if (selection["name"] is JsonValue name && name.TryGetValue<string>(out var text) && FittingOrNull(text) is { } fitting
                && nodes.Count > 0 && !found.Exists(s => s.Name == fitting))
            {
                found.Add(new(fitting, nodes));
            }
        }

        return found;
    }

    /// <summary>What a group or collection says of itself, as far as it fits.</summary>
    public static Label LabelOf(JsonNode? json) => OwnForm.Checked<Label>(json, label => label.Checked()) ?? Label.None;

    /// <summary>What is whole and fits: collections, or marks with nothing but their place.</summary>
    private static IEnumerable<Entity> Sound(JsonObject own, string name, ISet<string> notes)
    {
        var seen = new HashSet<string>();
        foreach (var item in own[name] as JsonArray ?? [])
        {
            var entity = OwnForm.Checked<EntityData>(Known(item), data =>
            {
                Rename.Fitting(data.Entity.Name);
                (data.Entity as Node)?.Placement.Check(data.Entity.Name);
                (data.Entity as Arranged)?.Label.Checked();
                (data.Entity as Collection)?.Rule?.Checked();
                return data;
            })?.Entity;
            var fits = name == "marks" ? entity is Node { Kind: NodeKind.Mark } : entity is Collection;
            if (entity is null || !fits || !double.IsFinite(entity.Rank) || !seen.Add(entity.Id))
            {
                notes.Add($"Damaged {name} were left out.");
                continue;
            }

            entity = entity with { Name = Rename.Fitting(entity.Name) };
            yield return entity is Node mark
                ? Node.Bare(mark.Id, mark.Name, NodeKind.Mark, mark.Parent, mark.Placement) with { Rank = mark.Rank, Switches = mark.Switches.On(NodeKind.Mark) }
                : entity;
        }
    }

    /// <summary>A former version wrote collections with all that nodes have; what they have not is passed over.</summary>
    private static JsonNode? Known(JsonNode? item)
    {
        if (item is not JsonObject given || (given["kind"] as JsonValue)?.ToString() != "collection")
        {
            return item;
        }

        HashSet<string> known = ["id", "kind", "index", .. CollectionFields.Table.All.Select(f => f.Name)];
        return new JsonObject(given.Where(p => known.Contains(p.Key)).Select(p => KeyValuePair.Create(p.Key, p.Value?.DeepClone())));
    }

    private static string? FittingOrNull(string name)
    {
        try
        {
            return Rename.Fitting(name);
        }
        catch (Refusal)
        {
            return null;
        }
    }

    internal static string Fresh() => Guid.NewGuid().ToString("N");
}
