using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Trials;

/// <summary>A node that an edit would add: what it looks like, where it would stand, and where its original stands.</summary>
/// <param name="LooksLike">The node that it would be a copy of.</param>
/// <param name="From">The original's pivot in the world; null: it rides on another ghost.</param>
public sealed record Ghost(string LooksLike, Affine World, Vec3? From, Vec3 Pivot)
{
    /// <summary>More would not be told apart on the stage.</summary>
    public const int Most = 600;

    /// <summary>The copies that a draft would add to a scene.</summary>
    public static IReadOnlyList<Ghost> Of(SceneDocument scene, SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(draft);
        var ghosts = new List<Ghost>();
        foreach (var (id, origin) in draft.Origins)
        {
            if (ghosts.Count >= Most || draft.Find(id) is not { } node || scene.Find(origin) is not { } original)
            {
                continue;
            }

            var world = draft.World(node);
            var isTop = node.Parent is null || !draft.Origins.ContainsKey(node.Parent);
            var from = isTop ? new SceneDraft(scene).World(original).Point(original.Placement.Pivot) : (Vec3?)null;
            ghosts.Add(new(origin, world, from, world.Point(node.Placement.Pivot)));
        }

        return ghosts;
    }
}
