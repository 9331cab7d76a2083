using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.History;
using CalmPivot.Core.Json;
using CalmPivot.Core.Wire;

namespace CalmPivot.Server.Store;

/// <summary>The JSON that the store keeps: the core's own way. A row may have been written by a version that knew a field more.</summary>
internal static class StoreJson
{
    public static readonly JsonSerializerOptions Reading =
        new(WireJson.With(StoredTypes.Default)) { UnmappedMemberHandling = JsonUnmappedMemberHandling.Skip };

    public static readonly JsonSerializerOptions Writing = WireJson.With(StoredTypes.Default);

    public static T Read<T>(string json) => JsonSerializer.Deserialize(json, Reading.Of<T>())!;

    public static string Write<T>(T value) => WireJson.Write(value, Writing);
}

[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(FormerChange[]))]
[JsonSerializable(typeof(Write[]))]
[JsonSerializable(typeof(Described))]
internal sealed partial class StoredTypes : JsonSerializerContext;
