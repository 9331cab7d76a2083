using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.History;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Server.Store;

/// <summary>A node before and after a step, as kept in the history.</summary>
public sealed record StoredChange(NodeData? Before = null, NodeData? After = null)
{
    public static StoredChange[] From(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. change.Nodes.Select(n => new StoredChange(
            n.Before is null ? null : new NodeData(n.Before),
            n.After is null ? null : new NodeData(n.After)))];
    }

    public static Change ToChange(IEnumerable<StoredChange> stored) =>
        new([.. stored.Select(s => new NodeChange((s.Before ?? s.After)!.Id, s.Before?.Node, s.After?.Node))]);
}

/// <summary>The JSON that the store keeps: the core's own way. A row may have been written by a version that knew a field more.</summary>
internal static class StoreJson
{
    private static readonly JsonSerializerOptions Reading =
        new(WireJson.With(StoredTypes.Default)) { UnmappedMemberHandling = JsonUnmappedMemberHandling.Skip };

    private static readonly JsonSerializerOptions Writing = WireJson.With(StoredTypes.Default);

    public static T Read<T>(string json) => JsonSerializer.Deserialize(json, Reading.Of<T>())!;

    public static string Write<T>(T value) => WireJson.Write(value, Writing);
}

[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(StoredChange[]))]
[JsonSerializable(typeof(Write[]))]
internal sealed partial class StoredTypes : JsonSerializerContext;
