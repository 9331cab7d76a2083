using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>A node whose pivot lies away from what it turns.</summary>
/// <param name="Away">Metres in the world from the pivot to the nearest point of the bounds.</param>
/// <param name="Far">True where that is more than the diagonal of the bounds.</param>
public sealed record StrayPivot(string Node, double Away, bool Far);

/// <summary>Finds pivots that lie outside the bounds of what they turn, as imported models often have them.</summary>
public static class PivotCheck
{
    /// <summary>A pivot this share of the diagonal outside still counts as on the bounds.</summary>
    private const double OnBounds = 1e-3;

    public static IReadOnlyList<StrayPivot> Of(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var draft = new SceneDraft(scene);
        var found = new List<StrayPivot>();
        foreach (var node in draft.Branch(null))
        {
            // What has no geometry of its own turns what it carries; lamps and cameras turn themselves.
            var bounds = Extents.GeometryOf(draft, node) is { } geometry
                ? geometry.OwnBounds
                : node.Kind == NodeKind.Group && draft.World(node).Linear.Determinant != 0 ? Extents.InOwnFrame(draft, node) : Bounds.Empty;
            if (bounds.IsEmpty)
            {
                continue;
            }

            var pivot = node.Placement.Pivot;
            var nearest = Vec3.Max(bounds.Low, Vec3.Min(bounds.High, pivot));
            var away = (pivot - nearest).Length;
            if (away > bounds.Size.Length * OnBounds)
            {
                found.Add(new(node.Id, (draft.World(node).Linear * (pivot - nearest)).Length, away > bounds.Size.Length));
            }
        }

        return found;
    }
}
