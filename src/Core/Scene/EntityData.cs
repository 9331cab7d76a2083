using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>Anything that a scene holds, as the API writes it: its kind, its id, and the fields of its kind.</summary>
/// <param name="Index">The place in its list when it was written.</param>
[JsonConverter(typeof(EntityDataConverter))]
public sealed record EntityData(Entity Entity, int Index = 0)
{
    /// <summary>The collections of a scene, outer ones first; the collection around one stands as its parent.</summary>
    public static IEnumerable<EntityData> Collected(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.AllCollections().Select(c => new EntityData(c, scene.Children(c.List).ToList().IndexOf(c.Id)));
    }
}

/// <summary>What is gone, by its kind.</summary>
public sealed record GoneEntity(string Kind, string Id);

/// <summary>The kinds of entities beside nodes: the one registration that a new kind needs.</summary>
public static class EntityKinds
{
    public static readonly IReadOnlyList<EntityKind> All =
    [
        new("material", new Material("", ""), MaterialFields.Table, scene => scene.AllMaterials()),
        new("collection", new Collection("", ""), CollectionFields.Table, scene => scene.AllCollections()),
        new("timing", Timing.Usual, TimingFields.Table, scene => scene.FindAny(Timing.Single) is { } timing ? [timing] : []),
        new("surroundings", Surroundings.Usual, SurroundingsFields.Table, scene => scene.FindAny(Surroundings.Single) is { } surroundings ? [surroundings] : []),
        new("shot", new Shot("", ""), ShotFields.Table, scene => scene.AllShots()),
        new("cheat", Cheat.Blank, CheatFields.Table, scene => scene.Shots.SelectMany(scene.CheatsOf)),
    ];

    private static readonly string[] OfNodes = [.. Enum.GetNames<NodeKind>().Select(JsonNamingPolicy.CamelCase.ConvertName)];

    /// <summary>The word of the kind of something; of a node that of its own kind.</summary>
    public static string WordOf(Entity entity) =>
        entity is Node node ? OfNodes[(int)node.Kind] : All.First(k => k.Blank.GetType() == entity.GetType()).Word;
}

/// <summary>A kind of entity.</summary>
/// <param name="Word">What the API calls it.</param>
/// <param name="Blank">One with nothing said of it, for reading.</param>
/// <param name="Of">All of a scene, in an order in which what is named comes first.</param>
public sealed record EntityKind(string Word, Entity Blank, IReadFields Fields, Func<IScene, IEnumerable<Entity>> Of);

/// <summary>Reads and writes things by the tables of their fields.</summary>
internal static class FieldsJson
{
    /// <param name="kindWord">The word of its kind, where that is no field of it.</param>
    public static (Entity Entity, int Index) Read(ref Utf8JsonReader reader, Entity blank, IReadFields fields, string? kindWord, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.StartObject)
        {
            throw new JsonException("An object belongs here.");
        }

        var (entity, read) = (blank, 0ul);
        (string? id, int? index, var kinds) = (null, null, 0);
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
            else if (name == "kind" && kindWord is not null && kinds++ == 0)
            {
                _ = reader.TrySkip();
            }
            else if (!fields.Read(name, ref reader, ref entity, ref read, options))
            {
                if (options.UnmappedMemberHandling == JsonUnmappedMemberHandling.Disallow)
                {
                    throw new JsonException($"There is no {name} here, or not twice.");
                }

                _ = reader.TrySkip();
            }
        }

        fields.CheckRead(read);
        return (entity with { Id = id ?? throw new JsonException("The id is missing.") }, index ?? 0);
    }

    /// <summary>Some parts of a thing; all else stays blank.</summary>
    public static Entity ReadParts(ref Utf8JsonReader reader, Entity blank, IReadFields fields, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.StartObject)
        {
            throw new JsonException("An object belongs here.");
        }

        var (entity, read) = (blank, 0ul);
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var name = reader.GetString()!;
            reader.Read();
            if (!fields.Read(name, ref reader, ref entity, ref read, options))
            {
                _ = reader.TrySkip();
            }
        }

        return entity;
    }

    public static void Write(Utf8JsonWriter writer, Entity entity, string? kindWord, int index, JsonSerializerOptions options)
    {
        writer.WriteStartObject();
        writer.WriteString("id", entity.Id);
        if (kindWord is not null)
        {
            writer.WriteString("kind", kindWord);
        }

        writer.WriteNumber("index", index);
        entity.Fields.Write(writer, entity, PartsOf.Every, options);
        writer.WriteEndObject();
    }
}

/// <summary>Nodes alone.</summary>
public sealed class NodeDataConverter : JsonConverter<NodeData>
{
    internal static readonly Node Blank = Node.Bare("", "", NodeKind.Group, null, Placement.Default);

    public override NodeData Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var (entity, index) = FieldsJson.Read(ref reader, Blank, NodeFields.Table, null, options);
        return new((Node)entity, index);
    }

    public override void Write(Utf8JsonWriter writer, NodeData value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(value);
        FieldsJson.Write(writer, value.Node, null, value.Index, options);
    }
}

/// <summary>Anything, told apart by its kind. A former version wrote collections as nodes: what they had as such is passed over.</summary>
public sealed class EntityDataConverter : JsonConverter<EntityData>
{
    public override EntityData Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var ahead = reader;
        var word = KindOf(ref ahead);
        var (entity, index) = EntityKinds.All.FirstOrDefault(k => k.Word == word) is { } kind
            ? FieldsJson.Read(ref reader, kind.Blank, kind.Fields, word, options)
            : FieldsJson.Read(ref reader, NodeDataConverter.Blank, NodeFields.Table, null, options);
        return new(entity, index);
    }

    public override void Write(Utf8JsonWriter writer, EntityData value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(value);
        FieldsJson.Write(writer, value.Entity, value.Entity is Node ? null : EntityKinds.WordOf(value.Entity), value.Index, options);
    }

    private static string? KindOf(ref Utf8JsonReader reader)
    {
        if (reader.TokenType != JsonTokenType.StartObject)
        {
            return null;
        }

        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var found = reader.ValueTextEquals("kind"u8);
            reader.Read();
            if (found)
            {
                return reader.TokenType == JsonTokenType.String ? reader.GetString() : null;
            }

            _ = reader.TrySkip();
        }

        return null;
    }
}
