using System.Security.Cryptography;
using System.Text;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CalmPivot.Server.Api;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Push;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Scenes;

/// <summary>
/// A scene in memory, in step with the database: calls that write go one after the other; each is stored before it is put in
/// here, answered or pushed. Where another server was first, what it did is taken in by the log; after a failure of the database the
/// copy is given up and loaded anew. Reading never waits for what is being computed.
/// </summary>
public sealed partial class OpenScene(LoadedScene loaded, Stores stores, IScenePush push, LogLines? lines = null) : IDisposable
{
    /// <summary>Where two servers write one scene, each is behind every other time.</summary>
    private const int MostTries = 20;

    /// <summary>By so many revisions a scene is led back to what was answered then.</summary>
    private const int MostWalkedBack = 5_000;

    /// <summary>Of a caller that has not looked for longer, it is not looked for what was changed since.</summary>
    private const int MostLookedThrough = 20_000;

    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly SceneState _state = new(loaded);

    public string Id => Document.Id;

    /// <summary>For so many days steps are kept; null: for good.</summary>
    public int? KeepDays { get; private set; } = loaded.KeepDays;

    /// <summary>True after a failure: what is here may differ from what is stored.</summary>
    public bool Spoiled { get; private set; }

    private SceneDocument Document => _state.Document;

    /// <summary>Reads the scene as it stands.</summary>
    public T Read<T>(Func<SceneDocument, SceneHistory, T> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        return _state.Read(read);
    }

    /// <summary>Reads the scene with all world matrices, or one of its shots.</summary>
    /// <exception cref="Refusal">not-found: there is no such shot.</exception>
    public T Evaluated<T>(string? shot, Func<SceneDocument, IScene, Evaluator, T> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        return shot is null ? _state.Evaluated((document, evaluator) => read(document, document, evaluator))
            : _state.Read((document, _) =>
            {
                var layer = Layered.Over(document, new(shot));
                using var evaluator = new Evaluator(layer);
                return read(document, layer, evaluator);
            });
    }

    /// <summary>Does something with what the nodes use of stored geometry and pictures, while nothing changes the scene.</summary>
    public Task<T> Alone<T>(Func<string[], Task<T>> act)
    {
        ArgumentNullException.ThrowIfNull(act);
        return InTurn(() => act([.. Document.Everything.SelectMany(SceneStore.BlobsOf).Distinct()]));
    }

    /// <summary>Makes edits as one step.</summary>
    /// <param name="page">The connection of the page that calls; it is not told what it is answered.</param>
    /// <param name="scope">The current shot of who calls, and whether they are made in it alone; null: in the scene.</param>
    public Task<StepAnswer> Edit(string by, long seen, Guid? key, IReadOnlyList<Edit> edits, string? page = null, Scope? scope = null) => Kept(
        key,
        RequestOf(scope?.Shot is null ? "edits" : $"edits {(scope.Narrow ? "in" : "on")} {scope.Shot}", key is null ? "" : StoreJson.Write<Edit[]>([.. edits])),
        async () =>
        {
            var (change, sentence) = Run(edits, scope);
            if (change.IsEmpty)
            {
                throw new Refusal(Refusals.NothingToChange, Batch.NothingToChange);
            }

            // What shots have of their own is worked out anew from what is there, where an edit only keeps things in their place.
            var asked = scope is { Narrow: true } || edits.Any(e => e.IsOfShots) ? change : change with { Entities = [.. change.Entities.Where(e => (e.After ?? e.Before) is not Cheat)] };
            await CheckSeen(asked, seen);
            var made = BlobsOf(change);
            await CheckHas(change, made);
            return Made(by, sentence, change, LogStore.PickedBy(edits), made);
        },
        page);

    /// <summary>Stores a change that was worked out elsewhere (an import, the demo) as one step.</summary>
    /// <param name="stored">Told how many of how many nodes are stored.</param>
    public Task<StepAnswer> Change(
        string by, string sentence, Func<IScene, Change> work, IReadOnlyList<Blob> blobs, Func<int, int, Task>? stored = null, CancellationToken stopped = default) => Kept(
        null,
        null,
        async () =>
        {
            var change = work(Document);
            await CheckHas(change, blobs);
            var made = Made(by, sentence, change, [], blobs);
            return made with { Commit = made.Commit with { Stored = stored, Stopped = stopped } };
        },
        null);

