using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// What a view shows whole when it frames nodes: their bounds with all that rides on them, and their pivots. What has no
/// extent of its own (a lamp, a camera, a mark, an empty group) is framed as a thing of a sensible size.
/// </summary>
public static class Framing
{
    /// <summary>Half the size of a thing without extent where nothing in the scene has any; metres.</summary>
    private const double UsualHalf = 0.5;

    /// <summary>Else this share of the scene's extent.</summary>
    private const double Share = 0.04;

    /// <summary>The bounds of nodes with all that rides on them and their pivots, as they are: what is drawn about them.</summary>
    public static Bounds WithPivots(SceneDraft draft, IEnumerable<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(nodes);
        var bounds = Bounds.Empty;
        foreach (var node in nodes.Select(draft.Find).OfType<Node>())
        {
            bounds = bounds.With(Extents.OfBranch(draft, node, Affine.Identity)).With(draft.PivotOf(node));
        }

        return bounds;
    }

    /// <returns>Bounds along the world's axes; empty where none of the nodes stands anywhere.</returns>
    public static Bounds Of(SceneDraft draft, IEnumerable<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(nodes);
        var bounds = Bounds.Empty;
        double? half = null;
        foreach (var node in nodes.Select(draft.Find).OfType<Node>())
        {
            var pivot = draft.PivotOf(node);
            var own = node.Kind == NodeKind.Mark ? Bounds.Empty : Extents.OfBranch(draft, node, Affine.Identity);
            if (own.Size.Length < 1e-9)
            {
                half ??= Half(draft);
                var reach = new Vec3(half.Value, half.Value, half.Value);
                bounds = bounds.With(pivot - reach).With(pivot + reach);
            }

            bounds = bounds.With(own).With(pivot);
        }

        return bounds;
    }

    private static double Half(SceneDraft draft)
    {
        var all = Extents.OfBranches(draft, draft.Children(null).Select(draft.Get)).Size.Length;
        return all > 1e-9 ? all * Share : UsualHalf;
    }
}
