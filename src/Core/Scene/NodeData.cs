using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>A node as the API writes it: its id, its place among its siblings, and its <see cref="NodeFields">fields</see>.</summary>
/// <param name="Index">The place among the siblings when the node was written.</param>
[JsonConverter(typeof(NodeDataConverter))]
public sealed record NodeData(Node Node, int Index = 0)
{
    [JsonIgnore]
    public string Id => Node.Id;

    /// <summary>The nodes of a scene, parents before children, each with its place among its siblings.</summary>
    public static IEnumerable<NodeData> All(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var next = new Dictionary<string, int>();
        foreach (var node in scene.Branch(null))
        {
            var parent = node.Parent ?? "";
            var index = next.GetValueOrDefault(parent);
            next[parent] = index + 1;
            yield return new(node, index);
        }
    }

    /// <summary>The collections of a scene, outer ones first; the collection around one stands as its parent.</summary>
    public static IEnumerable<NodeData> Collected(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.AllCollections().Select(c => new NodeData(c, scene.Children(Lists.Of(c)).ToList().IndexOf(c.Id)));
    }

    /// <summary>The marks of a scene, in their order; what a mark follows stands as its parent.</summary>
    public static IEnumerable<NodeData> Marks(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.Marks.Select((id, i) => new NodeData(scene.Find(id)!, i));
    }
}

/// <summary>Reads and writes nodes by the table of their fields.</summary>
public sealed class NodeDataConverter : JsonConverter<NodeData>
{
    private static readonly Node Blank = Node.Bare("", "", NodeKind.Group, null, Placement.Default);

    public override NodeData Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        if (reader.TokenType != JsonTokenType.StartObject)
        {
            throw new JsonException("A node belongs here.");
        }

        var (node, read) = (Blank, 0ul);
        (string? id, int? index) = (null, null);
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var name = reader.GetString()!;
            reader.Read();
            if (name == "id" && id is null)
            {
                id = JsonSerializer.Deserialize(ref reader, options.Of<string>()) ?? throw new JsonException("The id is missing.");
            }
            else if (name == "index" && index is null)
            {
                index = reader.GetInt32();
            }
            else if (!NodeFields.Table.Read(name, ref reader, ref node, ref read, options))
            {
                if (options.UnmappedMemberHandling == JsonUnmappedMemberHandling.Disallow)
                {
                    throw new JsonException($"A node has no {name}, or not twice.");
                }

                reader.Skip();
            }
        }

        NodeFields.Table.CheckRead(read);
        return new(node with { Id = id ?? throw new JsonException("The id is missing.") }, index ?? 0);
    }

    public override void Write(Utf8JsonWriter writer, NodeData value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        ArgumentNullException.ThrowIfNull(value);
        writer.WriteStartObject();
        writer.WriteString("id", value.Node.Id);
        writer.WriteNumber("index", value.Index);
        NodeFields.Table.Write(writer, value.Node, options);
        writer.WriteEndObject();
    }
}
