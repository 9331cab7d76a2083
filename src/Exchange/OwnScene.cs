using System.Collections.Immutable;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
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
        Add("collections", [.. scene.AllCollections().Select(c => OwnForm.Write(new NodeData(c)))]);
        Add("selections", [.. selections.Select(s => new JsonObject { ["name"] = s.Name, ["nodes"] = new JsonArray([.. s.Nodes.Select(n => (JsonNode?)n)]) })]);
        return own;
    }

    public static string? UnitOf(JsonObject own) =>
        own["unit"] is JsonValue value && value.TryGetValue<string>(out var unit) && Unit.OfScenes.Contains(unit) ? unit : null;

    /// <summary>The marks and collections, with fresh ids; those that are damaged are left out, and said.</summary>
    /// <param name="ids">Leads from the ids in the file to those in here; the new ones are added.</param>
    public static List<Node> BesideTree(JsonObject own, Dictionary<string, string> ids, ISet<string> notes)
    {
        var found = new List<Node>();
        foreach (var collection in Nodes(own, "collections", NodeKind.Collection, notes))
        {
            // Outer ones come first, so that no loop can be closed.
            var parent = collection.Parent is { } outer && ids.TryGetValue(outer, out var known) && found.Exists(c => c.Id == known) ? known : null;
            found.Add(collection with { Id = ids[collection.Id] = Fresh(), Parent = parent, Placement = Placement.Default });
        }

        found = found.ConvertAll(c => NodeReferences.Under.Led(c, under =>
        {
            if (!ids.TryGetValue(under, out var known))
            {
                notes.Add("Rules of collections whose object is not in the file were left out.");
            }

            return known;
        }));
        foreach (var mark in Nodes(own, "marks", NodeKind.Mark, notes))
        {
            var source = mark.Parent is null ? null : ids.GetValueOrDefault(mark.Parent);
            if (source is null && mark.Parent is not null)
            {
                notes.Add("Marks whose object is not in the file were left out.");
                continue;
            }

            found.Add(mark with { Id = ids[mark.Id] = Fresh(), Parent = source, Rule = null, Label = Label.None });
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

    private static IEnumerable<Node> Nodes(JsonObject own, string name, NodeKind kind, ISet<string> notes)
    {
        var seen = new HashSet<string>();
        foreach (var item in own[name] as JsonArray ?? [])
        {
            var node = OwnForm.Checked<NodeData>(item, data =>
            {
                Rename.Fitting(data.Node.Name);
                data.Node.Placement.Check(data.Node.Name);
                data.Node.Label.Checked();
                data.Node.Rule?.Checked();
                return data;
            })?.Node;
            if (node is null || node.Kind != kind || !double.IsFinite(node.Rank) || !seen.Add(node.Id))
            {
                notes.Add(kind == NodeKind.Mark ? "Damaged marks were left out." : "Damaged collections were left out.");
                continue;
            }

            yield return Node.Bare(node.Id, Rename.Fitting(node.Name), kind, node.Parent, node.Placement) with
            {
                Rank = node.Rank,
                Switches = node.Switches,
                Label = node.Label,
                Rule = node.Rule,
            };
        }
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