    /// <summary>Takes back the person's own latest standing step, or all down to a step.</summary>
    public Task<StepAnswer> Undo(string by, Guid? key, long? to, string? page = null) =>
        Kept(key, RequestOf("undo", $"{to}"), () => Restored(by, undo: true, to), page);

    /// <summary>Does the person's own earliest undone step again, or all up to a step.</summary>
    public Task<StepAnswer> Redo(string by, Guid? key, long? to, string? page = null) =>
        Kept(key, RequestOf("redo", $"{to}"), () => Restored(by, undo: false, to), page);

    /// <summary>Gives the scene another name or unit.</summary>
    public Task Describe(string? name, string? unit) => InTurn(async () =>
    {
        var fitting = name is null ? null : Rename.Fitting(name);
        for (var tries = 1; ; tries++)
        {
            var described = new Described(Document.Name, Document.Unit, fitting ?? Document.Name, unit ?? Document.Unit);
            var outcome = await Guarded(() => stores.Line.Write(new(_state.Number, Document.Revision, Act.Described, Core.Scene.Change.None) { Described = described }));
            if (outcome.Outcome == Outcome.Stored)
            {
                Settle(() => _state.Describe(described.Name, described.Unit));
                await push.Described(Id, new(Document.Revision, described.Name, described.Unit));
                return true;
            }

            await CatchUp(tries);
        }
    });

    /// <summary>Takes in what other servers have done up to a revision, and tells the pages here.</summary>
    public Task Heed(long revision) => InTurn(async () =>
    {
        if (Document.Revision < revision)
        {
            await CatchUp(1);
        }

        return true;
    });

    public Task NameStep(long number, string? name) => InTurn(async () =>
    {
        if (!await Guarded(() => stores.Steps.Name(_state.Number, number, name)))
        {
            throw SceneHistory.NoSuchStep();
        }

        Settle(() => _state.NameStep(number, name));
        push.Anew(Id);
        return true;
    });

    /// <summary>Says for how many days steps are kept; null: for good.</summary>
    public Task KeepSteps(int? days) => InTurn(async () =>
    {
        await Guarded(async () =>
        {
            await stores.Scenes.Keep(_state.Number, days);
            return true;
        });
        KeepDays = days;
        push.Anew(Id);
        return true;
    });

    /// <summary>Steps before a number, the latest of them; of those at hand, or of all that are stored.</summary>
    public async Task<IReadOnlyList<Step>> Steps(long before, int most)
    {
        var (steps, older) = _state.Read((_, history) => (history.Steps, history.Older));
        var here = steps.Where(s => s.Number < before).TakeLast(most).ToList();
        return here.Count == most || !older ? here : await stores.Steps.Before(_state.Number, before, most);
    }

    /// <summary>What a step did.</summary>
    public async Task<PartChange[]> WrittenBy(long number) => (await stores.Log.StepOf(Id, _state.Number, number)).Written;

    /// <summary>What led from a revision to the scene as it stands; as much as is answered at once.</summary>
    /// <exception cref="Refusal">no-longer-kept.</exception>
    public async Task<LogTail> Log(long after)
    {
        var tail = await stores.Log.After(_state.Number, after) ?? throw new BehindException();
        return after >= tail.After ? tail : throw new Refusal(
            Refusals.NoLongerKept, $"What changed before revision {tail.After} of this scene is no longer kept. Fetch the scene whole.");
    }

    public void Dispose()
    {
        _state.Dispose();
        _turn.Dispose();
    }

    private static byte[] RequestOf(string call, string body) => SHA256.HashData(Encoding.UTF8.GetBytes($"{call}\n{body}"));

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

