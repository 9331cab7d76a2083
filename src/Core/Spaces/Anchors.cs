using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Spaces;

/// <summary>The 27 points of a node's bounds that a pivot can stand on: corners, middles of edges and sides, the middle.</summary>
public static class Anchors
{
    /// <summary>How far from a point, as a share of the bounds, still counts as standing on it.</summary>
    private const double Near = 1e-7;

    /// <summary>Which of the 27 points a pivot stands on: −1, 0 or 1 along each axis; null: on none.</summary>
    public static Vec3? At(Bounds bounds, Vec3 pivot)
    {
        if (bounds.IsEmpty)
        {
            return null;
        }

        var anchor = Vec3.Zero;
        var reach = bounds.Size.Length * Near;
        for (var axis = 0; axis < 3; axis++)
        {
            var half = bounds.Size[axis] / 2;
            var at = pivot[axis] - bounds.Middle[axis];
            var side = half > reach ? Math.Round(at / half) : 0;
            if (Math.Abs(side) > 1 || !(Math.Abs(at - side * half) <= reach))
            {
                return null;
            }

            anchor = anchor.With(axis, side);
        }

        return anchor;
    }
}
