using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What was written of one thing and nothing else of it: some parts, as they were and as they became. Undo and catching up need no more.
/// <code>
/// var parts = PartChange.Of(change);             // kept, or sent
/// document.Apply(PartChange.On(document, parts)); // done to a scene that stands where the change began
/// </code>
/// </summary>
/// <param name="Was">With the written parts only, all else blank; null: it was made.</param>
/// <param name="Is">The same after it; null: it was removed.</param>
[JsonConverter(typeof(PartChangeConverter))]
public sealed record PartChange(string Id, Parts Parts, Entity? Was, Entity? Is)
{
    public static PartChange[] Of(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. change.All.Select(one => new PartChange(one.Id, one.Written(), one.Before, one.After))];
    }

    /// <summary>A change in which things have the written parts only: enough for restoring, digests, and what was written.</summary>
    public static Change Sparse(IEnumerable<PartChange> parts) => Change.Of(parts.Select(p => new EntityChange(p.Id, p.Was, p.Is)));

    /// <summary>The whole change, in a scene as it stood before it.</summary>
    /// <exception cref="InvalidOperationException">The scene is another.</exception>
    public static Change On(IScene scene, IEnumerable<PartChange> parts)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Change.Of(parts.Select(p => On(scene.FindAny(p.Id), p)));
    }

    private static EntityChange On(Entity? present, PartChange part) =>
        present is null != part.Was is null ? throw new InvalidOperationException($"“{part.Id}” is not what this change was made on.")
        : new(part.Id, present, part.Is is null || present is null ? part.Is : present.Fields.Taking(present, part.Parts, part.Is));
}

/// <summary>Written as <c>{"id":…,"of":"collection","parts":["placement"],"was":{"placement":…},"is":{"placement":…}}</c>; of nodes <c>of</c> is left out.</summary>
public sealed class PartChangeConverter : JsonConverter<PartChange>
{
    public override PartChange Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.StartObject)
        {
            throw new JsonException("An object belongs here.");
        }

        (string? id, var blank, var fields) = (null, (Entity)NodeDataConverter.Blank, (IReadFields)NodeFields.Table);
        (var parts, Entity? was, Entity? @is) = (Parts.None, null, null);
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var name = reader.GetString()!;
            reader.Read();
            switch (name)
            {
                case "id":
                    id = reader.GetString();
                    break;
                case "of":
                    // Stands before what it is about.
                    var word = reader.GetString();
                    var kind = was is null && @is is null ? EntityKinds.All.FirstOrDefault(k => k.Word == word) : null;
                    (blank, fields) = kind is null ? throw new JsonException($"There is no {word} here.") : (kind.Blank, kind.Fields);
                    break;
                case "parts":
                    parts = PartsIn(ref reader);
                    break;
                case "was":
                    was = FieldsJson.ReadParts(ref reader, blank, fields, options);
                    break;
                case "is":
                    @is = FieldsJson.ReadParts(ref reader, blank, fields, options);
                    break;
                default:
                    throw new JsonException($"There is no {name} here.");
            }
        }

        return id is null || was is null && @is is null
            ? throw new JsonException("The id is missing, or what was written.")
            : new(id, parts, was is null ? null : was with { Id = id }, @is is null ? null : @is with { Id = id });
    }

    public override void Write(Utf8JsonWriter writer, PartChange value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        ArgumentNullException.ThrowIfNull(value);
        writer.WriteStartObject();
        writer.WriteString("id", value.Id);
        if ((value.Is ?? value.Was) is not (null or Node) and { } some)
        {
            writer.WriteString("of", EntityKinds.WordOf(some));
        }

        writer.WriteStartArray("parts");
        foreach (var word in value.Parts.Words())
        {
            writer.WriteStringValue(word);
        }

        writer.WriteEndArray();
        Write(writer, "was", value.Was, value.Parts, options);
        Write(writer, "is", value.Is, value.Parts, options);
        writer.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter writer, string name, Entity? entity, Parts parts, JsonSerializerOptions options)
    {
        if (entity is not null)
        {
            writer.WriteStartObject(name);
            entity.Fields.Write(writer, entity, parts, options);
            writer.WriteEndObject();
        }
    }

    private static Parts PartsIn(ref Utf8JsonReader reader)
    {
        var parts = Parts.None;
        if (reader.TokenType != JsonTokenType.StartArray)
        {
            throw new JsonException("A list belongs here.");
        }

        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
        {
            // A later version may know a part more; what it wrote of it is passed over as well.
            parts |= PartsOf.Of(reader.GetString() ?? "");
        }

        return parts;
    }
}
