using CalmPivot.Core.Constraints;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What the world of a node depends on: its parent (whatever it takes), all that its constraints look at (switched off and without
/// weight, too, since they may be switched on), and what a mark follows. Collections and switches are no edges.
/// <code>
/// Edges.Dependents(scene, ["plate"])      // the plate, what rides on it, what aims at any of these, …
/// Edges.Check(draft)                      // refuses what would depend on itself
/// </code>
/// </summary>
public static class Edges
{
    /// <summary>What the world of a node depends on at once; not all of it need be there.</summary>
    public static IEnumerable<string> Of(Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        if (node.Parent is { } parent)
        {
            yield return parent;
        }

        foreach (var entry in node.Constraints)
        {
            foreach (var name in entry.Names)
            {
                yield return name;
            }
        }
    }

    /// <summary>All that the worlds of some nodes depend on, themselves included.</summary>
    public static HashSet<string> Above(SceneDraft draft, IEnumerable<string> ids)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var all = new HashSet<string>();
        var walk = new Stack<string>(ids);
        while (walk.TryPop(out var id))
        {
            if (draft.Find(id) is { } node && all.Add(id))
            {
                draft.Spend(1);
                foreach (var next in Of(node))
                {
                    walk.Push(next);
                }
            }
        }

        return all;
    }

    /// <summary>Some nodes and all whose worlds depend on theirs.</summary>
    public static HashSet<string> Dependents(IScene scene, IEnumerable<string> ids)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var all = new HashSet<string>();
        var walk = new Stack<string>(ids);
        while (walk.TryPop(out var id))
        {
            if (!all.Add(id))
            {
                continue;
            }

            (scene as SceneDraft)?.Spend(1);
            foreach (var child in scene.Children(id))
            {
                walk.Push(child);
            }

            foreach (var reader in Readers(scene, id))
            {
                walk.Push(reader.Id);
            }
        }

        return all;
    }

    /// <summary>Those who look at a node in another way than riding on it: by a constraint, or as a mark that follows.</summary>
    public static IEnumerable<Node> Readers(IScene scene, string id)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.Referrers(id).Select(scene.Find).OfType<Node>().Where(n => n.Parent == id || n.Constraints.Any(c => c.Names.Contains(id)));
    }

    /// <summary>Some nodes in an order in which each comes after those of them that it depends on.</summary>
    public static IReadOnlyList<string> InOrder(SceneDraft draft, IEnumerable<string> ids)
    {
        ArgumentNullException.ThrowIfNull(draft);
        List<string> order = [];
        var (some, done, open) = (ids.ToHashSet(), new HashSet<string>(), new HashSet<string>());
        var walk = new Stack<string>();
        foreach (var top in some.ToList())
        {
            walk.Push(top);
            while (walk.TryPeek(out var id))
            {
                if (done.Contains(id) || draft.Find(id) is not { } node)
                {
                    walk.Pop();
                    continue;
                }

                if (open.Add(id))
                {
                    draft.Spend(1);
                    foreach (var next in Of(node).Where(n => !open.Contains(n)))
                    {
                        walk.Push(next);
                    }

                    continue;
                }

                walk.Pop();
                done.Add(id);
                if (some.Contains(id))
                {
                    order.Add(id);
                }
            }
        }

        return order;
    }

    /// <summary>The first of some nodes that the world of another depends on, itself included; null: on none.</summary>
    public static string? FirstBelow(IScene scene, string id, IReadOnlySet<string> some)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var seen = new HashSet<string>();
        var walk = new Stack<string>([id]);
        while (walk.TryPop(out var at))
        {
            if (some.Contains(at))
            {
                return at;
            }

            if (seen.Add(at) && scene.Find(at) is { } node)
            {
                foreach (var next in Of(node))
                {
                    walk.Push(next);
                }
            }
        }

        return null;
    }

    /// <summary>Refuses what would depend on itself, of all that a draft writes.</summary>
    /// <exception cref="Refusal">would-loop.</exception>
    public static void Check(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        if (draft.Constrained.Count == 0)
        {
            return;
        }

        // Those that are done lead to no loop; each edge is gone along once.
        var done = new HashSet<string>();
        foreach (var (id, node) in draft.Written.ToList())
        {
            if (node is not null && IsNewlyTied(draft.Below.Find(id), node) && Find(draft, id, done) is { } loop)
            {
                throw Said(draft, loop);
            }
        }
    }

    /// <summary>The refusal of the loop that a node is part of; null: it is part of none.</summary>
    internal static Refusal? Loop(SceneDraft draft, string id) => Find(draft, id, []) is { } loop ? Said(draft, loop) : null;

    private static bool IsNewlyTied(Node? before, Node after) =>
        before is null || before.Parent != after.Parent || (before.Constraints != after.Constraints && !Of(before).SequenceEqual(Of(after)));

    /// <summary>A loop that can be reached from a node, each depending on the next; null: there is none.</summary>
    private static List<string>? Find(SceneDraft draft, string from, HashSet<string> done)
    {
        List<string> path = [];
        var on = new HashSet<string>();
        var next = new Stack<IEnumerator<string>>();
        bool Enter(string id)
        {
            if (done.Contains(id) || draft.Find(id) is not { } node)
            {
                return false;
            }

            draft.Spend(1);
            path.Add(id);
            on.Add(id);
            next.Push(Of(node).GetEnumerator());
            return true;
        }

        Enter(from);
        while (next.TryPeek(out var edges))
        {
            if (!edges.MoveNext())
            {
                next.Pop();
                done.Add(path[^1]);
                on.Remove(path[^1]);
                path.RemoveAt(path.Count - 1);
            }
            else if (on.Contains(edges.Current))
            {
                return path[path.IndexOf(edges.Current)..];
            }
            else
            {
                Enter(edges.Current);
            }
        }

        return null;
    }

    /// <summary>"Cannon aims at Target, which rides on Plate, which swivels to Cannon."</summary>
    private static Refusal Said(SceneDraft draft, List<string> loop)
    {
        string Name(string id) => $"“{draft.Find(id)!.Name}”";
        const int Most = 6;
        List<string> parts = [];
        for (var i = 0; i < loop.Count; i++)
        {
            var (node, on) = (draft.Find(loop[i])!, loop[(i + 1) % loop.Count]);
            if (i < Most || i == loop.Count - 1)
            {
                parts.Add($"{Verb(node, on)} {Name(on)}");
            }
            else if (i == Most)
            {
                parts.Add($"leads on over {loop.Count - Most - 1} more");
            }
        }

        return new(
            Refusals.WouldLoop,
            $"This would go round in a circle: {Name(loop[0])} {string.Join(", which ", parts)}. Take one of these off first.");
    }

    private static string Verb(Node node, string on) =>
        node.Parent == on ? node.Kind == NodeKind.Mark ? "follows" : "rides on"
        : node.Constraints.First(c => c.Names.Contains(on)) is var entry && entry.Target == on ? entry.Verb : "is upright toward";
}
