using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// The three true axes of a node's rotation order: the outer one fixed in the parent, the middle one turned by the outer,
/// the inner one by both. They are unit but not orthogonal, and only for turning: a turn changes just that angle.
/// </summary>
public sealed record ChannelsSpace : Space
{
    [JsonIgnore]
    public override bool PerNode => true;

    public override Mat3 Axes(SceneDraft draft, Node node, Node lead)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        node = draft.AsItStands(node);
        var channels = draft.FrameOf(node).Basis * Euler.Channels(node.Placement.Rotation, node.Placement.Order);
        return new(channels.X.Unit(), channels.Y.Unit(), channels.Z.Unit());
    }

    internal static Refusal OnlyForTurning() =>
        new(Refusals.NotUnderstood, "The rotation channels' axes are for turning only. Choose other axes for this.");
}
