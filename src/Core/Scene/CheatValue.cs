using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace CalmPivot.Core.Scene;

/// <summary>
/// The value of one channel: numbers, a word, or both (angles with their order). In JSON <c>1.5</c>, <c>[1,2,3]</c>, <c>true</c>, <c>"#FFCC88"</c> or
/// <c>{"angles":[0,90,0],"order":"XYZ"}</c>.
/// </summary>
[JsonConverter(typeof(CheatValueConverter))]
public sealed record CheatValue(ImmutableArray<double> Numbers, string? Word = null)
{
    /// <summary>Without minus zeros, as numbers are stored.</summary>
    public ImmutableArray<double> Numbers { get; init => field = Plain(value); } = Plain(Numbers);

    /// <summary>What a channel holds that has a value or none.</summary>
    public static readonly CheatValue Nothing = new([], "none");

    private const string On = "on";
    private const string Off = "off";

    public static CheatValue Of(double number) => new([number]);

    public static CheatValue Of(double? number) => number is { } some ? Of(some) : Nothing;

    public static CheatValue Of(bool on) => new([], on ? On : Off);

    public static CheatValue Of(string word) => new([], word);

    private static ImmutableArray<double> Plain(ImmutableArray<double> numbers)
    {
        foreach (var number in numbers)
        {
            if (number == 0 && double.IsNegative(number))
            {
                return [.. numbers.Select(n => n + 0.0)];
            }
        }

        return numbers;
    }

    public double Number => Numbers[0];

    public double? NumberOrNothing => Numbers.IsEmpty ? null : Numbers[0];

    public bool IsOn => Word == On;

    public bool IsSwitch => Numbers.IsEmpty && Word is On or Off;

    /// <summary>Whether two are the same for an artist: numbers count as changed beyond 1e-12 of their size. Source: model.md, Shots.</summary>
    public bool IsAbout(CheatValue other)
    {
        ArgumentNullException.ThrowIfNull(other);
        if (Word != other.Word || Numbers.Length != other.Numbers.Length)
        {
            return false;
        }

        for (var i = 0; i < Numbers.Length; i++)
        {
            if (!(Math.Abs(Numbers[i] - other.Numbers[i]) <= 1e-12 * Math.Max(1, Math.Abs(Numbers[i]))))
            {
                return false;
            }
        }

        return true;
    }

    public bool Equals(CheatValue? other) => other is not null && Word == other.Word && Numbers.AsSpan().SequenceEqual(other.Numbers.AsSpan());

    public override string ToString() => Word ?? string.Join(' ', Numbers);

    public override int GetHashCode() => HashCode.Combine(Word, Numbers.Length, Numbers.IsEmpty ? 0 : Numbers[0]);

    internal sealed class CheatValueConverter : JsonConverter<CheatValue>
    {
        /// <summary>The offset of what rides on something: a whole matrix.</summary>
        private const int Most = 16;

        /// <summary>An id, or surroundings with their picture.</summary>
        private const int MostWord = 300;

        public override CheatValue Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            switch (reader.TokenType)
            {
                case JsonTokenType.True or JsonTokenType.False:
                    return Of(reader.GetBoolean());
                case JsonTokenType.Number:
                    return Of(Finite(ref reader));
                case JsonTokenType.String when reader.GetString() is { Length: <= MostWord } word and not (On or Off):
                    return Of(word);
                case JsonTokenType.StartArray:
                    return new(All(ref reader));
                case JsonTokenType.StartObject:
                    return Angles(ref reader);
                default:
                    throw new JsonException("A number, numbers in brackets, a switch or a word belongs here.");
            }
        }

        public override void Write(Utf8JsonWriter writer, CheatValue value, JsonSerializerOptions options)
        {
            ArgumentNullException.ThrowIfNull(writer);
            ArgumentNullException.ThrowIfNull(value);
            if (value.Word is { } word && value.Numbers.IsEmpty)
            {
                if (value.IsSwitch)
                {
                    writer.WriteBooleanValue(value.IsOn);
                }
                else
                {
                    writer.WriteStringValue(word);
                }
            }
            else if (value.Word is not null)
            {
                writer.WriteStartObject();
                writer.WritePropertyName("angles");
                Json.Arrays.Write(writer, value.Numbers.AsSpan());
                writer.WriteString("order", value.Word);
                writer.WriteEndObject();
            }
            else if (value.Numbers.Length == 1)
            {
                writer.WriteNumberValue(value.Numbers[0]);
            }
            else
            {
                Json.Arrays.Write(writer, value.Numbers.AsSpan());
            }
        }

        private static CheatValue Angles(ref Utf8JsonReader reader)
        {
            (ImmutableArray<double>? angles, string? order) = (null, null);
            while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
            {
                var isAngles = reader.ValueTextEquals("angles"u8);
                reader.Read();
                if (isAngles && reader.TokenType == JsonTokenType.StartArray)
                {
                    angles = All(ref reader);
                }
                else
                {
                    order = reader.TokenType == JsonTokenType.String ? reader.GetString() : throw new JsonException("Angles and their order belong here.");
                }
            }

            return angles is { Length: 3 } three && Enum.TryParse<Numbers.EulerOrder>(order, out _) && order!.Length == 3
                ? new(three, order)
                : throw new JsonException("Three angles and their order belong here.");
        }

        private static ImmutableArray<double> All(ref Utf8JsonReader reader)
        {
            var all = ImmutableArray.CreateBuilder<double>();
            while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
            {
                all.Add(reader.TokenType == JsonTokenType.Number && all.Count < Most ? Finite(ref reader) : throw new JsonException($"At most {Most} numbers belong here."));
            }

            return all.ToImmutable();
        }

        private static double Finite(ref Utf8JsonReader reader) => reader.GetDouble() is var number && double.IsFinite(number)
            ? number
            : throw new JsonException("A finite number belongs here.");
    }
}
