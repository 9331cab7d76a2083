using System.Security.Cryptography;
using System.Text;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CalmPivot.Server.Api;
using CalmPivot.Server.Push;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Scenes;

/// <summary>
/// A scene in memory, in step with the database: calls that write go one after the other; each is stored before it is put in
/// here, answered or pushed. After a failure of the database, or where another server was first, the copy is given up and
/// loaded anew. Reading never waits for what is being computed.
/// </summary>
public sealed class OpenScene(LoadedScene loaded, SceneStore store, IScenePush push) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly SceneState _state = new(loaded);

    public string Id => Document.Id;

    /// <summary>True after a failure: what is here may differ from what is stored.</summary>
    public bool Spoiled { get; private set; }

    private SceneDocument Document => _state.Document;

    /// <summary>Reads the scene as it stands.</summary>
    public T Read<T>(Func<SceneDocument, SceneHistory, T> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        return _state.Read(read);
    }

    /// <summary>Reads the scene with all world matrices.</summary>
    public T Evaluated<T>(Func<SceneDocument, Evaluator, T> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        return _state.Evaluated(read);
    }

    /// <summary>Does something with what the nodes use of stored geometry and pictures, while nothing changes the scene.</summary>
    public Task<T> Alone<T>(Func<string[], Task<T>> act)
    {
        ArgumentNullException.ThrowIfNull(act);
        return InTurn(() => act([.. Document.Nodes.SelectMany(SceneStore.BlobsOf).Distinct()]));
    }

    /// <summary>Makes edits as one step.</summary>
    /// <param name="page">The connection of the page that calls; it is not told what it is answered.</param>
    public Task<string> Edit(string by, long seen, Guid? key, IReadOnlyList<Edit> edits, string? page = null) => Step(
        key,
        HashOf("edits", StoreJson.Write<Edit[]>([.. edits])),
        () =>
        {
            var (change, sentence) = Run(edits);
            CheckSeen(change, seen);
            return (change, sentence, edits, BlobsOf(change));
        },
        by,
        page);

    /// <summary>Stores a change that was worked out elsewhere (an import, the demo) as one step.</summary>
    /// <param name="stored">Told how many of how many nodes are stored.</param>
    public Task<string> Change(
        string by, string sentence, Func<IScene, Change> work, IReadOnlyList<Blob> blobs, Func<int, int, Task>? stored = null, CancellationToken stopped = default) =>
        Step(null, [], () => (work(Document), sentence, [], blobs), by, stored: stored, stopped: stopped);

    /// <summary>Takes back the person's own latest standing step, or all down to a step.</summary>
    public Task<string> Undo(string by, Guid? key, long? to, string? page = null) => Restore("undo", by, key, to, page);

    /// <summary>Does the person's own earliest undone step again, or all up to a step.</summary>
    public Task<string> Redo(string by, Guid? key, long? to, string? page = null) => Restore("redo", by, key, to, page);

    /// <summary>Gives the scene another name or unit.</summary>
    public Task Describe(string? name, string? unit) => InTurn(async () =>
    {
        var (newName, newUnit) = (name is null ? Document.Name : Rename.Fitting(name), unit ?? Document.Unit);
        await Guarded(() => store.Describe(Id, newName, newUnit, Document.Revision));
        Settle(() => _state.Describe(newName, newUnit));
        await push.Described(Id, new(Document.Revision, newName, newUnit));
        return true;
    });

    public Task NameStep(long number, string? name) => InTurn(async () =>
    {
        _state.Read((_, history) => history.Steps.Any(s => s.Number == number) ? true : throw SceneHistory.NoSuchStep());
        await Guarded(() => store.NameStep(Id, number, name));
        Settle(() => _state.NameStep(number, name));
        return true;
    });

    public void Dispose()
    {
        _state.Dispose();
        _turn.Dispose();
    }

    private static byte[] HashOf(string call, string body) => SHA256.HashData(Encoding.UTF8.GetBytes($"{call}\n{body}"));

    private async Task<T> InTurn<T>(Func<Task<T>> act)
    {
        await _turn.WaitAsync();
        try
        {
            // Who waited here while the copy was given up goes on with the one that is loaded anew.
            return Spoiled ? throw new BehindException() : await act();
        }
        finally
        {
            _turn.Release();
        }
    }

    private Task<string> Step(
        Guid? key,
        byte[] hash,
        Func<(Change Change, string Sentence, IReadOnlyList<Edit> Edits, IReadOnlyList<Blob> Blobs)> work,
        string by,
        string? page = null,
        Func<int, int, Task>? stored = null,
        CancellationToken stopped = default) => InTurn(async () =>
    {
        if (await FirstAnswer(key, hash) is { } first)
        {
            return first;
        }

        var (change, sentence, edits, blobs) = work();
        var step = new Step(_state.History.NextNumber, sentence, by, DateTimeOffset.UtcNow, Core.History.Step.WritesOf(change));
        var answer = AnswerOf(change, step, SceneStore.PickedBy(edits), key);
        var json = WireJson.Write(answer, ApiJson.Options);
        var commit = new Commit(
            Document,
            change,
            new(step, edits, _state.History.RedoOf(by)),
            new Dictionary<long, bool>(),
            Keyed(key, hash, json),
            blobs)
        { Stored = stored, Stopped = stopped };
        await Guarded(() => store.Write(commit));
        Settle(() => _state.Put(change, step));
        await Tell(answer, page);
        return json;
    });

    private Task<string> Restore(string call, string by, Guid? key, long? to, string? page) => InTurn(async () =>
    {
        var hash = HashOf(call, $"{to}");
        if (await FirstAnswer(key, hash) is { } first)
        {
            return first;
        }

        var undo = call == "undo";
        var history = new SceneHistory(_state.History.Steps);
        var draft = new SceneDraft(Document);
        var marks = new Dictionary<long, bool>();
        string NameOf(string id) => Document.FindAny(id)?.Name ?? "an object that is gone";
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

            draft.Take(undo ? history.Undoing(draft, last, number => changes[number]) : SceneHistory.Restoring(draft, change));
            history.Mark(last.Number, undo);
            marks[last.Number] = undo;
        }

        var restored = draft.ToChange();
        Worlds.Check(Document, restored);
        await CheckStored(restored);
        var answer = AnswerOf(restored, last, picked, key);
        var json = WireJson.Write(answer, ApiJson.Options);
        await Guarded(() => store.Write(new(Document, restored, null, marks, Keyed(key, hash, json), [])));
        Settle(() => _state.Put(restored, history: history));
        await Tell(answer, page);
        return json;
    });

    private (Change Change, string Sentence) Run(IReadOnlyList<Edit> edits)
    {
        try
        {
            return Batch.Run(Document, edits);
        }
        catch (Refusal refusal) when (refusal.Word == Refusals.NotFound && GoneBy(edits) is { } removal)
        {
            throw new Refusal(Refusals.NotFound, $"An object of this edit is not in the scene any more since “{removal}”. Pick another, or undo that.");
        }
    }

    /// <summary>The step that took away an object that edits are about; null: no step is known.</summary>
    private string? GoneBy(IReadOnlyList<Edit> edits)
    {
        var gone = edits.Where(e => e is not null).SelectMany(e => e.Picked).Where(id => Document.FindAny(id) is null).ToHashSet();
        return _state.History.Steps.LastOrDefault(s => s.Standing
            && s.Writes.Any(w => gone.Contains(w.Node) && (w.Fields & Parts.Existence) != 0))?.Sentence;
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
        foreach (var (id, before, _) in change.All)
        {
            if (before is not null && _state.RevisionOf(id) > seen)
            {
                var last = _state.History.Steps.LastOrDefault(s => s.Standing && s.Writes.Any(w => w.Node == id))?.Sentence;
                var present = before is not Node node ? "" : $" It stands at {new Speaker(Document).Lengths3(node.Placement.Position)} now.";
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
        var changed = change.Nodes.Where(n => n.After is not null).Select(n => new NodeData(n.After!)).ToArray();
        var removed = change.Nodes.Where(n => n.After is null).Select(n => n.Id).ToArray();
        var entities = change.Entities.Where(e => e.After is not null).Select(e => new EntityData(e.After!)).ToArray();
        var gone = change.Entities.Where(e => e.After is null).Select(e => new GoneEntity(EntityKinds.WordOf(e.Before!), e.Id)).ToArray();
        return new(Document.Revision + 1, new(step.Number, step.Sentence, step.By, picked), changed, removed, entities, gone, key, Digest.Of(change));
    }

    private static KeyedAnswer? Keyed(Guid? key, byte[] hash, string answer) => key is { } known ? new(known, hash, answer) : null;

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

    /// <summary>Puts in what is stored. Where that fails the copy is given up: what is stored holds, and so does the answer.</summary>
    private void Settle(Action put)
    {
        try
        {
            put();
        }
        catch (Exception)
        {
            Spoiled = true;
        }
    }

    /// <summary>Tells the pages. One that does not hear of it sees by the next revision that it has missed something.</summary>
    private async Task Tell(StepAnswer answer, string? page)
    {
        try
        {
            await push.Stepped(Id, answer, page);
        }
        catch (Exception)
        {
            Spoiled = true;
        }
    }
}
