using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Scenes;

/// <summary>
/// What is in memory of a scene. Many read at once; who writes computes beside them, on a draft over the document, and keeps
/// them out only while the outcome is put in.
/// </summary>
internal sealed class SceneState(LoadedScene loaded) : IDisposable
{
    /// <summary>Of so many revisions it is remembered what they wrote, and the keys of their calls.</summary>
    private const int MostRemembered = 500;

    /// <summary>And of no more writes than this in all; one revision may have many.</summary>
    private const int MostWrites = 50_000;

    private int _writes;

    private readonly ReaderWriterLockSlim _lock = new();
    private readonly Lock _evaluating = new();
    private readonly Queue<(long Revision, IReadOnlyList<Write> Writes, Guid? Key)> _remembered = new();
    private readonly Dictionary<Guid, KeyedCall> _calls = [];
    private readonly Dictionary<string, EntityChange> _unfollowed = [];
    private Evaluator? _evaluator;

    /// <summary>The number of its rows in the database.</summary>
    public long Number => loaded.Number;

    /// <summary>The log holds what came after this revision.</summary>
    public long LogAfter => loaded.LogAfter;

    /// <summary>The keys of calls that a former version answered.</summary>
    public HashSet<Guid> FormerKeys => loaded.FormerKeys;

    /// <summary>For who has the turn to write: nobody else changes it.</summary>
    public SceneDocument Document { get; } = loaded.Document;

    public SceneHistory History { get; private set; } = loaded.History;

    /// <summary>What was written after this revision is remembered.</summary>
    public long RemembersAfter { get; private set; } = loaded.Document.Revision;

    /// <summary>What was written after a revision that is remembered.</summary>
    public IEnumerable<Write> WrittenAfter(long revision) => _remembered.Where(r => r.Revision > revision).SelectMany(r => r.Writes);

    /// <summary>The call that used a key, where it is remembered.</summary>
    public KeyedCall? CallWith(Guid key) => _calls.GetValueOrDefault(key);

    public T Read<T>(Func<SceneDocument, SceneHistory, T> read)
    {
        _lock.EnterReadLock();
        try
        {
            return read(Document, History);
        }
        finally
        {
            _lock.ExitReadLock();
        }
    }

    /// <summary>Reads the scene with all world matrices. What was written since they were last asked for is followed now.</summary>
    public T Evaluated<T>(Func<SceneDocument, Evaluator, T> read) => Read((document, _) =>
    {
        lock (_evaluating)
        {
            if (_evaluator is null)
            {
                _evaluator = new Evaluator(document);
            }
            else if (_unfollowed.Count > 0)
            {
                _evaluator.Follow(document, Change.Of(_unfollowed.Values));
            }

            _unfollowed.Clear();
        }

        return read(document, _evaluator);
    });

    /// <summary>Puts in what is stored already: a change, a new step, or the history with other steps undone.</summary>
    public void Put(Change change, IReadOnlyList<Write> writes, Step? step = null, SceneHistory? history = null, Guid? key = null, byte[]? request = null) => Write(() =>
    {
        History = history ?? History;
        if (step is not null)
        {
            History.Add(step);
            History.Keep(loaded.LatestSteps);
        }

        Document.Apply(change);
        Document.Revision++;
        Follow(change);
        Remember(writes, key, request);
    });

    public void Describe(string name, string unit, Guid? key = null, byte[]? request = null) => Write(() =>
    {
        (Document.Name, Document.Unit) = (name, unit);
        Document.Revision++;
        Remember([], key, request);
    });

    public void NameStep(long number, string? name) => Write(() => History.Name(number, name));

    /// <summary>Puts older steps before those at hand.</summary>
    public void Reach(IReadOnlyList<Step> steps, bool older) => Write(() => History.Reach(steps, older));

    public void Dispose()
    {
        _evaluator?.Dispose();
        _lock.Dispose();
    }

    /// <summary>Keeps what the evaluator has not seen yet: of each thing as it was when it was last evaluated, and as it is.</summary>
    private void Follow(Change change)
    {
        if (_evaluator is null)
        {
            return;
        }

        foreach (var one in change.All)
        {
            var before = _unfollowed.TryGetValue(one.Id, out var first) ? first.Before : one.Before;
            _unfollowed[one.Id] = new(one.Id, before, one.After);
            if (before is null && one.After is null)
            {
                _unfollowed.Remove(one.Id);
            }
        }
    }

    private void Remember(IReadOnlyList<Write> writes, Guid? key, byte[]? request)
    {
        _remembered.Enqueue((Document.Revision, writes, key));
        _writes += writes.Count;
        if (key is { } known && request is not null)
        {
            _calls[known] = new(Document.Revision, request);
        }

        while (_remembered.Count > MostRemembered || (_writes > MostWrites && _remembered.Count > 1))
        {
            var (revision, those, forgotten) = _remembered.Dequeue();
            RemembersAfter = revision;
            _writes -= those.Count;
            if (forgotten is { } old)
            {
                _calls.Remove(old);
            }
        }
    }

    private void Write(Action write)
    {
        _lock.EnterWriteLock();
        try
        {
            write();
        }
        finally
        {
            _lock.ExitWriteLock();
        }
    }
}
