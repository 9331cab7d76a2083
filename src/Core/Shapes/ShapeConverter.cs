using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Shapes;

/// <summary>A shape as its type and all its own parameters; those that it has not are never said, whatever else is.</summary>
public sealed class ShapeConverter : JsonConverter<Shape>
{
    public override Shape Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var patch = JsonSerializer.Deserialize(ref reader, options.Of<ShapePatch>()) ?? new();
        return Shape.Default(patch.Type ?? throw new JsonException("A shape needs a type.")).With(patch);
    }

    /// <summary>The same options for a shape: without what it has not.</summary>
    private static readonly ConditionalWeakTable<JsonSerializerOptions, JsonSerializerOptions> Without = [];

    public override void Write(Utf8JsonWriter writer, Shape value, JsonSerializerOptions options)
    {
        var own = options.DefaultIgnoreCondition == JsonIgnoreCondition.WhenWritingNull
            ? options
            : Without.GetValue(options, o => new(o) { DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull });
        JsonSerializer.Serialize(writer, value.ToPatch(), own.Of<ShapePatch>());
    }
}
