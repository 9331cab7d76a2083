using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;

namespace CalmPivot.Core.Replicas;

/// <summary>Edits that a page has made and the server has not yet answered.</summary>
public sealed record Pending(long Ticket, IReadOnlyList<Edit> Edits, string Sentence, Change Change);

/// <summary>What of a page's pictures and lists is out of date after a replica changed.</summary>
/// <param name="Outline">The tree itself: what came, went or changed its seat.</param>
/// <param name="Rows">Lines of the tree that say something else than before.</param>
public sealed record Stale(bool Worlds, bool Outline, IReadOnlyList<string> Rows, IReadOnlyList<string> Looks)
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
    private long _tickets;

    public Replica(SceneDocument scene)
    {
        Scene = scene;
        Evaluator = new Evaluator(scene);
        Sight = new Sight(scene, Evaluator);
    }

    public SceneDocument Scene { get; }

    public Evaluator Evaluator { get; }

    public Sight Sight { get; }

    public IReadOnlyList<Pending> Unanswered => _pending;

    /// <summary>Makes edits at once, as one step, ahead of the server's answer.</summary>
    /// <exception cref="Refusal">Nothing has changed.</exception>
    public (Pending Pending, Stale Stale) Keep(IReadOnlyList<Edit> edits)
    {
        var pending = Prepare(++_tickets, edits);
        Apply(pending.Change);
        _pending.Add(pending);
        return (pending, StaleOf(pending.Change));
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
        var (worlds, outline) = (false, false);
        var (rows, looks) = (new List<string>(), new List<string>());
        foreach (var one in change.All)
        {
            var (written, fields) = (one.Written(), (one.After ?? one.Before)!.Fields);
            bool Touched(Touches what, bool byBeing) => (written & (fields.Touching(what) | (byBeing ? Parts.Existence : Parts.None))) != 0;
            worlds |= Touched(Touches.Places, byBeing: true);
            outline |= Touched(Touches.Outline, byBeing: true);
            if (one.Before is Node or null && one.After is Node or null && Touched(Touches.Looks, byBeing: true))
            {
                looks.Add(one.Id);
            }

            if (Touched(Touches.Rows, byBeing: false))
            {
                rows.Add(one.Id);
            }
        }

        return new(worlds, outline, rows, looks);
    }

    private Pending Prepare(long ticket, IReadOnlyList<Edit> edits)
    {
        var (change, sentence) = Batch.Run(Scene, edits);
        return new(ticket, edits, sentence, change);
    }

    private Stale Rebase(Func<Change> truth, long? answered, out IReadOnlyList<Refusal> dropped)
    {
        var all = new List<Change>();
        void Do(Change change)
        {
            Apply(change);
            all.Add(change);
        }

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
                var prepared = Prepare(pending.Ticket, pending.Edits);
                Do(prepared.Change);
                _pending.Add(prepared);
            }
            catch (Refusal refusal)
            {
                refusals.Add(refusal);
            }
        }

        dropped = refusals;
        var stale = all.Select(StaleOf).ToList();
        return new(
            true,
            stale.Any(s => s.Outline),
            [.. stale.SelectMany(s => s.Rows).Distinct()],
            [.. stale.SelectMany(s => s.Looks).Distinct()]);
    }

    private void Apply(Change change)
    {
        Scene.Apply(change);
        Evaluator.Follow(Scene, change);
        Sight.Follow(Scene, change);
    }
}