    /// <summary>
    /// Works something out, stores it and puts it in. Where another server was first, what that did is taken in by the log, and it is
    /// worked out again; where its key was used before, the first answer is given again.
    /// </summary>
    private Task<StepAnswer> Kept(Guid? key, byte[]? request, Func<Task<Prepared>> work, string? page) => InTurn(async () =>
    {
        for (var tries = 1; ; tries++)
        {
            if (key is { } known && _state.CallWith(known) is { } before)
            {
                return await Again(before, known, request!);
            }

            if (key is { } former && _state.FormerKeys.Contains(former) && await stores.Log.FormerAnswer(Id, former) is { } answered)
            {
                return answered.Request.AsSpan().SequenceEqual(request) ? WireJson.Read<StepAnswer>(answered.Json, ApiJson.Options) : throw KeyReused();
            }

            Prepared made;
            try
            {
                made = await work();
            }
            catch (Refusal) when (tries <= MostTries)
            {
                // A call that was made already may well not be possible twice, and another server may have made it possible.
                if (key is { } used && await stores.Log.CallWith(_state.Number, used) is { } first)
                {
                    return await Again(first, used, request!);
                }

                if (await stores.Log.After(_state.Number, Document.Revision) is not { Rows.Count: 0 })
                {
                    await CatchUp(tries);
                    continue;
                }

                throw;
            }

            var (commit, step, history) = (made.Commit with { Key = key, Request = key is null ? null : request }, made.Step, made.History);
            var outcome = await Guarded(() => stores.Line.Write(commit));
            switch (outcome.Outcome)
            {
                case Outcome.Stored:
                    var answer = Answers.Of(Document.Revision + 1, step, commit.Change, key);
                    Settle(() => _state.Put(commit.Change, Core.History.Step.WritesOf(commit.Change), commit.Act == Act.Step ? commit.Step : null, history, key, commit.Request));
                    await Tell(answer, page);
                    return answer;
                case Outcome.Repeated:
                    return await Again(outcome.First!, key!.Value, request!);
                default:
                    await CatchUp(tries);
                    break;
            }
        }
    });

    private Prepared Made(string by, string sentence, Change change, IReadOnlyList<string> picked, IReadOnlyList<Blob> blobs)
    {
        var step = new Step(_state.History.NextNumber, sentence, by, Now(), Core.History.Step.WritesOf(change));
        return new(
            new(_state.Number, Document.Revision, Act.Step, change) { Step = step, Picked = picked, Blobs = blobs, DropsRedo = _state.History.Older || _state.History.CanRedo(by) },
            new(step.Number, sentence, by, picked),
            null);
    }

    /// <summary>As the database keeps it, so that every server says the same.</summary>
    private static DateTimeOffset Now()
    {
        var now = DateTimeOffset.UtcNow;
        return now.AddTicks(-(now.Ticks % TimeSpan.TicksPerMicrosecond));
    }

    private async Task<Prepared> Restored(string by, bool undo, long? to)
    {
        await Reach(by, undo, to);
        var history = new SceneHistory(_state.History);
        var draft = new SceneDraft(Document);
        var marks = new List<long>();

        // What is gone has no name any more.
        string NameOf(string id) => Document.FindAny(id) is null ? "" : new Speaker(Document).Name(id);
        if (to is { } wanted && !Continues(history, by, undo, wanted))
        {
            throw new Refusal(Refusals.NothingToUndo, "The scene stands at this step already, as far as your own steps go.");
        }

        Step? last = null;
        IReadOnlyList<string> picked = [];
        while (last is null || (to is not null && Continues(history, by, undo, to.Value)))
        {
            last = undo ? history.ToUndo(by, NameOf) : history.ToRedo(by, NameOf);
            (var written, picked) = await stores.Log.StepOf(Id, _state.Number, last.Number);
            var changes = new Dictionary<long, Change> { [last.Number] = PartChange.Sparse(written) };
            foreach (var earlier in undo ? history.EarlierThan(last).Select(e => e.Step).Distinct() : [])
            {
                changes[earlier] = PartChange.Sparse((await stores.Log.StepOf(Id, _state.Number, earlier)).Written);
            }

            draft.Take(undo ? history.Undoing(draft, last, number => changes[number]) : history.Redoing(draft, last, changes[last.Number]));
            history.Mark(last.Number, undo);
            marks.Add(last.Number);
        }

        var restored = draft.ToChange();
        Worlds.Check(Document, restored);
        await CheckStored(restored);
        return new(
            new(_state.Number, Document.Revision, undo ? Act.Undo : Act.Redo, restored) { Step = last, Marks = marks },
            new(last.Number, last.Sentence, last.By, picked),
            history);
    }

    /// <summary>Reads the older steps that an undo or redo needs, where the latest ones do not do.</summary>
    private async Task Reach(string by, bool undo, long? to)
    {
        if (!_state.History.Older)
        {
            return;
        }

        var (from, own) = (_state.History.From, _state.History.Steps.Any(s => s.By == by && s.Standing));
        if (await stores.Steps.Needed(_state.Number, from, by, undo, to, own) is { } needed)
        {
            _state.Reach(await stores.Steps.Between(Id, _state.Number, needed, from), older: needed > 0);
        }
    }

