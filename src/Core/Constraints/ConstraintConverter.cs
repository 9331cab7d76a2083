using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Constraints;

/// <summary>A constraint as its kind and all its own fields; those that it has not are never said.</summary>
public sealed class ConstraintConverter : JsonConverter<Constraint>
{
    private static readonly ConditionalWeakTable<JsonSerializerOptions, JsonSerializerOptions> Without = [];

    public override Constraint Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var patch = JsonSerializer.Deserialize(ref reader, options.Of<ConstraintPatch>()) ?? throw new JsonException("A constraint belongs here.");
        return patch.Id is { Length: > 0 and <= 64 } ? Constraint.Made(patch) : throw new JsonException("A constraint needs an id of at most 64 characters.");
    }

    public override void Write(Utf8JsonWriter writer, Constraint value, JsonSerializerOptions options)
    {
        var own = options.DefaultIgnoreCondition == JsonIgnoreCondition.WhenWritingNull
            ? options
            : Without.GetValue(options, o => new(o) { DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull });
        JsonSerializer.Serialize(writer, value.ToPatch(), own.Of<ConstraintPatch>());
    }
}
