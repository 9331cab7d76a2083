using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;

namespace CalmPivot.Core.Replicas;

/// <summary>Edits that a page has made and the server has not yet answered.</summary>
/// <param name="Scope">The current shot when they were made, and whether they were made in it alone.</param>
public sealed record Pending(long Ticket, IReadOnlyList<Edit> Edits, Scope Scope, string Sentence, Change Change);

/// <summary>What of a page's pictures and lists is out of date after a replica changed.</summary>
/// <param name="Outline">The tree itself: what came, went or changed its seat.</param>
/// <param name="Rows">Lines of the tree that say something else than before.</param>
/// <param name="Shots">The list of shots, or what they have of their own.</param>
/// <param name="Materials">What materials there are, and what they are like.</param>
public sealed record Stale(bool Worlds, bool Outline, IReadOnlyList<string> Rows, IReadOnlyList<string> Looks, bool Shots = false, bool Materials = false)
{
    public static readonly Stale Nothing = new(false, false, [], []);
}

/// <summary>
/// The page's copy of a scene: the server's truth, with the page's own unanswered edits on top. When the server speaks,
/// the unanswered edits are taken back, its word is applied, and they are made again.
/// <code>
/// var (pending, stale) = replica.Keep(edits);          // at once, ahead of the server
/// replica.Agree(revision, pending.Ticket, digest);     // the server came to the same
/// replica.Hear(revision, changed, removed, null, out _); // somebody else's step
/// </code>
/// </summary>
public sealed class Replica : IDisposable
{
    private readonly List<Pending> _pending = [];
    private ShotScene? _layer;
    private long _tickets;

    public Replica(SceneDocument scene)
    {
        Scene = scene;
        Evaluator = new Evaluator(scene);
        Sight = new Sight(scene, Evaluator);
    }

    public SceneDocument Scene { get; }

    /// <summary>The current shot of whoever looks at the page, and whether edits are made in it alone.</summary>
    public Scope Scope { get; private set; } = Scope.Every;

    /// <summary>What the page shows: the scene, or the current shot's layer over it. Evaluator and sight follow it.</summary>
    public IScene Shown => _layer is null ? Scene : _layer;

    /// <summary>The layer of the current shot; null: none is current.</summary>
    public ShotScene? Layer => _layer;

    /// <summary>How often what pictures show may have changed: in all shots, and in one.</summary>
    public ShotVersions Versions { get; } = new();

    public Evaluator Evaluator { get; }

    public Sight Sight { get; }

    public IReadOnlyList<Pending> Unanswered => _pending;

    /// <summary>Makes a shot the current one, or none, and says where edits are made.</summary>
    /// <param name="asInShot">Whether the working view leaves out what the picture of the shot leaves out.</param>
    /// <exception cref="Refusal">not-found: there is no such shot; nothing has changed.</exception>
    public Stale SetScope(Scope scope, bool asInShot = true)
    {
        ArgumentNullException.ThrowIfNull(scope);
        if (scope.Shot is { } wanted && Scene.FindShot(wanted) is null)
        {
            throw Layered.NoSuchShot();
        }

        var (before, narrowed) = (_layer, scope.Narrow != Scope.Narrow);
        Scope = scope;
        Sight.AsInShot = asInShot;
        if (before?.Id == scope.Shot)
        {
            Sight.FollowShot(Shown, []);
            return new(false, false, narrowed && _layer is not null ? [.. _layer.Cheated] : [], [], false);
        }

        _layer = scope.Shot is { } shot ? new(Scene, shot) : null;
        List<string> ids = [.. (before?.Cheated ?? []).Union(_layer?.Cheated ?? [])];
        List<string> nodes = [.. ids.Where(id => Scene.Find(id) is not null)];
        List<string> looks = [.. nodes.Where(id => (before?.Find(id) ?? Scene.Find(id)!) is var was && Shown.Find(id) is { } now && (was.Camera != now.Camera || was.Light != now.Light || !was.Materials.AsSpan().SequenceEqual(now.Materials.AsSpan())))];
        Evaluator.Follow(Shown, nodes);
        Sight.FollowShot(Shown, ids);

        // Of a row nothing but its switch of the final picture may be otherwise.
        List<string> rows = [.. ids.Where(id => before?.CheatsOn(id).Any(c => c.IsSeen) == true || _layer?.CheatsOn(id).Any(c => c.IsSeen) == true)];
        return new(nodes.Count > 0, false, rows, looks, false);
    }

