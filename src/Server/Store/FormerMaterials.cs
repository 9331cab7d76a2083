using System.Text.Json;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>
/// Materials as former versions kept them: in each node, and so in each step that wrote one. Each becomes the material whose id is the hash of what it
/// says, as which nodes and steps that still say it in full are read; a rule's text becomes the materials that it means.
/// </summary>
internal static class FormerMaterials
{
    /// <summary>All that a scene's nodes and steps say in full, each once.</summary>
    public static async Task<List<MaterialChoice>> Of(NpgsqlConnection connection, string id, long scene, List<string>? former)
    {
        Dictionary<string, MaterialChoice> found = [];
        foreach (var json in former ?? [])
        {
            Gather(json, found);
        }

        await Each("select body from nodes where scene = @scene", r => Packed.TextOf(r.GetFieldValue<byte[]>(0)), ("scene", scene));
        await Each("select body from log where scene = @scene order by revision", r => Packed.TextOf(r.GetFieldValue<byte[]>(0)), ("scene", scene));
        await Each("select change::text from former_steps where scene_id = @id order by number", r => r.GetString(0), ("id", id));
        return [.. found.Values];

        async Task Each(string query, Func<NpgsqlDataReader, string> text, (string, object) parameter)
        {
            // Row by row: a history may be long.
            await connection.Rows(query, r => { Gather(text(r), found); return 0; }, parameter);
        }
    }

    /// <param name="written">What is to be stored: new materials, and collections with other rules.</param>
    public static List<Entity> With(List<Entity> all, List<MaterialChoice> found, out List<Entity> written)
    {
        var taken = all.Select(e => e.Id).ToHashSet();
        var materials = found.Where(choice => !taken.Contains(choice.Id)).Select((choice, i) => new Material(choice.Id, Core.Edits.Rename.Nearest(choice.Said!.Name, choice.Said.Surface.Color.Nearest), i + 1) { Surface = choice.Said.Surface }).ToList();
        var scene = new SceneDocument("", "", "m", 0, materials, Demo.NoGeometries.Instance);
        var ruled = all.OfType<Collection>().Where(c => c.Rule?.Material is not null).Select(c => c with { Rule = c.Rule!.Resolved(scene) }).ToList();
        written = [.. materials, .. ruled];
        var now = ruled.ToDictionary(c => c.Id);
        return [.. all.Select(e => now.GetValueOrDefault(e.Id) ?? e), .. materials];
    }

    private static void Gather(string json, Dictionary<string, MaterialChoice> found)
    {
        if (json.Contains("\"material", StringComparison.Ordinal))
        {
            using var document = JsonDocument.Parse(json);
            Gather(document.RootElement, found);
        }
    }

    private static void Gather(JsonElement json, Dictionary<string, MaterialChoice> found)
    {
        if (json.ValueKind == JsonValueKind.Array)
        {
            foreach (var item in json.EnumerateArray())
            {
                Gather(item, found);
            }
        }
        else if (json.ValueKind == JsonValueKind.Object)
        {
            foreach (var property in json.EnumerateObject())
            {
                if (property is { Name: "material", Value.ValueKind: JsonValueKind.Object })
                {
                    Add(property.Value, found);
                }
                else if (property is { Name: "materials", Value.ValueKind: JsonValueKind.Array })
                {
                    foreach (var item in property.Value.EnumerateArray().Where(item => item.ValueKind == JsonValueKind.Object))
                    {
                        Add(item, found);
                    }
                }
                else
                {
                    Gather(property.Value, found);
                }
            }
        }
    }

    private static void Add(JsonElement json, Dictionary<string, MaterialChoice> found)
    {
        if (json.Deserialize(StoreJson.Reading.Of<MaterialChoice>()) is { } choice)
        {
            found.TryAdd(choice.Id, choice);
        }
    }
}
