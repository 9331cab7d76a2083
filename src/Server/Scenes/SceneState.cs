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
    private readonly ReaderWriterLockSlim _lock = new();
    private readonly Lock _evaluating = new();
    private readonly Dictionary<string, long> _revisions = loaded.NodeRevisions;
    private Evaluator? _evaluator;

    /// <summary>For who has the turn to write: nobody else changes it.</summary>
    public SceneDocument Document { get; } = loaded.Document;

    public SceneHistory History { get; private set; } = loaded.History;

    /// <summary>When a node was last written; null: before all that is remembered.</summary>
    public long? RevisionOf(string id) => _revisions.TryGetValue(id, out var revision) ? revision : null;

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

    /// <summary>Reads the scene with all world matrices.</summary>
    public T Evaluated<T>(Func<SceneDocument, Evaluator, T> read) => Read((document, _) =>
    {
        lock (_evaluating)
        {
            _evaluator ??= new Evaluator(document);
        }

        return read(document, _evaluator);
    });

    /// <summary>Puts in what is stored already: a change, a new step, or the history with other steps undone.</summary>
    public void Put(Change change, Step? step = null, SceneHistory? history = null) => Write(() =>
    {
        History = history ?? History;
        if (step is not null)
        {
            History.Add(step);
        }

        Document.Apply(change);
        Document.Revision++;
        _evaluator?.Follow(Document, change);
        foreach (var (id, _, after) in change.All)
        {
            if (after is null)
            {
                _revisions.Remove(id);
            }
            else
            {
                _revisions[id] = Document.Revision;
            }
        }
    });

    public void Describe(string name, string unit) => Write(() =>
    {
        (Document.Name, Document.Unit) = (name, unit);
        Document.Revision++;
    });

    public void NameStep(long number, string? name) => Write(() => History.Name(number, name));

    public void Dispose()
    {
        _evaluator?.Dispose();
        _lock.Dispose();
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