    /// <summary>Takes in what another server stored meanwhile.</summary>
    /// <exception cref="BehindException">It cannot be taken in: the scene is to be loaded anew.</exception>
    private async Task CatchUp(int tries)
    {
        try
        {
            for (var reached = false; !reached;)
            {
                var tail = tries > MostTries ? null : await stores.Log.After(_state.Number, Document.Revision);
                if (tail is null || tail.After > Document.Revision || tail.Rows.Count == 0)
                {
                    throw new BehindException();
                }

                foreach (var row in tail.Rows)
                {
                    if (row.Revision != Document.Revision + 1)
                    {
                        throw new BehindException();
                    }

                    TakeIn(row);
                    await push.Entered(Id, Answers.Of(row));
                }

                reached = Document.Revision == tail.Revision;
            }
        }
        catch (Exception e)
        {
            GiveUp(e, "what another server stored could not be taken in");
            throw e is BehindException or NpgsqlException ? e : new BehindException();
        }
    }

    private void TakeIn(LogRow row)
    {
        if (row.Described is { } described)
        {
            _state.Describe(described.Name, described.Unit, row.Key, row.Request);
            return;
        }

        // A step that is not at hand is of those that would have to be read first.
        var history = row.Act == Act.Step ? null : new SceneHistory(_state.History);
        foreach (var number in history is null ? [] : row.Marks)
        {
            history!.Mark(number, row.Act == Act.Undo);
        }

        var step = row.Act == Act.Step ? (row.Step ?? throw new BehindException()) with { Undone = false, Dropped = false, Wavered = false, Writes = row.Writes } : null;
        _state.Put(PartChange.On(Document, row.Written), row.Writes, step, history, row.Key, row.Request);
    }

    /// <summary>The first answer to a call that is sent again.</summary>
    private async Task<StepAnswer> Again(KeyedCall first, Guid key, byte[] request)
    {
        if (!first.Request.AsSpan().SequenceEqual(request))
        {
            throw KeyReused();
        }

        if (first.Revision > Document.Revision)
        {
            await CatchUp(1);
        }

        var rows = new List<LogRow>();
        for (var at = first.Revision - 1; at < Document.Revision; at = rows[^1].Revision)
        {
            var tail = await stores.Log.After(_state.Number, at) ?? throw new BehindException();
            rows.AddRange(tail.Rows.Where(r => r.Revision <= Document.Revision));
            if (rows.Count == 0 || rows[0].Revision != first.Revision || tail.Rows.Count == 0 || rows.Count > MostWalkedBack || rows.Sum(r => r.Written.Length) > SceneDocument.MostNodes)
            {
                throw new Refusal(Refusals.NoLongerKept, "This was done, but so much was done since that what was answered is no longer known. Reload the scene.");
            }
        }

        return Answers.Again(Document, rows, key);
    }

    private static Refusal KeyReused() => new(Refusals.KeyReused, "This key was used for another call before. Make a new key for each call.");

