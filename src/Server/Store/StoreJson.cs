using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Server.Store;

/// <summary>A node or an entity before and after a step, as kept in the history.</summary>
public sealed record StoredChange(EntityData? Before = null, EntityData? After = null)
{
    public static StoredChange[] From(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. change.All.Select(n => new StoredChange(
            n.Before is null ? null : new EntityData(n.Before),
            n.After is null ? null : new EntityData(n.After)))];
    }

    public static Change ToChange(IEnumerable<StoredChange> stored) =>
        Change.Of(stored.Select(s => new EntityChange((s.Before ?? s.After)!.Entity.Id, s.Before?.Entity, s.After?.Entity)));
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
