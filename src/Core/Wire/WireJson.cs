using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Wire;

/// <summary>
/// The one way in which JSON is read and written: page, API, store and push all take their options here, so that the same
/// text means the same everywhere. Two rules keep it so, and a law checks them on every type that travels: what may be left
/// out is a constructor parameter with a default (generated readers forget the initial values of other properties), and a
/// struct names its constructor (readers would pass it over).
/// <code>
/// var edits = WireJson.Read&lt;Edit[]&gt;(text);      // a Refusal where the text is none
/// var text = WireJson.Write(edits);
/// var options = WireJson.With(BridgeJson.Default); // the same options, with the types of another room
/// </code>
/// </summary>
public static class WireJson
{
    /// <summary>For what the core itself says.</summary>
    public static readonly JsonSerializerOptions Options = With();

    /// <summary>The options for the core's types and those of others; the core's come first.</summary>
    public static JsonSerializerOptions With(params IJsonTypeInfoResolver[] others)
    {
        var options = new JsonSerializerOptions();
        Configure(options, others);
        options.MakeReadOnly();
        return options;
    }

    /// <summary>Makes given options these: camelCase, nothing unknown, nothing missing, nothing twice.</summary>
    public static void Configure(JsonSerializerOptions options, params IJsonTypeInfoResolver[] others)
    {
        ArgumentNullException.ThrowIfNull(options);
        options.PropertyNamingPolicy = JsonNamingPolicy.CamelCase;
        options.PropertyNameCaseInsensitive = false;
        options.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull;
        options.NumberHandling = JsonNumberHandling.Strict;
        options.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
        options.AllowOutOfOrderMetadataProperties = true;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.AllowDuplicateProperties = false;
        options.Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping;
        options.Converters.Add(new Vec3Converter());
        options.Converters.Add(new AffineConverter());
        options.Converters.Add(new ShapeConverter());
        options.Converters.Add(new FiniteConverter());
        options.Converters.Add(new StorableConverter());
        options.TypeInfoResolver = JsonTypeInfoResolver.Combine([CoreJson.Default, .. others]).WithAddedModifier(NoGaps.Check);
    }

    /// <summary>Reads a text.</summary>
    /// <exception cref="Refusal">not-understood, with what does not fit.</exception>
    public static T Read<T>(string json) => Read<T>(json, Options);

    /// <summary>Reads a text by options that were made here.</summary>
    /// <exception cref="Refusal">not-understood, with what does not fit.</exception>
    public static T Read<T>(string json, JsonSerializerOptions options)
    {
        try
        {
            return JsonSerializer.Deserialize(json, options.Of<T>()) ?? throw new JsonException("There is nothing.");
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

    public static string Write<T>(T value) => Write(value, Options);

    public static string Write<T>(T value, JsonSerializerOptions options) => JsonSerializer.Serialize(value, options.Of<T>());

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
