using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace CalmPivot.Core.Json;

public static class TypeInfos
{
    /// <summary>How a type is read and written.</summary>
    public static JsonTypeInfo<T> Of<T>(this JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        return (JsonTypeInfo<T>)options.GetTypeInfo(typeof(T));
    }
}
