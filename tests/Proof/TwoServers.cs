using System.Collections.Concurrent;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Demo;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Proof;

/// <summary>
/// Two servers, eight pages that write one scene: edits of all kinds, undos and redos. One server is killed in the middle and comes back, then the database. At last all
/// pages, both servers, the rows of the scene and its log agree to the letter, and each call that was answered is in the log once.
/// </summary>
internal static class TwoServers
{
    private const int Pages = 8;
    private const int EditsEach = 500;
    private const int Seed = 7;

    public static async Task<string> Run()
    {
        await using var one = ServerProcess.New();
        await using var two = ServerProcess.New();
        await Task.WhenAll(one.Start(), two.Start());
        var id = await House.Room(Seed);
        var (answers, keys, done) = (new Answers(), new ConcurrentDictionary<string, bool>(), 0);
        var pages = new List<Page>();
        for (var i = 0; i < Pages; i++)
        {
            pages.Add(new Page([one.Address, two.Address], id, answers, at: i));
            await pages[i].Open();
        }

        var (edits, undos, redos, refused) = (0, 0, 0, 0);
        var writing = pages.Select((page, who) => Task.Run(async () =>
        {
            var random = new Random(Seed + who);
            for (var made = 0; made < EditsEach;)
            {
                var key = Guid.NewGuid().ToString();
                var act = random.Next(10);
                var body = await page.With(scene => act < 7 ? Edits(scene, random) : new() { ["base"] = scene.Revision });
                if (body is null)
                {
                    continue;
                }

                body["key"] = key;
                if (!await page.Send(act < 7 ? "edits" : act < 9 ? "undo" : "redo", body))
                {
                    Interlocked.Increment(ref refused);
                    continue;
                }

                keys[key] = true;
                made += act < 7 ? 1 : 0;
                Interlocked.Increment(ref (act < 7 ? ref edits : ref (act < 9 ? ref undos : ref redos)));
                Interlocked.Increment(ref done);
            }
        })).ToArray();

        async Task Reached(double share)
        {
            while (edits < share * Pages * EditsEach && !writing.All(w => w.IsCompleted))
            {
                await Task.Delay(20);
            }
        }

        await Reached(0.4);
        await two.Kill();
        await Reached(0.55);
        await two.Start();
        await Reached(0.7);
        await House.KillDatabase(TimeSpan.FromMilliseconds(300));
        await Task.WhenAll(writing);

        // Nobody asks any more: what a page has not heard by now, it has to be told.
        await using var source = Database.Open(House.Connection);
        var stored = (await new SceneStore(source, new(source)).Load(id))!;
        for (var until = DateTime.UtcNow.AddSeconds(20); pages.Any(p => p.Scene.Revision < stored.Document.Revision) && DateTime.UtcNow < until;)
        {
            await Task.Delay(100);
        }

        var truth = House.Lines(stored.Document);
        foreach (var (page, i) in pages.Select((p, i) => (p, i)))
        {
            Check.That(page.Scene.Revision == stored.Document.Revision, $"Page {i} is at {page.Scene.Revision}, the scene at {stored.Document.Revision}.");
            Alike(truth, await page.With(House.Lines), $"Page {i}");
        }

        var steps = new List<string>();
        foreach (var server in new[] { one, two })
        {
            using var reader = new Writer([server.Address], answers);
            var copy = SceneBinary.Read(await (await reader.Read($"api/scenes/{id}/document")).ReadAsByteArrayAsync(), NoGeometries.Instance);
            Check.That(copy.Revision == stored.Document.Revision, $"{server.Address} is at {copy.Revision}.");
            Alike(truth, House.Lines(copy), $"The copy at {server.Address}");
            steps.Add((await reader.Json($"api/scenes/{id}/steps?most=1000")).ToJsonString());
        }

        Check.That(steps[0] == steps[1], "The servers say different steps.");
        await Log(source, stored, truth, id, keys.Keys);
        Check.That(answers.Failures.IsEmpty, string.Join('\n', answers.Failures.Take(5)));
        var caughtUp = pages.Sum(p => p.CaughtUp);
        foreach (var page in pages)
        {
            await page.DisposeAsync();
        }

        return $"2 servers, {Pages} pages, {edits} edits of all kinds, {undos} undos, {redos} redos, {refused} refused; a server killed, then the database: all agree to the letter, caught up {caughtUp} times ({answers})";
    }

    /// <summary>The log leads from the first room to what is stored and back, and holds each call that was answered once.</summary>
    private static async Task Log(NpgsqlDataSource source, LoadedScene stored, List<string> truth, string id, ICollection<string> keys)
    {
        var (log, rows) = (new LogStore(source), new List<LogRow>());
        while (await log.After(stored.Number, 1 + rows.Count) is { Rows: { Count: > 0 } more })
        {
            rows.AddRange(more);
        }

        Check.That(rows.Select(r => r.Revision).SequenceEqual(Enumerable.Range(2, rows.Count).Select(r => (long)r)), "The log has gaps.");
        var known = rows.Select(r => $"{r.Key}").ToList();
        Check.That(known.Distinct().Count() == known.Count, "A call was made twice.");
        Check.That(known.ToHashSet().SetEquals(keys), $"{keys.Except(known).Count()} calls that were answered are not in the log, and {known.Except(keys).Count()} are in it that were not.");
        var first = AnyEdit.Room(Seed);
        var replayed = new SceneDocument(id, "Room", "m", 1, first.Everything, new BlobStore(source).Of(id));
        rows.ForEach(row => replayed.Apply(PartChange.On(replayed, row.Written)));
        Alike(truth, House.Lines(replayed), "What the log leads to");
        foreach (var row in rows.AsEnumerable().Reverse())
        {
            replayed.Apply(PartChange.On(replayed, row.Written.Reverse().Select(w => w with { Was = w.Is, Is = w.Was })));
        }

        Alike(House.Lines(first), House.Lines(replayed), "What the log leads back to");
        var steps = await new StepStore(source).Between(id, stored.Number, 0, long.MaxValue);
        Check.That(steps.Select(s => s.Number).SequenceEqual(Enumerable.Range(1, steps.Count).Select(n => (long)n)), "The steps have gaps.");
    }

    private static void Alike(List<string> truth, List<string> other, string who) =>
        Check.That(truth.SequenceEqual(other), $"{who} differs from what is stored:\n{string.Join('\n', truth.Except(other).Take(3))}\n{string.Join('\n', other.Except(truth).Take(3))}");

    /// <summary>An edit of any kind, in any scope, on what a page shows; null: there is none of this kind.</summary>
    private static JsonObject? Edits(SceneDocument scene, Random random)
    {
        var (verb, seed) = (AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], random.Next());
        try
        {
            var body = new JsonObject { ["base"] = scene.Revision, ["edits"] = JsonNode.Parse(WireJson.Write<Edit[]>([AnyEdit.Of(verb, scene, seed)])) };
            if (AnyEdit.ScopeOf(scene, seed) is { Shot: { } shot } scope)
            {
                (body["shot"], body["scope"]) = (shot, scope.Narrow ? "shot" : "every");
            }

            return body;
        }
        catch (Exception e) when (e is Refusal or KeyNotFoundException)
        {
            return null;
        }
    }
}
