using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CalmPivot.Server.Api;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>The log of changes: it agrees with the nodes to the letter, and whoever was away catches up by it.</summary>
[Collection(nameof(OneServer))]
public sealed class LogTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    /// <summary>
    /// Three people at random, by a server that keeps a handful of steps in memory and one that is opened anew every now and then; a
    /// desk that keeps all in memory says what is to come of it.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public async Task Log_nodes_and_steps_agree_to_the_letter_after_thousands_of_edits_undos_and_redos_by_three(int seed)
    {
        await using var source = Database.Open(server.ConnectionString);
        var stores = StoresOf(source, latest: 4);
        var room = AnyEdit.Room(seed);
        var id = Guid.NewGuid().ToString("N");
        await stores.Scenes.Create(new SceneDocument(id, "Three", "m", 1, room.Everything, new BlobStore(source).Of(id)), [.. BlobsOf(room), new(AnyEdit.Image, "image/png", AnyEdit.Picture)]);
        var desk = new Desk(AnyEdit.Room(seed));
        var start = Lines(desk.Scene);
        var random = new Random(seed);
        var made = 0;
        var scene = await Open(stores, id);
        for (var i = 0; i < 1_000; i++)
        {
            if (random.Next(40) == 0)
            {
                scene.Dispose();
                scene = await Open(stores, id);
            }

            var (by, act, verb, at) = (new[] { "ada", "ben", "cleo" }[random.Next(3)], random.Next(10), AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], random.Next());
            Core.Edits.Edit? edit = null;
            try
            {
                edit = act < 5 ? AnyEdit.Of(verb, desk.Scene, at) : null;
            }
            catch (Exception e) when (e is Refusal or KeyNotFoundException)
            {
                continue;
            }

            StepAnswer? answer = null;
            var refused = await Refused(async () => answer = await (act < 5 ? scene.Edit(by, long.MaxValue, null, [edit!], null, AnyEdit.ScopeOf(desk.Scene, at)) : act < 8 ? scene.Undo(by, null, null) : scene.Redo(by, null, null)));
            if (act >= 5)
            {
                Assert.True(desk.Tried(() => Go(desk, by, back: act < 8)) == refused is null, $"{i} {by} {act}: {refused}");
            }
            else if (answer is not null)
            {
                // What an edit makes has ids of its own, so the desk takes what it came to.
                desk.Did(by, ChangeOf(desk.Scene, answer), answer.Step.Sentence);
            }

            made += refused is null ? 1 : 0;
            if (i % 100 == 0)
            {
                Assert.Equal(Lines(desk.Scene), scene.Read((document, _) => Lines(document)));
            }
        }

        scene.Dispose();
        Assert.True(made > 350, $"Only {made} were made.");

        // What the nodes say, what the log leads to, and what was done.
        var stored = (await stores.Scenes.Load(id))!;
        Assert.Equal(Lines(desk.Scene), Lines(stored.Document));
        var rows = new List<LogRow>();
        while (await stores.Log.After(stored.Number, 1 + rows.Count) is { Rows: { Count: > 0 } more })
        {
            rows.AddRange(more);
        }

        Assert.Equal(made, rows.Count);
        var replayed = new SceneDocument(id, "Three", "m", 1, AnyEdit.Room(seed).Everything, new BlobStore(source).Of(id));
        foreach (var row in rows)
        {
            replayed.Apply(PartChange.On(replayed, row.Written));
        }

        Assert.Equal(Lines(stored.Document), Lines(replayed));
        foreach (var row in rows.AsEnumerable().Reverse())
        {
            replayed.Apply(PartChange.On(replayed, row.Written.Reverse().Select(w => w with { Was = w.Is, Is = w.Was })));
        }

        Assert.Equal(start, Lines(replayed));
        var steps = await stores.Steps.Between(id, stored.Number, 0, long.MaxValue);
        Assert.Equal(
            desk.History.Steps.Select(s => (s.Number, s.By, s.Sentence, s.Undone, s.Dropped, s.Wavered, string.Join(' ', s.Writes.OrderBy(w => w.Node, StringComparer.Ordinal)))),
            steps.Select(s => (s.Number, s.By, s.Sentence, s.Undone, s.Dropped, s.Wavered, string.Join(' ', s.Writes.OrderBy(w => w.Node, StringComparer.Ordinal)))));
    }

    [Fact]
    public async Task Two_servers_that_write_one_scene_lose_nothing_do_nothing_twice_and_never_fail()
    {
        using var other = await server.Another();
        using var there = other.NewCaller();
        var id = await _caller.NewScene();
        var made = await Task.WhenAll(new[] { (_caller, "a"), (_caller, "b"), (there, "a"), (there, "b") }.Select(async who =>
        {
            var (caller, node) = who;
            var count = 0;
            for (var i = 0; i < 60; i++)
            {
                var body = new { @base = 1_000_000, key = Guid.NewGuid(), edits = new[] { Caller.Move(node, 1) } };
                var first = await caller.Post($"api/scenes/{id}/edits", body);
                count++;

                // Sent again to the other one, it is the same call.
                var again = await (caller == there ? _caller : there).Post($"api/scenes/{id}/edits", body);
                Assert.Equal(((long)first["revision"]!, (long)first["step"]!["number"]!, (string?)first["digest"]), ((long)again["revision"]!, (long)again["step"]!["number"]!, (string?)again["digest"]));
                Assert.True(JsonNode.DeepEquals(first["changed"], again["changed"]), again.ToJsonString());
            }

            return count;
        }));
        Assert.Equal(240, made.Sum());
        var log = await server.Query<long>($"select count(*) from log l join scenes c on c.no = l.scene where c.id = '{id}'");
        Assert.Equal(241, log);
        await _caller.Edit(id, 1_000_000, Caller.Move("a", 0.5));
        Assert.Equal((120.5, 120.0), (await _caller.XOf(id, "a"), await _caller.XOf(id, "b")));
    }

    [Fact]
    public async Task A_page_that_was_away_for_a_day_catches_up_by_the_log()
    {
        var id = await _caller.NewScene();
        using var page = new Core.Replicas.Replica((await Whole(id))!);
        for (var i = 0; i < 620; i++)
        {
            await _caller.Edit(id, 1_000_000, Caller.Move(i % 2 == 0 ? "a" : "b", 0.25));
        }

        await _caller.Edit(id, 1_000_000, new { @do = "collection", name = "Set", nodes = new[] { "a" } }, new { @do = "remove", nodes = new[] { "b" } });
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 1_000_000, to = 600 });
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { name = "By night", unit = "ft" });
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 1_000_000 });
        var (calls, described) = (0, 0);
        for (long revision = 0; page.Scene.Revision != revision; calls++)
        {
            var answer = Core.Wire.WireJson.Read<LogAnswer>(await _caller.Http.GetStringAsync($"api/scenes/{id}/log?after={page.Scene.Revision}"), ApiJson.Options);
            revision = answer.Revision;
            foreach (var entry in answer.Entries)
            {
                page.Hear(entry.Revision, entry.Written, null, out _);
                described += entry.Described is { Name: "By night", NameWas: "Test", Unit: "ft", UnitWas: "m" } ? 1 : 0;
                Assert.Equal(entry.Act is Act.Described, entry.Step is null);
            }
        }

        Assert.Equal((2, 1), (calls, described));
        Assert.Equal(Lines((await Whole(id))!), Lines(page.Scene));
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/log?after=0", null, 410, "no-longer-kept");
        await _caller.Refused(HttpMethod.Get, "api/scenes/nowhere/log?after=0", null, 404, "not-found");
    }

    [Fact]
    public async Task Steps_come_by_page_and_far_ones_can_be_gone_back_to_and_named()
    {
        var id = await _caller.NewScene();
        for (var i = 0; i < 400; i++)
        {
            await _caller.Edit(id, 1_000_000, Caller.Move("a", 1));
        }

        var latest = (await _caller.Get($"api/scenes/{id}/steps")).AsArray();
        Assert.Equal((300, 102L, 401L), (latest.Count, (long)latest[0]!["number"]!, (long)latest[^1]!["number"]!));
        var before = (await _caller.Get($"api/scenes/{id}/steps?before=102&most=50")).AsArray();
        Assert.Equal((50, 52L, 101L), (before.Count, (long)before[0]!["number"]!, (long)before[^1]!["number"]!));
        Assert.Equal(51, (await _caller.Get($"api/scenes/{id}/steps?before=52")).AsArray().Count);
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/steps?most=0", null, 400, "not-understood");
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/steps?most=5000", null, 400, "not-understood");
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}/steps/3", new { name = "At first" });
        Assert.Equal("At first", (string?)(await _caller.Get($"api/scenes/{id}/steps?before=4&most=1"))[0]!["name"]);
        Assert.Equal("a", (string?)(await _caller.Get($"api/scenes/{id}/steps/3"))[0]!["id"]);
        await server.Restart();
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 1_000_000, to = 11 });
        Assert.Equal(10, await _caller.XOf(id, "a"));
        await server.Restart();
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 1_000_000 });
        Assert.Equal(11, await _caller.XOf(id, "a"));
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 1_000_000, to = 401 });
        Assert.Equal(400, await _caller.XOf(id, "a"));
    }

    [Fact]
    public async Task Somebodys_renaming_never_refuses_a_move()
    {
        using var ben = server.NewCaller();
        var id = await _caller.NewScene();
        await ben.Edit(id, 2, new { @do = "rename", node = "a", name = "of Ben" });
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        await ben.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Caller.Move("a", 1) } }, 409, "changed-meanwhile");

        // Nor does it after the server has forgotten what was written, and it is undone by itself.
        await server.Restart();
        await _caller.Edit(id, 2, Caller.Move("b", 1));
        var refused = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { new { @do = "rename", node = "a", name = "of Ada" } } }, 409, "changed-meanwhile");
        Assert.Contains("Renamed", (string)refused["detail"]!, StringComparison.Ordinal);
        await ben.Post($"api/scenes/{id}/undo", new { @base = 5 });
        Assert.Equal(1, await _caller.XOf(id, "a"));
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { new { @do = "remove", nodes = new[] { "a" } } } }, 409, "changed-meanwhile");
    }

    [Fact]
    public async Task A_call_is_answered_again_in_full_though_much_was_done_since_and_not_made_twice_though_it_could_not_be()
    {
        var id = await _caller.NewScene();
        var body = new { @base = 2, key = Guid.NewGuid(), edits = new object[] { new { @do = "create", node = new { id = "c", name = "C", kind = "shape" } }, Caller.Move("a", 1), new { @do = "collection", id = "set", name = "Set", nodes = new[] { "b" } } } };
        var first = await _caller.Post($"api/scenes/{id}/edits", body);
        await _caller.Edit(id, 3, new { @do = "rename", node = "c", name = "Other" }, Caller.Move("a", 5));
        await _caller.Edit(id, 4, new { @do = "remove", nodes = new[] { "c", "b" } });
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 5 });
        await _caller.Edit(id, 6, new { @do = "remove", nodes = new[] { "a" } });
        foreach (var restart in new[] { false, true })
        {
            if (restart)
            {
                await server.Restart();
            }

            var again = await _caller.Post($"api/scenes/{id}/edits", body);
            Assert.True(JsonNode.DeepEquals(first, again), $"{first.ToJsonString()}\n{again.ToJsonString()}");
            await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, body.key, edits = new[] { Caller.Move("a", 1) } }, 409, "key-reused");
        }

        Assert.Equal(7L, (long)(await _caller.Get($"api/scenes/{id}"))["revision"]!);
    }

    [Fact]
    public async Task An_undo_that_is_sent_again_takes_back_one_step_only()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        await _caller.Edit(id, 3, Caller.Move("a", 1));
        var body = new { @base = 4, key = Guid.NewGuid() };
        var first = await _caller.Post($"api/scenes/{id}/undo", body);
        Assert.True(JsonNode.DeepEquals(first, await _caller.Post($"api/scenes/{id}/undo", body)));
        await server.Restart();
        Assert.True(JsonNode.DeepEquals(first, await _caller.Post($"api/scenes/{id}/undo", body)));
        Assert.Equal(1, await _caller.XOf(id, "a"));
    }

    internal static Stores StoresOf(NpgsqlDataSource source, int latest = 300) => new(new(source, new(source)) { LatestSteps = latest }, new(source), new(source), new(source));

    internal static List<string> Lines(SceneDocument scene) =>
        [.. scene.Everything.OrderBy(e => e.Id, StringComparer.Ordinal).Select(e => Core.Wire.WireJson.Write(new EntityData(e)))];

    private async Task<SceneDocument?> Whole(string id)
    {
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        return (await new SceneStore(source, new BlobStore(source)).Load(id))?.Document;
    }

    private static async Task<OpenScene> Open(Stores stores, string id) => new((await stores.Scenes.Load(id))!, stores, new Nobody());

    private static void Go(Desk desk, string by, bool back)
    {
        if (back)
        {
            desk.Undo(by);
        }
        else
        {
            desk.Redo(by);
        }
    }

    private static Change ChangeOf(SceneDocument scene, StepAnswer answer) => Change.Of([
        .. answer.Removed.Concat(answer.Gone.Select(g => g.Id)).Select(id => new EntityChange(id, scene.FindAny(id), null)),
        .. answer.Changed.Select(n => new EntityChange(n.Id, scene.FindAny(n.Id), n.Node)),
        .. answer.Entities.Select(e => new EntityChange(e.Entity.Id, scene.FindAny(e.Entity.Id), e.Entity)),
    ]);

    private static List<Blob> BlobsOf(SceneDocument room) => [.. room.Nodes.SelectMany(SceneStore.BlobsOf).Distinct().Select(hash => room.Geometries.Find(hash) is { } geometry
        ? new Blob(hash, BlobStore.GeometryType, Core.Shapes.GeometryBinary.Write(geometry))
        : new Blob(hash, "image/png", []))];

    /// <returns>Why not; null: it was done.</returns>
    private static async Task<string?> Refused(Func<Task<StepAnswer>> act)
    {
        try
        {
            await act();
            return null;
        }
        catch (Refusal refusal)
        {
            return refusal.Message;
        }
    }

    internal sealed class Nobody : IScenePush
    {
        public Task Stepped(string scene, StepAnswer step, string? except = null) => Task.CompletedTask;

        public Task Described(string scene, DescribedPush description) => Task.CompletedTask;

        public Task Entered(string scene, LogEntry entry) => Task.CompletedTask;

        public Task Passed(string scene, long revision) => Task.CompletedTask;

        public void Anew(string scene)
        {
        }

        public Task Removed(string scene) => Task.CompletedTask;

        public Task Stills(string scene) => Task.CompletedTask;

        public Task Progress(string page, ProgressPush progress) => Task.CompletedTask;
    }
}