    /// <summary>Edits on a draft over what is shown, as they would be kept.</summary>
    /// <param name="scope">Where they are made; null: where those of this page are.</param>
    /// <exception cref="Refusal">They cannot be made.</exception>
    public SceneDraft Tried(IReadOnlyList<Edit> edits, Scope? scope = null)
    {
        scope ??= Scope;
        if (_layer is null && scope.Shot is null && Scene.Shots.Count == 0)
        {
            return Batch.Draft(Scene, edits);
        }

        var change = Batch.Run(Scene, edits, scope).Change;
        var draft = new SceneDraft(Shown);
        draft.Take(_layer?.Through(change) ?? change);
        return draft;
    }

    /// <summary>Makes edits at once, as one step, ahead of the server's answer.</summary>
    /// <exception cref="Refusal">Nothing has changed.</exception>
    public (Pending Pending, Stale Stale) Keep(IReadOnlyList<Edit> edits)
    {
        var pending = Prepare(++_tickets, edits, Scope);
        var stale = Apply(pending.Change);
        _pending.Add(pending);
        return (pending, stale);
    }

    /// <summary>Takes in that the server made the page's own oldest unanswered edit and came to the same: nothing changes any more.</summary>
    /// <returns>False: it is to be heard in full.</returns>
    public bool Agree(long revision, long ticket, string digest)
    {
        if (_pending.Count == 0 || _pending[0].Ticket != ticket || revision != Scene.Revision + 1 || Digest.Of(_pending[0].Change) != digest)
        {
            return false;
        }

        _pending.RemoveAt(0);
        Scene.Revision = revision;
        return true;
    }

    /// <summary>Takes in what the server says became of the scene.</summary>
    /// <param name="ticket">Which of the page's own edits this answers; null: somebody else's, or an undo.</param>
    /// <param name="dropped">Own edits that can no longer be made after this, each with the reason.</param>
    public Stale Hear(long revision, IReadOnlyList<Entity> changed, IReadOnlyList<string> removed, long? ticket, out IReadOnlyList<Refusal> dropped)
    {
        ArgumentNullException.ThrowIfNull(changed);
        ArgumentNullException.ThrowIfNull(removed);
        Scene.Revision = revision;
        if (ticket is not null && _pending.Count > 0 && _pending[0].Ticket == ticket && Agrees(_pending[0].Change, changed, removed))
        {
            _pending.RemoveAt(0);
            dropped = [];
            return Stale.Nothing;
        }

        return Rebase(
            () => Change.Of([
                .. removed.Where(id => Scene.FindAny(id) is not null).Select(id => new EntityChange(id, Scene.FindAny(id), null)),
                .. changed.Select(entity => new EntityChange(entity.Id, Scene.FindAny(entity.Id), entity)),
            ]),
            ticket,
            out dropped);
    }

    /// <summary>Takes in what the log says was written, next in order.</summary>
    /// <exception cref="InvalidOperationException">It does not follow on what is here.</exception>
    public Stale Hear(long revision, IReadOnlyList<PartChange> written, long? ticket, out IReadOnlyList<Refusal> dropped)
    {
        if (revision != Scene.Revision + 1)
        {
            throw new InvalidOperationException("A revision is missing before this one.");
        }

        var stale = Rebase(() => PartChange.On(Scene, written), ticket, out dropped);
        Scene.Revision = revision;
        return stale;
    }

    /// <summary>Takes back an own edit that the server refused, or that was undone before it was sent.</summary>
    public Stale Drop(long ticket, out IReadOnlyList<Refusal> dropped) => Rebase(() => Change.None, ticket, out dropped);

