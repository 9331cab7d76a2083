using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Wire;

/// <summary>The JSON forms of edits and nodes, the same in the page, in the API and in the store.</summary>
[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase,
    DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    AllowOutOfOrderMetadataProperties = true,
    RespectNullableAnnotations = true,
    RespectRequiredConstructorParameters = true,
    AllowDuplicateProperties = false,
    Converters = [typeof(Vec3Converter), typeof(AffineConverter), typeof(ShapeConverter)])]
[JsonSerializable(typeof(Edit))]
[JsonSerializable(typeof(Edit[]))]
[JsonSerializable(typeof(NodeData))]
[JsonSerializable(typeof(NodeData[]))]
[JsonSerializable(typeof(CopiedNodes))]
[JsonSerializable(typeof(ShapePatch))]
[JsonSerializable(typeof(Normals))]
[JsonSerializable(typeof(Material[]))]
[JsonSerializable(typeof(string[]))]
[JsonSerializable(typeof(double[]))]
[JsonSerializable(typeof(Spaces.Space))]
public sealed partial class CoreJson : JsonSerializerContext
{
    /// <summary>Reads an edit.</summary>
    /// <exception cref="Refusal">not-understood, with what does not fit.</exception>
    public static T Read<T>(string json, System.Text.Json.Serialization.Metadata.JsonTypeInfo<T> type)
    {
        try
        {
            return JsonSerializer.Deserialize(json, type) ?? throw new JsonException("There is nothing.");
        }
        catch (JsonException e)
        {
            throw NotUnderstood(e);
        }
        catch (NotSupportedException e) when (IsWithoutKind(e))
        {
            throw WithoutKind();
        }
    }

    /// <summary>True for what the reader says of an edit without "do", or of a space or point without "kind".</summary>
    public static bool IsWithoutKind(Exception e) => e is NotSupportedException { Source: "System.Text.Json" };

    public static Refusal WithoutKind() =>
        new(Refusals.NotUnderstood, "An edit needs its \"do\", a space or a point its \"kind\". Check the call against /openapi/v1.json.");

    public static Refusal NotUnderstood(JsonException e)
    {
        ArgumentNullException.ThrowIfNull(e);
        var place = string.IsNullOrEmpty(e.Path) || e.Path == "$" ? "" : $" at {e.Path.TrimStart('$', '.')}";
        return new(Refusals.NotUnderstood, $"This was not understood{place}. Check its fields against /openapi/v1.json.");
    }
}
