using System.Collections.Immutable;
using CalmPivot.Core.Constraints;
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

    private readonly List<Context> _contexts = [];

    /// <summary>The scene or a shot of it, as it was.</summary>
    /// <param name="Stored">Where nodes stand that are stored anew.</param>
    /// <param name="Readers">Where those stand that go by them, and their constraints.</param>
    /// <param name="Readings">What these read of them.</param>
    private sealed record Context(
        string? Shot,
        Dictionary<string, Stood> Stored,
        Dictionary<string, (Affine World, ImmutableArray<Constraint> Entries)> Readers,
        Dictionary<string, TargetReading> Readings);

    /// <summary>Where a node stands, and where it is placed before its constraints, and what these pull to, where that is promised, too.</summary>
    private readonly record struct Stood(Affine World, (Affine Placed, Affine?[] Pulled)? Kept);

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

        // What goes by them is told what they are stored as in the scene; in a shot they may be stored otherwise.
        var edited = change.Nodes.Where(n => IsEdited(n.Before, n.After)).Select(n => n.Id).ToHashSet();
        var readers = kept.Where(edited.Contains).SelectMany(id => StoredAnew.Readers(draft, id)).Distinct()
            .Where(id => !edited.Contains(id) && before.Find(id) is { } was && IsKept(before, draft, was, draft.Get(id))).ToList();
        kept.RemoveAll(readers.Contains);
        var placed = kept.Where(id => draft.Get(id) is { Constraints.IsEmpty: false } now && IsSame(before.Placed(before.Get(id)), draft.Placed(now), 1e-9)).ToHashSet();
        var on = Edges.Above(before, [.. kept, .. readers]);
        on.UnionWith(Edges.Above(draft, [.. kept, .. readers]));
        var promises = new Promises();
        if (scope.Shot is { } worked)
        {
            promises.Add(null, done, kept, placed, readers, on);
            promises._worked = (worked, kept.ConvertAll(draft.Get));
        }

        foreach (var shot in shots.Where(shot => shot != scope.Shot))
        {
            promises.Add(shot, new ShotScene(done, shot), kept, placed, readers, on);
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
        var on = Edges.Above(before, kept);
        on.UnionWith(Edges.Above(after, kept));
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
        foreach (var context in _contexts)
        {
            var shot = context.Shot;
            if (shot is not null)
            {
                ShowAsWorked(done);
            }

            var draft = new SceneDraft(shot is null ? done : new ShotScene(done, shot));
            done.Spend(context.Stored.Count + context.Readers.Count);
            try
            {
                var moved = context.Stored.Where(w => IsMoved(draft, w.Key, w.Value.World)).ToDictionary();
                Writer.Stand(draft, moved.ToDictionary(m => m.Key, m => m.Value.World), id => moved[id].Kept);
                foreach (var (id, reader) in context.Readers)
                {
                    StoredAnew.Tell(draft, id, reader.Entries, context.Readings);
                }

                Writer.Stand(draft, context.Readers.Where(r => IsMoved(draft, r.Key, r.Value.World)).ToDictionary(r => r.Key, r => r.Value.World));
            }
            catch (Refusal refusal) when (shot is not null)
            {
                throw new Refusal(refusal.Word, $"In {Shot.TitleOf(done, shot)}: {refusal.Message}");
            }

            done.Held.AddRange(draft.Held.Where(held => held.Off.IsSome).Select(held => held with { In = new(shot) }));
            var change = draft.ToChange();
            if (!change.All.Any())
            {
                continue;
            }

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

    /// <summary>What needs a value of its own in a shot to stay, and has none there yet.</summary>
    public static IEnumerable<(string Node, Shot Shot)> NewlyCheating(IScene scene, Change change)
    {
        var moved = change.Nodes.Where(n => n is { Before: not null, After: not null }).Select(n => n.Id).ToHashSet();
        var made = change.Entities.Where(e => e.Before is null).Select(e => e.Id).ToHashSet();
        return change.Entities
            .Where(e => e.Before is null).Select(e => e.After).OfType<Cheat>()
            .Where(cheat => CheatChannel.Of(cheat.Channel)?.IsPlace == true && moved.Contains(cheat.Of) && !scene.CheatsOn(cheat.Of).Any(c => c.Shot == cheat.Shot && !c.IsSeen && !made.Contains(c.Id)))
            .Select(cheat => (cheat.Of, cheat.Shot)).Distinct()
            .Select(c => (c.Of, Shot: scene.FindShot(c.Shot)!)).Where(c => c.Shot is not null);
    }

    private static List<string> Kept(SceneDraft before, SceneDraft after, Change change) => [.. change.Nodes
        .Where(n => n is { Before: { } was, After: { } now } && IsStoredAnew(was, now) && IsKept(before, after, was, now))
        .Select(n => n.Id)];

    private static bool IsMoved(SceneDraft draft, string id, Affine from) => draft.Find(id) is { } node && !IsSame(draft.World(node), from, 1e-11);

    /// <summary>Whether the edit wrote more of a node than what it was told of others.</summary>
    private static bool IsEdited(Node? was, Node? now) =>
        was is null || now is null || was.Parent != now.Parent || !was.Placement.Equals(now.Placement)
        || !was.Constraints.Select(c => (c.Id, c.Kind, c.Enabled)).SequenceEqual(now.Constraints.Select(c => (c.Id, c.Kind, c.Enabled)));

    private static bool IsSame(Affine a, Affine b, double tolerance) => a.Distance(b) <= tolerance * Math.Max(1, Math.Max(a.Linear.Norm, a.Offset.Length));

    private static bool IsStoredAnew(Node was, Node now) =>
        was.Parent != now.Parent || !was.Placement.Equals(now.Placement) || was.Constraints != now.Constraints;

    private void Add(string? shot, IScene scene, List<string> kept, HashSet<string> placed, List<string> readers, HashSet<string> on)
    {
        if (scene is ShotScene layer && !layer.Cheated.Any(on.Contains))
        {
            return;
        }

        var draft = new SceneDraft(scene);
        _contexts.Add(new(
            shot,
            kept.ToDictionary(id => id, id => new Stood(draft.World(draft.Get(id)), placed.Contains(id) ? (draft.Placed(draft.Get(id)), Writer.Pulled(draft, draft.Get(id))) : null)),
            readers.ToDictionary(id => id, id => (draft.World(draft.Get(id)), draft.Get(id).Constraints)),
            readers.Count == 0 ? [] : kept.Select(id => (Id: id, Reading: StoredAnew.Read(draft, draft.Get(id)))).Where(r => r.Reading is not null).ToDictionary(r => r.Id, r => r.Reading!)));
    }
}
