using System.Collections;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace CalmPivot.Core.Json;

/// <summary>Numbers that can be computed with: a text such as 1e999 reads as one that cannot.</summary>
public sealed class FiniteConverter : JsonConverter<double>
{
    public override double Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => Finite(ref reader);

    public override void Write(Utf8JsonWriter writer, double value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        writer.WriteNumberValue(value);
    }

    internal static double Finite(ref Utf8JsonReader reader)
    {
        // The reader says by itself where there is no number at all.
        var number = reader.TokenType == JsonTokenType.Number ? reader.GetDouble() : throw new JsonException("This is no number.");
        // Minus zero is none that is stored.
        return double.IsFinite(number) ? number + 0.0 : throw new JsonException("This number is too large to compute with.");
    }
}

/// <summary>Texts that can be stored: with no character of the number 0 in them.</summary>
public sealed class StorableConverter : JsonConverter<string>
{
    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Storable(reader.TokenType == JsonTokenType.String ? reader.GetString()! : throw new JsonException("This is no text."));

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        writer.WriteStringValue(value);
    }

    // Without these the keys of dictionaries can be neither read nor written in the page, where nothing else would do it.
    public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => Storable(reader.GetString()!);

    public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        writer.WritePropertyName(value);
    }

    private static string Storable(string text) =>
        text.Contains('\0', StringComparison.Ordinal) ? throw new JsonException("A text holds a character that cannot be stored.") : text;
}

/// <summary>
/// Lists without gaps: the reader checks that a field is not null, but not what stands in a list. Only lists of numbers in
/// which some may be left out hold nulls.
/// </summary>
internal static class NoGaps
{
    public static void Check(JsonTypeInfo type)
    {
        if (type.Kind != JsonTypeInfoKind.Object)
        {
            return;
        }

        var lists = type.Properties.Where(p => p.Get is not null && p.PropertyType != typeof(string) && IsList(p.PropertyType)).ToArray();
        if (lists.Length == 0)
        {
            return;
        }

        var before = type.OnDeserialized;
        type.OnDeserialized = read =>
        {
            before?.Invoke(read);
            foreach (var list in lists)
            {
                if (HasGap(list.Get!(read)))
                {
                    throw new JsonException($"The list {list.Name} has nothing where something belongs.");
                }
            }
        };
    }

    internal static bool IsList(Type type) =>
        typeof(IEnumerable).IsAssignableFrom(Nullable.GetUnderlyingType(type) ?? type) && type != typeof(byte[]) && !typeof(IEnumerable<double?>).IsAssignableFrom(type);

    internal static bool HasGap(object? list)
    {
        if (list is not IEnumerable items || items is string or byte[] or double[])
        {
            return false;
        }

        foreach (var item in items)
        {
            if (item is null || HasGap(item))
            {
                return true;
            }
        }

        return false;
    }
}
