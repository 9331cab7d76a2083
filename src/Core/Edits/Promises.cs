using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>
/// What keeps its place in the world keeps it in every shot: where nodes stand, though they are stored anew (another parent, pivot, order, or a carrier that
/// moves without them), they are to stand where they stood in the scene and in each shot. What then differs from the scene becomes cheats. See model.md, Shots.
/// </summary>
public sealed class Promises
{
    private Promises()
    {
    }

    private readonly List<(string? Shot, Dictionary<string, Affine> Worlds)> _contexts = [];

    /// <summary>Where an edit was computed on what a shot shows: that shot, and what it is to show of what keeps its place.</summary>
    private (string Shot, List<Node> Nodes)? _worked;

    /// <summary>What is promised by an edit that was made on a draft and is about to be written; null: nothing that other shots could break.</summary>
    internal static Promises? Of(SceneDraft done, SceneDraft draft, Change change, Scope scope)
    {
        var shots = done.Shots.Where(shot => done.Children(Lists.OfCheats(shot)).Count > 0).ToList();
        if (shots.Count == 0)
        {
            return null;
        }

        var before = new SceneDraft(draft.Below);
        var kept = Kept(before, draft, change);
        if (kept.Count == 0)
        {
            return null;
        }

        var on = Above(before, kept);
        on.UnionWith(Above(draft, kept));
        var promises = new Promises();
        if (scope.Shot is { } worked)
        {
            promises.Add(null, done, kept, on);
            promises._worked = (worked, kept.ConvertAll(draft.Get));
        }

        foreach (var shot in shots.Where(shot => shot != scope.Shot))
        {
            promises.Add(shot, new ShotScene(done, shot), kept, on);
        }

        return promises._contexts.Count == 0 ? null : promises;
    }

    /// <summary>
    /// The first shot in which a change moves what it leaves in its place in the scene: what was cheated since may not fit what an undo brings back. Null: none.
    /// </summary>
    /// <param name="since">What has been written since.</param>
    internal static (Shot Shot, Node Node)? FirstBroken(IScene scene, Change change, IReadOnlySet<string> since)
    {
        var shots = scene.AllShots().Where(shot => scene.Children(Lists.OfCheats(shot.Id)).Any(since.Contains)).ToList();
        if (shots.Count == 0 || change.Nodes.Count == 0)
        {
            return null;
        }

        var (before, after) = (new SceneDraft(scene), new SceneDraft(scene));
        after.Take(change);
        var kept = Kept(before, after, change);
        var on = Above(before, kept);
        on.UnionWith(Above(after, kept));
        foreach (var shot in kept.Count == 0 ? [] : shots)
        {
            var layer = new ShotScene(scene, shot.Id);
            if (layer.Cheated.Any(on.Contains))
            {
                var (was, now) = (new SceneDraft(layer), new SceneDraft(layer));
                now.Take(layer.Through(change));
                if (kept.Find(id => !IsKept(was, now, was.Get(id), now.Get(id))) is { } moved)
                {
                    return (shot, was.Get(moved));
                }
            }
        }

        return null;
    }

    /// <summary>Whether a node stands after an edit where it stood before it; to 1e-9 of its size.</summary>
    internal static bool IsKept(SceneDraft before, SceneDraft after, Node was, Node now) => IsSame(before.World(was), after.World(now), 1e-9);

    /// <summary>Brings back what does not stand any more where it stood, shot by shot.</summary>
    /// <exception cref="Refusal">It cannot be stored there.</exception>
    internal void Keep(SceneDraft done)
    {
        foreach (var (shot, worlds) in _contexts)
        {
            if (shot is not null)
            {
                ShowAsWorked(done);
            }

            var draft = new SceneDraft(shot is null ? done : new ShotScene(done, shot));
            var moved = worlds.Where(w => draft.Find(w.Key) is { } node && !IsSame(draft.World(node), w.Value, 1e-11)).ToDictionary();
            done.Spend(worlds.Count);
            if (moved.Count == 0)
            {
                continue;
            }

            try
            {
                Writer.Stand(draft, moved);
            }
            catch (Refusal refusal) when (shot is not null)
            {
                throw new Refusal(refusal.Word, $"In {Shot.TitleOf(done, shot)}: {refusal.Message}");
            }

            var change = draft.ToChange();
            if (shot is null)
            {
                done.Take(change);
            }
            else
            {
                Narrow.Write(done, change, shot);
            }
        }

        ShowAsWorked(done);
    }

    /// <summary>After the scene has been put right: to the bit as the hand saw it.</summary>
    private void ShowAsWorked(SceneDraft done)
    {
        if (_worked is var (shot, nodes))
        {
            var layer = new ShotScene(done, shot);
            Narrow.Write(done, new([.. nodes.Select(node => new NodeChange(node.Id, layer.Find(node.Id), node))]), shot);
            _worked = null;
        }
    }

    /// <summary>The shots in which something needs a value of its own to stay, that has none there yet.</summary>
    public static IEnumerable<Shot> NewlyCheating(IScene scene, Change change)
    {
        var moved = change.Nodes.Where(n => n is { Before: not null, After: not null }).Select(n => n.Id).ToHashSet();
        var made = change.Entities.Where(e => e.Before is null).Select(e => e.Id).ToHashSet();
        return change.Entities
            .Select(e => e.Before is null && e.After is Cheat { IsSeen: false } cheat && moved.Contains(cheat.Of) && !scene.CheatsOn(cheat.Of).Any(c => c.Shot == cheat.Shot && !c.IsSeen && !made.Contains(c.Id)) ? cheat.Shot : null)
            .OfType<string>().Distinct().Select(scene.FindShot).OfType<Shot>();
    }

    private static List<string> Kept(SceneDraft before, SceneDraft after, Change change) => [.. change.Nodes
        .Where(n => n is { Before: { } was, After: { } now } && IsStoredAnew(was, now) && IsKept(before, after, was, now))
        .Select(n => n.Id)];

    private static bool IsSame(Affine a, Affine b, double tolerance) => a.Distance(b) <= tolerance * Math.Max(1, Math.Max(a.Linear.Norm, a.Offset.Length));

    private static bool IsStoredAnew(Node was, Node now) =>
        was.Parent != now.Parent || !was.Placement.Equals(now.Placement) || was.Constraints != now.Constraints;

    /// <summary>All that the worlds of some nodes depend on, themselves included.</summary>
    private static HashSet<string> Above(SceneDraft draft, IEnumerable<string> ids)
    {
        var all = new HashSet<string>();
        var walk = new Stack<string>(ids);
        while (walk.TryPop(out var id))
        {
            if (draft.Find(id) is { } node && all.Add(id))
            {
                draft.Spend(1);
                foreach (var next in Edges.Of(node))
                {
                    walk.Push(next);
                }
            }
        }

        return all;
    }

    private void Add(string? shot, IScene scene, List<string> kept, HashSet<string> on)
    {
        if (scene is ShotScene layer && !layer.Cheated.Any(on.Contains))
        {
            return;
        }

        var draft = new SceneDraft(scene);
        _contexts.Add((shot, kept.ToDictionary(id => id, id => draft.World(draft.Get(id)))));
    }
}