    private (Change Change, string Sentence) Run(IReadOnlyList<Edit> edits, Scope? scope)
    {
        try
        {
            return Batch.Run(Document, edits, scope);
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
        if (await stores.Scenes.Missing(Id, [.. Commit.UsingOf(restored)], []) is { } missing)
        {
            throw new Refusal(
                Refusals.NotFound,
                $"The {(missing is Material ? "pictures" : "geometry")} of “{missing.Name}” {(missing is Material ? "were" : "was")} cleared since, so this step cannot be taken back or done again. Import the file anew.");
        }
    }

    /// <summary>What a change gives to things must be the scene's own, or come with it: a hash alone is no means to what others have.</summary>
    private async Task CheckHas(Change change, IReadOnlyList<Blob> coming)
    {
        switch (await stores.Scenes.Missing(Id, [.. Commit.UsingOf(change)], coming))
        {
            case null:
                return;
            case Node mesh:
                throw new Refusal(Refusals.NotFound, $"The geometry of “{mesh.Name}” is not in this scene. Bring the file in first.");
            case Material material:
                throw new Refusal(Refusals.NotFound, $"A picture of “{material.Name}” has not been brought in. Bring it in first, then give it to the material.");
            default:
                throw new Refusal(Refusals.NotFound, "A picture of the surroundings has not been brought in. Bring it in first, then give it to them.");
        }
    }

    private static bool Continues(SceneHistory history, string by, bool undo, long to) => undo
        ? history.Steps.Any(s => s.By == by && s.Standing && s.Number > to)
        : history.Steps.Any(s => s.By == by && s.Undone && !s.Dropped && s.Number <= to);

    /// <summary>What the edits write must be as the caller saw it, part by part; what is only read counts as it is.</summary>
    private async Task CheckSeen(Change change, long seen)
    {
        if (seen >= Document.Revision)
        {
            return;
        }

        var theirs = new Dictionary<string, Parts>();
        var remembered = _state.RemembersAfter;
        if (change.All.Any(one => one.Before is not null) && ((seen < _state.LogAfter && _state.LogAfter > 1) || remembered - seen > MostLookedThrough))
        {
            throw new Refusal(
                Refusals.ChangedMeanwhile,
                "The scene has been changed since you saw it, further back than is remembered, so this edit was not made. Fetch the scene and make it again.");
        }

        var earlier = seen < remembered ? await stores.Log.WritesBetween(_state.Number, seen, remembered) : [];
        foreach (var (id, parts) in earlier.Concat(_state.WrittenAfter(seen)))
        {
            theirs[id] = theirs.GetValueOrDefault(id) | parts;
        }

        foreach (var one in change.All)
        {
            var (written, mine) = (theirs.GetValueOrDefault(one.Id), one.Written());
            if (one.Before is { } before && written != Parts.None && ((mine & written) != 0 || ((mine | written) & Parts.Existence) != 0))
            {
                var last = _state.History.Steps.LastOrDefault(s => s.Standing && s.Writes.Any(w => w.Node == one.Id && ((w.Fields & mine) != 0 || ((w.Fields | mine) & Parts.Existence) != 0)))?.Sentence;
                var who = before switch { Surroundings => "The surroundings have", Timing => "The frames of the scene have", _ => $"“{new Speaker(Document).Name(before.Id)}” has" };
                var present = before is not Node node ? "" : $" It stands at {new Speaker(Document).Lengths3(node.Placement.Position)} now.";
                throw new Refusal(
                    Refusals.ChangedMeanwhile,
                    $"{who} been changed meanwhile{(last is null ? "" : $" (“{last}”)")}, so this edit was not made.{present} Make it again if you still want it.");
            }
        }
    }

    /// <summary>Geometry that edits made is stored with the step that uses it.</summary>
    private static List<Blob> BlobsOf(Change change) =>
        [.. change.Made.Select(made => new Blob(made.Key, BlobStore.GeometryType, GeometryBinary.Write(made.Value)))];

    /// <summary>The copy is loaded anew when it is next asked for. Said once, with what led to it.</summary>
    private void GiveUp(Exception e, string why)
    {
        if (!Spoiled && e is not (BehindException or OperationCanceledException))
        {
            lines?.Write("loaded anew", log => GivenUp(log, e, Id, why));
        }

        Spoiled = true;
    }

    [LoggerMessage(LogLevel.Warning, "Scene {Scene} is loaded anew: {Why}.")]
    private static partial void GivenUp(ILogger log, Exception e, string scene, string why);

    /// <summary>Whatever fails in the database leaves open what is stored; then the copy is given up.</summary>
    private async Task<T> Guarded<T>(Func<Task<T>> write)
    {
        try
        {
            return await write();
        }
        catch (Exception e)
        {
            GiveUp(e, "something failed while it was stored");
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
        catch (Exception e)
        {
            GiveUp(e, "what is stored could not be put in");
        }
    }

    /// <summary>Tells the pages. One that does not hear of it sees by the next revision that it has missed something.</summary>
    private async Task Tell(StepAnswer answer, string? page)
    {
        try
        {
            await push.Stepped(Id, answer, page);
        }
        catch (Exception e)
        {
            GiveUp(e, "the pages could not be told");
        }
    }

    /// <summary>What is to be stored, what is answered, and the history after it where that changes otherwise than by a new step.</summary>
    private sealed record Prepared(Commit Commit, StepLine Step, SceneHistory? History);
}
