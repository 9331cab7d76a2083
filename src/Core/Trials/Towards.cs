using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Trials;

/// <summary>
/// A value typed <em>to</em> instead of an amount typed <em>by</em>: it sets the stored channel that the sentence's axis
/// corresponds to, where there is exactly one.
/// </summary>
public static class Towards
{
    /// <param name="axes">The axes that the value is for; for a rotation, its own axis counts.</param>
    /// <param name="mode">Set, or multiply what is there.</param>
    /// <exception cref="Refusal">not-understood: no single channel corresponds.</exception>
    public static Edit Value(IScene scene, Edit template, double value, IReadOnlyList<bool> axes, AmountMode mode = AmountMode.Set)
    {
        ArgumentNullException.ThrowIfNull(axes);
        var draft = new SceneDraft(scene);
        double?[] values = [.. axes.Select(on => on ? value : (double?)null)];
        switch (template)
        {
            case Move { Space: ParentSpace } move:
                return new SetChannel(move.Nodes, ChannelName.Position, values, mode);
            case Move { Space: WorldSpace } move:
                return new SetChannel(move.Nodes, ChannelName.Position, values, mode, ReadIn.World);
            case Scale { Space: OwnSpace, KeepVolume: null } scale:
                return new SetChannel(scale.Nodes, ChannelName.Scale, values, mode);
            case Rotate { About: AboutOwn } rotate when rotate.Nodes.Count > 0 && ChannelOf(draft, draft.Get(rotate.Nodes[^1]), rotate) is { } channel:
                var angles = new double?[3];
                angles[channel.Index] = mode == AmountMode.Set ? value * channel.Sign : value;
                return new SetChannel(rotate.Nodes, ChannelName.Rotation, angles, mode);
            default:
                throw new Refusal(Refusals.NotUnderstood, template switch
                {
                    Move => "A place can be typed along its parent's or the world's axes. Choose those, or type an amount by.",
                    Scale => "A size can be typed to along its own axes, without keeping the volume. Choose those, or type a factor by.",
                    Rotate => "Along these axes no single angle is stored. Choose its rotation channels', or type an amount by.",
                    _ => "Type an amount by.",
                });
        }
    }

    /// <summary>The rotation channel that a turn about an axis changes by itself, and whether it counts the same way round.</summary>
    internal static (int Index, int Sign)? ChannelOf(SceneDraft draft, Node node, Rotate rotate)
    {
        var channels = Euler.Channels(node.Placement.Rotation, node.Placement.Order);
        Vec3 inParent;
        switch (rotate.Space)
        {
            case ChannelsSpace:
                var index = Enumerable.Range(0, 3).FirstOrDefault(i => rotate.Axis == Vec3.Axis(i), -1);
                return index < 0 ? null : (index, 1);
            case OwnSpace:
                inParent = node.Placement.R * rotate.Axis.Unit();
                break;
            case ParentSpace:
                inParent = rotate.Axis.Unit();
                break;
            case WorldSpace when node.Parent is null:
                inParent = rotate.Axis.Unit();
                break;
            default:
                return null;
        }

        for (var i = 0; i < 3; i++)
        {
            if (channels.Column(i).Cross(inParent).Length < 1e-9)
            {
                return (i, channels.Column(i).Dot(inParent) < 0 ? -1 : 1);
            }
        }

        return null;
    }
}
