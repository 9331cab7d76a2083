using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.History;

/// <summary>Where a node stood, or would stand, at another step: its world matrix then, and its pivot then and now.</summary>
public sealed record Shadow(string Id, Affine World, Vec3 Then, Vec3 Now)
{
    /// <summary>More than this would not be told apart on the stage.</summary>
    public const int Most = 500;

    /// <summary>
    /// What differs between the scene as it is and with some nodes as they were: those nodes and all that rode on them.
    /// Nodes that are not in the scene, then or now, cast no shadow.
    /// </summary>
    /// <param name="step">What a step wrote.</param>
    /// <param name="after">As they would be after it; else as they were before.</param>
    public static IReadOnlyList<Shadow> Of(IScene scene, IEnumerable<PartChange> step, bool after)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Of(scene, step.Select(part => (scene.Find(part.Id), after ? part.Is : part.Was) is ({ } now, Node then)
            ? now.Taking((part.Parts & Parts.Existence) != 0 ? PartsOf.Every : part.Parts, then)
            : null).OfType<Node>());
    }

    /// <summary>Where what is not the same in two shots stands in the second, beside where it is shown.</summary>
    /// <param name="shown">What is shown: the scene, or one of its shots.</param>
    /// <param name="a">A shot; null: the scene.</param>
    /// <exception cref="Refusal">not-found: one of the shots is gone.</exception>
    public static IReadOnlyList<Shadow> OfDiff(IScene scene, IScene shown, string? a, string? b)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var diff = ShotDiff.Of(scene, a, b);
        var there = b is null ? scene : new ShotScene(scene, b);
        return Of(shown, diff.Cheats.Select(c => c.Node).Distinct().Select(there.Find).OfType<Node>());
    }

    /// <param name="then">The nodes as they were before a step, or as they would be after it.</param>
    public static IReadOnlyList<Shadow> Of(IScene scene, IEnumerable<Node> then)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(then);
        var (past, present) = (new SceneDraft(scene), new SceneDraft(scene));
        var tops = new List<string>();
        foreach (var node in then)
        {
            if (scene.Find(node.Id) is { } now)
            {
                // Its seat in the tree of today: the parent of then may be gone, or ride on it by now.
                past.Put(now with { Placement = node.Placement, Constraints = [.. node.Constraints.Where(c => c.Names.All(id => scene.Find(id) is not null))] });
                tops.Add(node.Id);
            }
        }

        var shadows = new Dictionary<string, Shadow>();
        var moving = scene.Constrained.Count + past.Constrained.Count == 0
            ? tops.SelectMany(id => past.Branch(id))
            : Edges.Dependents(past, tops).Select(past.Get);
        foreach (var node in moving)
        {
            if (shadows.Count >= Most)
            {
                break;
            }

            var (was, now) = (past.World(node), present.World(present.Get(node.Id)));
            if (was.Distance(now) > 1e-12)
            {
                shadows[node.Id] = new(node.Id, was, was.Point(node.Placement.Pivot), now.Point(present.Get(node.Id).Placement.Pivot));
            }
        }

        return [.. shadows.Values];
    }
}
