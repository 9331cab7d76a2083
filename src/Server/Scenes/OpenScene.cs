using System.Security.Cryptography;
using System.Text;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CalmPivot.Server.Api;
using CalmPivot.Server.Push;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Scenes;

/// <summary>
/// A scene in memory, in step with the database: calls go one after the other; each is stored before it is applied here,
/// answered or pushed. After a failure of the database the copy is given up and loaded anew.
/// </summary>
public sealed class OpenScene(LoadedScene loaded, SceneStore store, IScenePush push) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly SceneDocument _document = loaded.Document;
    private readonly Dictionary<string, long> _nodeRevisions = loaded.NodeRevisions;
    private SceneHistory _history = loaded.History;
    private Evaluator? _evaluator;

    public string Id => _document.Id;

    /// <summary>True after a failure: what is here may differ from what is stored.</summary>
    public bool Spoiled { get; private set; }

    /// <summary>Reads the scene while nothing changes it.</summary>
    public async Task<T> Read<T>(Func<SceneDocument, SceneHistory, T> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        await _turn.WaitAsync();
        try
        {
            return read(_document, _history);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>Does something with what the nodes use of stored geometry and pictures, while nothing changes the scene.</summary>
    public async Task<T> Alone<T>(Func<string[], Task<T>> act)
    {
        ArgumentNullException.ThrowIfNull(act);
        await _turn.WaitAsync();
        try
        {
            return await act([.. _document.Nodes.SelectMany(SceneStore.BlobsOf).Distinct()]);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>Reads the scene with all world matrices.</summary>
    public Task<T> Evaluated<T>(Func<SceneDocument, Evaluator, T> read) =>
        Read((document, _) => read(document, _evaluator ??= new Evaluator(document)));

    /// <summary>Makes edits as one step.</summary>
    /// <param name="page">The connection of the page that calls; it is not told what it is answered.</param>
    public Task<string> Edit(string by, long seen, Guid? key, IReadOnlyList<Edit> edits, string? page = null) => InTurn(
        key,
        HashOf("edits", StoreJson.Write<Edit[]>([.. edits])),
        () =>
        {
            var (change, sentence) = Batch.Run(_document, edits);
            CheckSeen(change, seen);
            return (change, sentence, edits, BlobsOf(change));
        },
        by,
        page);

    /// <summary>Stores a change that was worked out elsewhere (an import, the demo) as one step.</summary>
    public Task<string> Change(string by, string sentence, Func<IScene, Change> work, IReadOnlyList<Blob> blobs) =>
        InTurn(null, [], () => (work(_document), sentence, [], blobs), by);

    /// <summary>Takes back the person's own latest standing step, or all down to a step.</summary>
    public Task<string> Undo(string by, Guid? key, long? to, string? page = null) => Restore("undo", by, key, to, page);

    /// <summary>Does the person's own earliest undone step again, or all up to a step.</summary>
    public Task<string> Redo(string by, Guid? key, long? to, string? page = null) => Restore("redo", by, key, to, page);

    /// <summary>Gives the scene another name or unit.</summary>
    public async Task Describe(string? name, string? unit)
    {
        await _turn.WaitAsync();
        try
        {
            var (newName, newUnit) = (name is null ? _document.Name : Rename.Fitting(name), unit ?? _document.Unit);
            await Guarded(() => store.Describe(Id, newName, newUnit, _document.Revision + 1));
            (_document.Name, _document.Unit) = (newName, newUnit);
            _document.Revision++;
            await push.Described(Id, new(_document.Revision, newName, newUnit));
        }
        finally
        {
            _turn.Release();
        }
    }

    public async Task NameStep(long number, string? name)
    {
        await _turn.WaitAsync();
        try
        {
            _history.Name(number, name);
            await Guarded(() => store.NameStep(Id, number, name));
        }
        finally
        {
            _turn.Release();
        }
    }

    public void Dispose()
    {
        _evaluator?.Dispose();
        _turn.Dispose();
    }

    private static byte[] HashOf(string call, string body) => SHA256.HashData(Encoding.UTF8.GetBytes($"{call}\n{body}"));

    private async Task<string> InTurn(
        Guid? key,
        byte[] hash,
        Func<(Change Change, string Sentence, IReadOnlyList<Edit> Edits, IReadOnlyList<Blob> Blobs)> work,
        string by,
        string? page = null)
    {
        await _turn.WaitAsync();
        try
        {
            if (await FirstAnswer(key, hash) is { } first)
            {
                return first;
            }

            var (change, sentence, edits, blobs) = work();
            var step = new Step(_history.NextNumber, sentence, by, DateTimeOffset.UtcNow, Step.WritesOf(change));
            var answer = AnswerOf(change, step, SceneStore.PickedBy(edits), key);
            var json = WireJson.Write(answer, ApiJson.Options);
            var commit = new Commit(
                _document,
                change,
                new(step, edits, _history.RedoOf(by)),
                new Dictionary<long, bool>(),
                Keyed(key, hash, json),
                blobs);
            await Guarded(() => store.Write(commit));
            _history.Add(step);
            Apply(change);
            await push.Stepped(Id, answer, page);
            return json;
        }
        finally
        {
            _turn.Release();
        }
    }

    private async Task<string> Restore(string call, string by, Guid? key, long? to, string? page)
    {
        await _turn.WaitAsync();
        try
        {
            var hash = HashOf(call, $"{to}");
            if (await FirstAnswer(key, hash) is { } first)
            {
                return first;
            }

            var undo = call == "undo";
            var history = new SceneHistory(_history.Steps);
            var draft = new SceneDraft(_document);
            var marks = new Dictionary<long, bool>();
            string NameOf(string id) => _document.Find(id)?.Name ?? "an object that is gone";
            if (to is { } wanted && !Continues(history, by, undo, wanted))
            {
                throw new Refusal(Refusals.NothingToUndo, "The scene stands at this step already, as far as your own steps go.");
            }

            Step? last = null;
            IReadOnlyList<string> picked = [];
            while (last is null || (to is not null && Continues(history, by, undo, to.Value)))
            {
                last = undo ? history.ToUndo(by, NameOf) : history.ToRedo(by, NameOf);
                (var change, picked) = await store.StepOf(Id, last.Number);
                var changes = new Dictionary<long, Change> { [last.Number] = change };
                foreach (var step in undo ? history.EarlierThan(last).GroupBy(e => e.Step) : [])
                {
                    changes[step.Key] = await store.ChangeOf(Id, step.Key, [.. step.Select(e => e.Node)]);
                }

                var restoring = undo ? history.Undoing(draft, last, number => changes[number]) : SceneHistory.Restoring(draft, change);
                foreach (var (_, before, after) in restoring.Nodes)
                {
                    if (after is not null)
                    {
                        draft.Put(after);
                    }
                    else if (before is not null)
                    {
                        draft.Remove(before);
                    }
                }

                history.Mark(last.Number, undo);
                marks[last.Number] = undo;
            }

            var restored = draft.ToChange();
            await CheckStored(restored);
            var answer = AnswerOf(restored, last, picked, key);
            var json = WireJson.Write(answer, ApiJson.Options);
            await Guarded(() => store.Write(new(_document, restored, null, marks, Keyed(key, hash, json), [])));
            _history = history;
            Apply(restored);
            await push.Stepped(Id, answer, page);
            return json;
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>What a step brings back may have been cleared since.</summary>
    private async Task CheckStored(Change restored)
    {
        var returning = restored.Nodes.Where(n => n.After is not null && (n.Before is null || n.After.Geometry != n.Before.Geometry)).Select(n => n.After!).ToList();
        var missing = await store.Missing(Id, returning);
        if (missing is not null)
        {
            throw new Refusal(
                Refusals.NotFound,
                $"The geometry of “{missing.Name}” was cleared since, so this step cannot be taken back or done again. Import the file anew.");
        }
    }

    private static bool Continues(SceneHistory history, string by, bool undo, long to) => undo
        ? history.Steps.Any(s => s.By == by && s.Standing && s.Number > to)
        : history.Steps.Any(s => s.By == by && s.Undone && !s.Dropped && s.Number <= to);

    private async Task<string?> FirstAnswer(Guid? key, byte[] hash)
    {
        if (key is not { } known || await store.AnswerTo(Id, known) is not { } first)
        {
            return null;
        }

        return first.RequestHash.AsSpan().SequenceEqual(hash)
            ? first.Json
            : throw new Refusal(Refusals.KeyReused, "This key was used for another call before. Make a new key for each call.");
    }

    /// <summary>A node that the edits write must be as the caller saw it; nodes that are only read count as they are.</summary>
    private void CheckSeen(Change change, long seen)
    {
        foreach (var (id, before, _) in change.Nodes)
        {
            if (before is not null && _nodeRevisions.TryGetValue(id, out var revision) && revision > seen)
            {
                var last = _history.Steps.LastOrDefault(s => s.Standing && s.Writes.Any(w => w.Node == id))?.Sentence;
                var present = before.Kind == NodeKind.Collection ? "" : $" It stands at {new Speaker(_document).Lengths3(before.Placement.Position)} now.";
                throw new Refusal(
                    Refusals.ChangedMeanwhile,
                    $"“{before.Name}” has been changed meanwhile{(last is null ? "" : $" (“{last}”)")}, so this edit was not made.{present} Make it again if you still want it.");
            }
        }
    }

    /// <summary>Geometry that edits made is stored with the step that uses it.</summary>
    private static List<Blob> BlobsOf(Change change) =>
        [.. change.Made.Select(made => new Blob(made.Key, BlobStore.GeometryType, GeometryBinary.Write(made.Value)))];

    private StepAnswer AnswerOf(Change change, Step step, IReadOnlyList<string> picked, Guid? key)
    {
        var changed = change.Nodes.Where(n => n.After is not null).Select(n => NodeData.From(n.After!)).ToArray();
        var removed = change.Nodes.Where(n => n.After is null).Select(n => n.Id).ToArray();
        return new(_document.Revision + 1, new(step.Number, step.Sentence, step.By, picked), changed, removed, key, Digest.Of(change));
    }

    private static KeyedAnswer? Keyed(Guid? key, byte[] hash, string answer) => key is { } known ? new(known, hash, answer) : null;

    private void Apply(Change change)
    {
        _document.Apply(change);
        _document.Revision++;
        _evaluator?.Update(change);
        foreach (var (id, _, after) in change.Nodes)
        {
            if (after is null)
            {
                _nodeRevisions.Remove(id);
            }
            else
            {
                _nodeRevisions[id] = _document.Revision;
            }
        }
    }

    private async Task Guarded(Func<Task> write)
    {
        try
        {
            await write();
        }
        catch (Exception)
        {
            Spoiled = true;
            throw;
        }
    }
}
