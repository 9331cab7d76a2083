using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Edits;

/// <summary>What happens from one copy to the next: one edit or several, written without the nodes that they are of.</summary>
public sealed class RepeatsConverter : JsonConverter<IReadOnlyList<Edit>>
{
    public override IReadOnlyList<Edit> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var given = JsonNode.Parse(ref reader);
        return given is JsonArray several ? [.. several.Select(one => Read(one, options))] : [Read(given, options)];
    }

    public override void Write(Utf8JsonWriter writer, IReadOnlyList<Edit> value, JsonSerializerOptions options)
    {
        writer.WriteStartArray();
        foreach (var edit in value)
        {
            var written = JsonSerializer.SerializeToNode(edit, options.Of<Edit>())!.AsObject();
            written.Remove("nodes");
            written.WriteTo(writer);
        }

        writer.WriteEndArray();
    }

    private static Edit Read(JsonNode? given, JsonSerializerOptions options)
    {
        if (given is not JsonObject edit || edit.ContainsKey("nodes"))
        {
            throw new JsonException("A step from copy to copy is an edit without nodes.");
        }

        // An object of its own, since the kind of an edit is looked for first.
        var whole = new JsonObject(edit.Select(p => KeyValuePair.Create(p.Key, p.Value?.DeepClone()))) { ["nodes"] = new JsonArray() };
        return whole.Deserialize(options.Of<Edit>()) ?? throw new JsonException("A step from copy to copy is an edit.");
    }
}
