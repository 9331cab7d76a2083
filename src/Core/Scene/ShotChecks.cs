using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What a change makes of the shots that it was not looked at in: numbers that are fit one by one may not fit together with those that a shot has of its own.
/// </summary>
public static class ShotChecks
{
    /// <exception cref="Refusal">A rule would be broken in some shot, which is named.</exception>
    public static void Check(IScene scene, Change change)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(change);
        var written = change.Entities.Select(e => (e.After ?? e.Before) as Cheat).OfType<Cheat>().Select(c => c.Shot).ToHashSet();
        var shots = written.Concat(scene.Shots.Where(shot => scene.Children(Lists.OfCheats(shot)).Count > 0)).Distinct().ToList();
        if (shots.Count == 0)
        {
            return;
        }

        HashSet<string>? related = null;
        foreach (var shot in shots)
        {
            var layer = new ShotScene(scene, shot);
            if (!written.Contains(shot) && !layer.Cheated.Any((related ??= Related(scene, change)).Contains))
            {
                continue;
            }

            try
            {
                Check(layer, layer.Through(change));
            }
            catch (Refusal refusal)
            {
                throw new Refusal(refusal.Word, $"In {Title(scene, change, shot)}: {refusal.Message}");
            }
        }
    }

    private static void Check(ShotScene layer, Change change)
    {
        foreach (var (_, before, after) in change.Nodes)
        {
            if (after is not null)
            {
                if (!ReferenceEquals(before?.Placement, after.Placement))
                {
                    after.Placement.Check(after.Name, before?.Placement);
                }

                after.Camera?.Checked(after.Name);
                after.Light?.Checked(after.Name);
            }
        }

        foreach (var (_, _, after) in change.Entities)
        {
            (after as Surroundings)?.Checked();
        }

        var draft = new SceneDraft(layer);
        draft.Take(change);
        Worlds.Check(draft);
    }

    /// <summary>What is written, what its world depends on, and what depends on it.</summary>
    private static HashSet<string> Related(IScene scene, Change change)
    {
        var all = Edges.Dependents(scene, change.Nodes.Where(n => n.Before is not null).Select(n => n.Id));
        var walk = new Stack<string>(all);
        foreach (var (id, before, after) in change.Nodes)
        {
            foreach (var next in new[] { before, after }.OfType<Node>().SelectMany(Edges.Of).Append(id))
            {
                walk.Push(next);
            }
        }

        var seen = new HashSet<string>();
        while (walk.TryPop(out var id))
        {
            if (seen.Add(id) && scene.Find(id) is { } node)
            {
                foreach (var next in Edges.Of(node))
                {
                    walk.Push(next);
                }
            }
        }

        all.UnionWith(seen);
        return all;
    }

    private static string Title(IScene scene, Change change, string shot) =>
        scene.FindShot(shot)?.Title ?? change.Entities.Select(e => e.After).OfType<Shot>().FirstOrDefault(s => s.Id == shot)?.Title ?? "a shot";
}
