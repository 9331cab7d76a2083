using System.Text.Json;
using System.Text.Json.Serialization;

namespace CalmPivot.Core.Json;

/// <summary>Words of an enumeration as the API writes them: camelCase, and no numbers.</summary>
public sealed class CamelCase<T>() : JsonStringEnumConverter<T>(JsonNamingPolicy.CamelCase, allowIntegerValues: false)
    where T : struct, Enum;

/// <summary>Words of an enumeration as they stand in the code, and no numbers.</summary>
public sealed class AsNamed<T>() : JsonStringEnumConverter<T>(namingPolicy: null, allowIntegerValues: false)
    where T : struct, Enum;

internal static class Arrays
{
    public static void Read(ref Utf8JsonReader reader, scoped Span<double> into)
    {
        if (reader.TokenType != JsonTokenType.StartArray)
        {
            throw new JsonException($"{into.Length} numbers in brackets belong here.");
        }

        for (var i = 0; i < into.Length; i++)
        {
            // 1e999 would arrive as infinity without an error.
            if (!reader.Read() || reader.TokenType != JsonTokenType.Number || !double.IsFinite(into[i] = reader.GetDouble() + 0.0))
            {
                throw new JsonException($"{into.Length} finite numbers in brackets belong here.");
            }
        }

        if (!reader.Read() || reader.TokenType != JsonTokenType.EndArray)
        {
            throw new JsonException($"{into.Length} numbers in brackets belong here, not more.");
        }
    }

    public static void Write(Utf8JsonWriter writer, ReadOnlySpan<double> numbers)
    {
        writer.WriteStartArray();
        foreach (var number in numbers)
        {
            writer.WriteNumberValue(number);
        }

        writer.WriteEndArray();
    }
}
