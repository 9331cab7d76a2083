using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>What several nodes have in common: each value where it is equal for all, nothing where they differ.</summary>
public sealed record CommonChannels(double?[] Position, double?[] Rotation, double?[] Scale, double?[] Size, EulerOrder? Order)
{
    /// <param name="size">Whether sizes are wanted; they ask for the bounds of every node.</param>
    public static CommonChannels Of(SceneDraft draft, IReadOnlyList<string> nodes, bool world, bool size)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(nodes);
        var first = true;
        var common = new double?[12];
        EulerOrder? order = null;
        foreach (var id in nodes)
        {
            if (draft.Find(id) is not { } node)
            {
                continue;
            }

            var c = Channels.Of(draft, node, world, size ? null : Vec3.One);
            double[] values = [.. c.Position.ToArray(), .. c.Rotation.ToArray(), .. c.Scale.ToArray(), .. c.Size.ToArray()];
            for (var i = 0; i < values.Length; i++)
            {
                common[i] = first || (common[i] is { } same && Math.Abs(same - values[i]) <= 1e-9 * (1 + Math.Abs(same))) ? common[i] ?? values[i] : null;
            }

            order = first || order == node.Placement.Order ? node.Placement.Order : null;
            first = false;
            if (order is null && common.All(v => v is null))
            {
                break;
            }
        }

        return new(common[..3], common[3..6], common[6..9], common[9..], order);
    }
}
