using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Where up is for something that aims: along an axis of the world or of its parent, toward a node, or (with none of them) by
/// nothing: it then turns as little as it can. In JSON an object with the one that holds, or the word "least".
/// </summary>
/// <param name="Point">The place toward which it is up, in the frame of the one that is named; null: its pivot.</param>
[JsonConverter(typeof(UpConverter))]
public sealed record Up(SignedAxis? World = null, SignedAxis? Parent = null, string? Toward = null, Vec3? Point = null)
{
    public Vec3? Point { get; init => field = value?.Plain(); } = Point?.Plain();

    public static readonly Up Least = new();
}

/// <summary>Reads and writes what says where up is.</summary>
public sealed class UpConverter : JsonConverter<Up>
{
    public override Up Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
        {
            return reader.ValueTextEquals("least"u8) ? Up.Least : throw Unknown();
        }

        if (reader.TokenType != JsonTokenType.StartObject || !reader.Read() || reader.TokenType != JsonTokenType.PropertyName)
        {
            throw Unknown();
        }

        var name = reader.GetString();
        reader.Read();
        var text = JsonSerializer.Deserialize(ref reader, options.Of<string>()) ?? throw Unknown();
        var up = name switch
        {
            "world" => new Up(World: SignedAxis.Parse("up", text)),
            "parent" => new Up(Parent: SignedAxis.Parse("up", text)),
            "toward" => new Up(Toward: text),
            _ => throw Unknown(),
        };
        if (reader.Read() && up.Toward is not null && reader.TokenType == JsonTokenType.PropertyName && reader.ValueTextEquals("point"u8))
        {
            reader.Read();
            var point = JsonSerializer.Deserialize(ref reader, options.Of<Vec3>());
            up = point.Length < 1e15 ? up with { Point = point } : throw Unknown();
            reader.Read();
        }

        return reader.TokenType == JsonTokenType.EndObject ? up : throw Unknown();
    }

    public override void Write(Utf8JsonWriter writer, Up value, JsonSerializerOptions options)
    {
        if (value == Up.Least)
        {
            writer.WriteStringValue("least");
            return;
        }

        writer.WriteStartObject();
        var (name, text) = value switch
        {
            { World: { } axis } => ("world", axis.ToString()),
            { Parent: { } axis } => ("parent", axis.ToString()),
            _ => ("toward", value.Toward!),
        };
        writer.WriteString(name, text);
        if (value is { Toward: not null, Point: { } point })
        {
            writer.WritePropertyName("point");
            JsonSerializer.Serialize(writer, point, options.Of<Vec3>());
        }

        writer.WriteEndObject();
    }

    private static JsonException Unknown() =>
        new("Up is {\"world\":\"+y\"}, {\"parent\":\"+y\"}, {\"toward\":an id, \"point\":of it} or \"least\".");
}
