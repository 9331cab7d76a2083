using System.Text.Json.Serialization;
using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Server.Store;

/// <summary>A node before and after a step, as kept in the history.</summary>
public sealed record StoredChange(NodeData? Before, NodeData? After)
{
    public static StoredChange[] From(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. change.Nodes.Select(n => new StoredChange(
            n.Before is null ? null : NodeData.From(n.Before),
            n.After is null ? null : NodeData.From(n.After)))];
    }

    public static Change ToChange(IEnumerable<StoredChange> stored) =>
        new([.. stored.Select(s => new NodeChange((s.Before ?? s.After)!.Id, s.Before?.ToNode(), s.After?.ToNode()))]);
}

/// <summary>The JSON that the store keeps.</summary>
[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase,
    DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    AllowOutOfOrderMetadataProperties = true,
    Converters = [typeof(Vec3Converter), typeof(AffineConverter), typeof(ShapeConverter)])]
[JsonSerializable(typeof(NodeData))]
[JsonSerializable(typeof(Edit[]))]
[JsonSerializable(typeof(StoredChange[]))]
[JsonSerializable(typeof(Write[]))]
internal sealed partial class StoreJson : JsonSerializerContext;
