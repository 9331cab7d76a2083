using System.Net;
using System.Text.Json.Nodes;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Spaces;
using CalmPivot.Server.Api;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.SignalR.Client;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>What the store guards: one order of revisions, and blobs that belong to scenes.</summary>
[Collection(nameof(OneServer))]
public sealed class StoreTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task A_server_that_has_not_seen_the_latest_steps_takes_them_in_by_the_log_and_makes_its_own_on_top()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var stores = StoresOf(source);
        using var behind = new OpenScene((await stores.Scenes.Load(id))!, stores, new Nobody());
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        await _caller.Edit(id, 3, Caller.Move("a", 1));
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { name = "Renamed there", unit = "cm" });
        var answer = await behind.Edit("me", 2, Guid.NewGuid(), [new Move(["b"], new Vec3(5, 0, 0), new WorldSpace())]);
        Assert.Equal((7, 4), (answer.Revision, answer.Step.Number));
        Assert.False(behind.Spoiled);
        Assert.Equal((1, 5, "Renamed there", "cm"), behind.Read((document, _) => (document.Find("a")!.Placement.Position.X, document.Find("b")!.Placement.Position.X, document.Name, document.Unit)));
        Assert.Equal([false, false, true, false], behind.Read((_, history) => history.Steps.Select(s => s.Undone).ToArray()));

        // And what the caller of the one that was behind has not seen counts all the same.
        var refused = await Assert.ThrowsAsync<Core.Refusal>(() => behind.Edit("me", 3, null, [new Move(["a"], new Vec3(5, 0, 0), new WorldSpace())]));
        Assert.Equal(Core.Refusals.ChangedMeanwhile, refused.Word);
    }

    [Fact]
    public async Task What_fails_after_it_was_stored_is_answered_as_stored()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var stores = StoresOf(source);
        using var scene = new OpenScene((await stores.Scenes.Load(id))!, stores, new Nobody { Fails = true });
        var answer = await scene.Edit("me", 2, Guid.NewGuid(), [new Move(["b"], new Vec3(5, 0, 0), new WorldSpace())]);
        Assert.Equal(3, answer.Revision);
        Assert.True(scene.Spoiled);
        await using var again = NpgsqlDataSource.Create(server.ConnectionString);
        Assert.Equal(3, (await new SceneStore(again, new BlobStore(again)).Load(id))!.Document.Revision);

        // Whoever waits for its turn at the copy that was given up is led to what is stored.
        await Assert.ThrowsAsync<BehindException>(() => scene.Edit("me", 3, null, [new Move(["b"], new Vec3(5, 0, 0), new WorldSpace())]));
    }

    [Fact]
    public async Task A_name_that_was_given_without_having_seen_the_latest_step_does_not_set_the_revision_back()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var stores = StoresOf(source);
        using var behind = new OpenScene((await stores.Scenes.Load(id))!, stores, new Nobody());
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        await _caller.Edit(id, 3, Caller.Move("a", 1));
        await behind.Describe("Late", null);
        Assert.Equal(5L, await server.Query<long>($"select revision from scenes where id = '{id}'"));
    }

    [Fact]
    public async Task A_scene_is_read_while_an_edit_of_it_is_computed()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var stores = StoresOf(source);
        using var scene = new OpenScene((await stores.Scenes.Load(id))!, stores, new Nobody());
        using var computing = new ManualResetEventSlim();
        using var read = new ManualResetEventSlim();
        var change = Task.Run(() => scene.Change("me", "Slow", _ =>
        {
            computing.Set();
            return read.Wait(TimeSpan.FromSeconds(20)) ? Core.Scene.Change.None : throw new TimeoutException();
        }, []));
        computing.Wait();
        Assert.Equal(2, scene.Read((document, _) => document.Revision));
        Assert.Equal(1, scene.Evaluated(null, (_, _, evaluator) => evaluator.World("a").Linear.Determinant));
        read.Set();
        await change;
    }

    [Fact]
    public async Task Scenes_that_were_not_asked_for_the_longest_are_loaded_anew_and_nothing_of_them_is_lost()
    {
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var scenes = new OpenScenes(StoresOf(source), new Nobody()) { Most = 2 };
        string[] ids = [await _caller.NewScene(), await _caller.NewScene(), await _caller.NewScene()];
        var first = await scenes.Get(ids[0]);
        await scenes.Get(ids[1]);
        Assert.Same(first, await scenes.Get(ids[0]));
        await scenes.Get(ids[2]);
        Assert.Same(first, await scenes.Get(ids[0]));
        await scenes.Get(ids[1]);
        await scenes.Get(ids[2]);
        Assert.NotSame(first, await scenes.Get(ids[0]));

        // Who still has the old one, and who has the new one, do not lose each other's steps.
        await first.Edit("me", 2, null, [new Move(["a"], new Vec3(1, 0, 0), new WorldSpace())]);
        await scenes.With(ids[0], scene => scene.Edit("me", 3, null, [new Move(["a"], new Vec3(1, 0, 0), new WorldSpace())]));
        Assert.Equal(2, (await scenes.Get(ids[0])).Read((document, _) => document.Find("a")!.Placement.Position.X));
    }

    [Fact]
    public async Task What_was_not_asked_for_in_a_while_is_let_go_and_comes_back_when_asked_for()
    {
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var scenes = new OpenScenes(StoresOf(source), new Nobody());
        string[] ids = [await _caller.NewScene(), await _caller.NewScene()];
        var first = await scenes.Get(ids[0]);
        await scenes.Get(ids[1]);
        Assert.Equal(0, scenes.GiveUpIdle(TimeSpan.FromMinutes(1)));
        Assert.Equal(2, scenes.Count);
        Assert.Equal(2, scenes.GiveUpIdle(TimeSpan.Zero));
        Assert.Equal(0, scenes.Count);
        await first.Edit("me", 2, null, [new Move(["a"], new Vec3(1, 0, 0), new WorldSpace())]);
        Assert.Equal(1, (await scenes.Get(ids[0])).Read((document, _) => document.Find("a")!.Placement.Position.X));
    }

    [Fact]
    public async Task An_undo_restores_what_holds_without_the_step_though_somebody_else_has_wavered()
    {
        using var ben = server.NewCaller();
        var id = await _caller.NewScene();
        async Task Call(Caller by, string call) => await by.Post($"api/scenes/{id}/{call}", new { @base = 1_000 });
        await _caller.Edit(id, 2, new { @do = "rename", node = "a", name = "of Ada" });
        await ben.Edit(id, 3, new { @do = "rename", node = "a", name = "of Ben" });
        await Call(ben, "undo");
        await Call(_caller, "undo");
        await server.Restart();
        await Call(ben, "redo");
        await Call(ben, "undo");
        var scene = await _caller.Get($"api/scenes/{id}");
        Assert.Equal("A", (string?)scene["nodes"]!.AsArray().Single(n => (string?)n!["id"] == "a")!["name"]);
    }

    [Fact]
    public async Task Geometry_of_another_scene_cannot_be_used_by_its_hash()
    {
        var (_, hash) = await Meshes();
        var other = await _caller.NewScene();
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{other}/edits", new { @base = 2, edits = new[] { new { @do = "create", node = new { name = "Stolen", kind = "mesh", geometry = hash } } } }, 404, "not-found");
    }

    [Fact]
    public async Task Steps_from_before_sharing_had_its_name_are_read_with_it()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        await using var old = source.CreateCommand($$"""
            insert into former_steps (scene_id, number, by_person, at, sentence, edits, writes, change) values
            ('{{id}}', 901, 'me', now(), 'Duplicated', '[{"do":"duplicate","nodes":["a"],"linked":true}]', '[]', '[]'),
            ('{{id}}', 902, 'me', now(), 'Unlinked', '[{"do":"unlink","nodes":["b"]}]', '[]', '[]');
            insert into steps (scene, number, by_person, at, sentence) select c.no, f.number, 'me', now(), f.sentence from former_steps f join scenes c on c.id = f.scene_id where c.id = '{{id}}'
            """);
        await old.ExecuteNonQueryAsync();
        var assembly = typeof(Database).Assembly;
        var name = Assert.Single(assembly.GetManifestResourceNames(), n => n.EndsWith("0004_sharing.sql", StringComparison.Ordinal));
        using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
        await using var migration = source.CreateCommand((await reader.ReadToEndAsync()).Replace("update steps", "update former_steps", StringComparison.Ordinal));
        await migration.ExecuteNonQueryAsync();
        var (log, scene) = (new LogStore(source), await server.Query<long>($"select no from scenes where id = '{id}'"));
        Assert.Equal(["a"], (await log.StepOf(id, scene, 901)).Picked);
        Assert.Equal(["b"], (await log.StepOf(id, scene, 902)).Picked);
    }

    [Fact]
    public async Task A_blob_is_found_only_through_the_scene_that_uses_it()
    {
        var (id, hash) = await Meshes();
        var other = await _caller.NewScene();
        Assert.Equal(HttpStatusCode.OK, (await _caller.Http.GetAsync($"api/scenes/{id}/geometry/{hash}")).StatusCode);
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{other}/geometry/{hash}", null, 404, "not-found");
    }

    [Fact]
    public async Task What_nothing_uses_is_counted_cleared_and_missed_by_an_undo_while_other_scenes_keep_theirs()
    {
        var (id, hash) = await Meshes();
        var (other, same) = await Meshes();
        Assert.Equal(hash, same);
        var node = (string)(await _caller.Get($"api/scenes/{id}"))["nodes"]![0]!["id"]!;
        Assert.Equal((0, 0L), await Unused(HttpMethod.Get, id));
        await _caller.Edit(id, 1, new { @do = "remove", nodes = new[] { node } });
        var size = await server.Query<int>($"select length(bytes) from blobs where hash = '{hash}'");
        Assert.Equal((1, (long)size), await Unused(HttpMethod.Get, id));
        Assert.Equal((0, 0L), await Unused(HttpMethod.Get, other));

        Assert.Equal((1, (long)size), await Unused(HttpMethod.Delete, id));
        Assert.Equal((0, 0L), await Unused(HttpMethod.Get, id));
        var missing = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 2 }, 404, "not-found");
        Assert.Contains("was cleared since", (string)missing["detail"]!, StringComparison.Ordinal);
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/geometry/{hash}", null, 404, "not-found");
        Assert.Equal(HttpStatusCode.OK, (await _caller.Http.GetAsync($"api/scenes/{other}/geometry/{hash}")).StatusCode);

        // The last scene that has it takes it along, once it is gone for good.
        await _caller.Send(HttpMethod.Delete, $"api/scenes/{other}");
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var collecting = new CollectingStore(source, StoresOf(source).Scenes);
        await collecting.CollectBlobs(TimeSpan.FromDays(1));
        Assert.Equal(1L, await server.Query<long>($"select count(*) from blobs where hash = '{hash}'"));
        await _caller.Send(HttpMethod.Delete, $"api/bin/{other}");
        await collecting.CollectBlobs(TimeSpan.FromDays(1));
        Assert.Equal(0L, await server.Query<long>($"select count(*) from blobs where hash = '{hash}'"));
    }

    [Fact]
    public async Task A_page_that_joins_learns_which_revision_the_scene_is_at()
    {
        var id = await _caller.NewScene();
        await using var page = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        await page.StartAsync();
        Assert.Equal(2, await page.InvokeAsync<long>("Join", id));
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        Assert.Equal(3, await page.InvokeAsync<long>("Join", id));
    }

    /// <summary>A new scene with one imported mesh, which has the same geometry each time.</summary>
    private async Task<(string Scene, string Hash)> Meshes()
    {
        using var content = ExchangeCallsTests.Content(System.Text.Encoding.UTF8.GetBytes(ExchangeCallsTests.Triangle(StoreTriangle)), "model/gltf+json");
        var response = await _caller.Http.PostAsync("api/scenes/import?name=Mesh", content);
        var scene = JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
        return ((string)scene["id"]!, (string)scene["nodes"]![0]!["geometry"]!);
    }

    /// <summary>A size of its own, so that no other test has this geometry.</summary>
    private const float StoreTriangle = 7.25f;

    private async Task<(int Count, long Bytes)> Unused(HttpMethod method, string id)
    {
        var answer = await _caller.Send(method, $"api/scenes/{id}/unused");
        var unused = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        return ((int)unused["count"]!, (long)unused["bytes"]!);
    }

    private static Stores StoresOf(NpgsqlDataSource source) => new(new(source, new(source)), new(source), new(source), new(source));

    private sealed class Nobody : IScenePush
    {
        public bool Fails { get; init; }

        public Task Stepped(string scene, StepAnswer step, string? except = null) =>
            Fails ? throw new InvalidOperationException("The pages cannot be told.") : Task.CompletedTask;

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
