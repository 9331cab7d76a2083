using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Edits;

/// <summary>What of a placement is set.</summary>
[JsonConverter(typeof(CamelCase<ChannelName>))]
public enum ChannelName
{
    Position,
    Rotation,
    Scale,

    /// <summary>The extent of the bounds instead of the factor.</summary>
    Size,
}

public static class ChannelNames
{
    public static string Word(this ChannelName channel) => channel switch
    {
        ChannelName.Position => "position",
        ChannelName.Rotation => "rotation",
        ChannelName.Scale => "scale",
        _ => "size",
    };
}