    public void Dispose() => Evaluator.Dispose();

    private static bool Agrees(Change own, IReadOnlyList<Entity> changed, IReadOnlyList<string> removed)
    {
        var all = own.All.ToList();
        var kept = all.Where(n => n.After is not null).ToDictionary(n => n.Id, n => n.After!);
        return kept.Count == changed.Count
            && all.Count - kept.Count == removed.Count
            && changed.All(node => kept.TryGetValue(node.Id, out var mine) && mine.Equals(node));
    }

    private static Stale StaleOf(Change change)
    {
        var (worlds, outline, shots, materials) = (false, false, false, false);
        var (rows, looks) = (new List<string>(), new List<string>());
        foreach (var one in change.All)
        {
            var (written, fields) = (one.Written(), (one.After ?? one.Before)!.Fields);
            bool Touched(Touches what, bool byBeing) => (written & (fields.Touching(what) | (byBeing ? Parts.Existence : Parts.None))) != 0;
            worlds |= (one.After ?? one.Before) is Arranged && Touched(Touches.Places, byBeing: true);
            outline |= (one.After ?? one.Before) is Arranged && Touched(Touches.Outline, byBeing: true);
            shots |= (one.After ?? one.Before) is not (Cheatable or Material) && Touched(Touches.Shots, byBeing: true);
            materials |= (one.After ?? one.Before) is Material && Touched(Touches.Materials, byBeing: true);
            if (one.Before is Node or null && one.After is Node or null && Touched(Touches.Looks, byBeing: true))
            {
                looks.Add(one.Id);
            }

            if (Touched(Touches.Rows, byBeing: false))
            {
                rows.Add(one.Id);
            }
        }

        return new(worlds, outline, rows, looks, shots, materials);
    }

    private Pending Prepare(long ticket, IReadOnlyList<Edit> edits, Scope scope)
    {
        var draft = Batch.Draft(Scene, edits, scope, out var sentence);
        return new(ticket, edits, scope, sentence, draft.ToChange());
    }

    private Stale Rebase(Func<Change> truth, long? answered, out IReadOnlyList<Refusal> dropped)
    {
        var stale = new List<Stale>();
        void Do(Change change) => stale.Add(Apply(change));

        for (var i = _pending.Count - 1; i >= 0; i--)
        {
            Do(_pending[i].Change.Reversed());
        }

        Change word;
        try
        {
            word = truth();
        }
        catch
        {
            _pending.ForEach(pending => Apply(pending.Change));
            throw;
        }

        Do(word);
        var again = _pending.Where(p => p.Ticket != answered).ToList();
        _pending.Clear();
        var refusals = new List<Refusal>();
        foreach (var pending in again)
        {
            try
            {
                var prepared = Prepare(pending.Ticket, pending.Edits, pending.Scope);
                Do(prepared.Change);
                _pending.Add(prepared);
            }
            catch (Refusal refusal)
            {
                refusals.Add(refusal);
            }
        }

        dropped = refusals;
        return new(
            true,
            stale.Exists(s => s.Outline),
            [.. stale.SelectMany(s => s.Rows).Distinct()],
            [.. stale.SelectMany(s => s.Looks).Distinct()],
            stale.Exists(s => s.Shots),
            stale.Exists(s => s.Materials));
    }

    private Stale Apply(Change change)
    {
        var shown = _layer?.Through(change) ?? change;
        Scene.Apply(change);
        _layer?.Take(change);
        Versions.Follow(change);
        Evaluator.Follow(Shown, shown);
        Sight.Follow(Shown, shown);
        var stale = StaleOf(shown);
        return stale.Worlds || stale.Materials ? stale with { Looks = [.. stale.Looks.Union(Laid())] } : stale;
    }

    /// <summary>The nodes on which pictures lie in true metres: when something has been sized, they look otherwise.</summary>
    private IEnumerable<string> Laid() =>
        Shown.AllMaterials().Where(m => m.Surface.Lies is { True: true }).SelectMany(m => Shown.Referrers(m.Id)).Where(id => Shown.Find(id) is not null);
}
