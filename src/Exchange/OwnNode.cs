using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Exchange;

/// <summary>What our own files say of a node beyond glTF. What is as usual is left out.</summary>
/// <param name="Material">Of a controller, whose mesh does not go out.</param>
/// <param name="Baked">The mesh has facets or rounding that it was not made with; these are now part of it.</param>
internal sealed record OwnNode(
    string Id,
    PlacementPatch Placement,
    ShapePatch? Shape,
    Normals? Normals,
    Label? Label,
    Camera? Camera,
    Light? Light,
    Switches? Switches,
    bool? Baked,
    IReadOnlyList<string>? Collections,
    string? Shares,
    IReadOnlyList<Constraint>? Constraints,
    string? Material)
{
    private static readonly JsonSerializerOptions Options = WireJson.With(OwnJson.Default);

    public static OwnNode From(Node node)
    {
        var p = node.Placement;
        return new(
            node.Id,
            new()
            {
                Position = p.Position,
                Rotation = p.Rotation,
                Order = p.Order,
                Scale = p.Scale,
                Shear = p.Shear,
                Pivot = p.Pivot,
                PivotTurn = p.PivotTurn,
                Takes = new(p.Takes.Position, p.Takes.Rotation, p.Takes.Scale),
            },
            node.Shape?.ToPatch(),
            node.Shape is null ? null : node.Normals,
            node.Label == Core.Scene.Label.None ? null : node.Label,
            node.Camera,
            node.Light,
            node.Switches == Core.Scene.Switches.Default ? null : node.Switches,
            node.Shape is null && node.Normals is not null ? true : null,
            node.Collections.IsEmpty ? null : node.Collections,
            node.Shares,
            node.Constraints.IsEmpty ? null : node.Constraints,
            node.IsController && node.MaterialOf(0) is { Length: > 0 } material ? material : null);
    }

    /// <summary>Puts it into the extras of a node, where it becomes a text only when that is written: there may be hundreds of thousands.</summary>
    /// <param name="stopped">Looked at in that moment, so that whoever writes the file can be stopped in the middle of it.</param>
    public void Into(SharpGLTF.Schema2.Node node, CancellationToken stopped)
    {
        // What is put into extras afterwards is not copied by the library.
        node.Extras = new JsonObject();
        ((JsonObject)node.Extras)[OwnForm.Key] = JsonValue.Create(new Written(this, stopped), Later);
    }

    /// <summary>A node that is going to be written.</summary>
    private sealed record Written(OwnNode Node, CancellationToken Stopped);

    private static readonly JsonTypeInfo<Written> Later = JsonMetadataServices.CreateValueInfo<Written>(Options, new Writer());

    private sealed class Writer : JsonConverter<Written>
    {
        private static readonly JsonTypeInfo<OwnNode> Form = (JsonTypeInfo<OwnNode>)Options.GetTypeInfo(typeof(OwnNode));

        public override Written Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, Written value, JsonSerializerOptions options)
        {
            value.Stopped.ThrowIfCancellationRequested();
            JsonSerializer.Serialize(writer, value.Node, Form);
        }
    }
}

[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(OwnNode))]
internal sealed partial class OwnJson : JsonSerializerContext;
