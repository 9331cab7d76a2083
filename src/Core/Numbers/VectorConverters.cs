using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Numbers;

/// <summary>Three numbers in brackets.</summary>
public sealed class Vec3Converter : JsonConverter<Vec3>
{
    public override Vec3 Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        Span<double> n = stackalloc double[3];
        Arrays.Read(ref reader, n);
        return new(n[0], n[1], n[2]);
    }

    public override void Write(Utf8JsonWriter writer, Vec3 value, JsonSerializerOptions options) =>
        Arrays.Write(writer, [value.X, value.Y, value.Z]);
}

/// <summary>Sixteen numbers in brackets, column-major.</summary>
public sealed class AffineConverter : JsonConverter<Affine>
{
    public override Affine Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        Span<double> n = stackalloc double[16];
        Arrays.Read(ref reader, n);
        return Affine.From(n);
    }

    public override void Write(Utf8JsonWriter writer, Affine value, JsonSerializerOptions options) =>
        Arrays.Write(writer, value.ToArray());
}

/// <summary>An axis by its letter, or as a direction.</summary>
public sealed class AxisConverter : JsonConverter<Vec3>
{
    private static readonly Vec3Converter Direction = new();

    public override Vec3 Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.String)
        {
            return Direction.Read(ref reader, typeToConvert, options);
        }

        return reader.GetString() switch
        {
            "x" => Vec3.UnitX,
            "y" => Vec3.UnitY,
            "z" => Vec3.UnitZ,
            _ => throw new JsonException("An axis is x, y, z or three numbers."),
        };
    }

    public override void Write(Utf8JsonWriter writer, Vec3 value, JsonSerializerOptions options)
    {
        if (value == Vec3.UnitX || value == Vec3.UnitY || value == Vec3.UnitZ)
        {
            writer.WriteStringValue(value == Vec3.UnitX ? "x" : value == Vec3.UnitY ? "y" : "z");
            return;
        }

        Direction.Write(writer, value, options);
    }
}
