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
    public async Task A_server_that_has_not_seen_the_latest_step_stores_nothing()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var store = new SceneStore(source, new BlobStore(source));
        using var behind = new OpenScene((await store.Load(id))!, store, new Nobody());
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        var late = await Assert.ThrowsAsync<BehindException>(() =>
            behind.Edit("me", 2, Guid.NewGuid(), [new Move(["b"], new Vec3(5, 0, 0), new WorldSpace())]));
        Assert.Contains("another server", late.Message, StringComparison.Ordinal);
        Assert.True(behind.Spoiled);
        var stored = await _caller.Get($"api/scenes/{id}");
        Assert.Equal(3, (long)stored["revision"]!);
        Assert.Equal(0, await _caller.XOf(id, "b"));
        Assert.Equal(2, (await _caller.Get($"api/scenes/{id}/steps")).AsArray().Count);
        Assert.Equal(0L, await server.Query<long>($"select count(*) from answers where scene_id = '{id}' and answer::text like '%\"b\"%'"));
    }

    [Fact]
    public async Task What_fails_after_it_was_stored_is_answered_as_stored()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var store = new SceneStore(source, new BlobStore(source));
        using var scene = new OpenScene((await store.Load(id))!, store, new Nobody { Fails = true });
        var answer = JsonNode.Parse(await scene.Edit("me", 2, Guid.NewGuid(), [new Move(["b"], new Vec3(5, 0, 0), new WorldSpace())]))!;
        Assert.Equal(3, (long)answer["revision"]!);
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
        var store = new SceneStore(source, new BlobStore(source));
        using var behind = new OpenScene((await store.Load(id))!, store, new Nobody());
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        await _caller.Edit(id, 3, Caller.Move("a", 1));
        await Assert.ThrowsAsync<BehindException>(() => behind.Describe("Late", null));
        Assert.Equal(4L, await server.Query<long>($"select revision from scenes where id = '{id}'"));
    }

    [Fact]
    public async Task A_scene_is_read_while_an_edit_of_it_is_computed()
    {
        var id = await _caller.NewScene();
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var store = new SceneStore(source, new BlobStore(source));
        using var scene = new OpenScene((await store.Load(id))!, store, new Nobody());
        using var computing = new ManualResetEventSlim();
        using var read = new ManualResetEventSlim();
        var change = Task.Run(() => scene.Change("me", "Slow", _ =>
        {
            computing.Set();
            return read.Wait(TimeSpan.FromSeconds(20)) ? Core.Scene.Change.None : throw new TimeoutException();
        }, []));
        computing.Wait();
        Assert.Equal(2, scene.Read((document, _) => document.Revision));
        Assert.Equal(1, scene.Evaluated((_, evaluator) => evaluator.World("a").Linear.Determinant));
        read.Set();
        await change;
    }

    [Fact]
    public async Task Scenes_that_were_not_asked_for_the_longest_are_loaded_anew_and_nothing_of_them_is_lost()
    {
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var scenes = new OpenScenes(new SceneStore(source, new BlobStore(source)), new Nobody()) { Most = 2 };
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
        var scenes = new OpenScenes(new SceneStore(source, new BlobStore(source)), new Nobody());
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
        await _caller.Edit(id, 2, new { @do = "duplicate", nodes = new[] { "a" }, sharing = true, ids = new[] { new[] { "twin" } } });
        await _caller.Edit(id, 3, new { @do = "unshare", nodes = new[] { "twin" } });
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        var before = $"select string_agg(edits::text, ' ' order by number) from steps where scene_id = '{id}' and number > 1";
        var now = await server.Query<string>(before);
        await using (var old = source.CreateCommand(
            $"update steps set edits = replace(replace(edits::text, '\"unshare\"', '\"unlink\"'), '\"sharing\":', '\"linked\":')::json where scene_id = '{id}'"))
        {
            await old.ExecuteNonQueryAsync();
        }

        Assert.Contains("\"unlink\"", await server.Query<string>(before), StringComparison.Ordinal);
        var assembly = typeof(Database).Assembly;
        var name = Assert.Single(assembly.GetManifestResourceNames(), n => n.EndsWith("0004_sharing.sql", StringComparison.Ordinal));
        using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
        await using var migration = source.CreateCommand(await reader.ReadToEndAsync());
        await migration.ExecuteNonQueryAsync();
        Assert.Equal(now, await server.Query<string>(before));
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
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

        // The last scene that has it takes it along.
        await _caller.Send(HttpMethod.Delete, $"api/scenes/{other}");
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

    private sealed class Nobody : IScenePush
    {
        public bool Fails { get; init; }

        public Task Stepped(string scene, StepAnswer step, string? except = null) =>
            Fails ? throw new InvalidOperationException("The pages cannot be told.") : Task.CompletedTask;

        public Task Described(string scene, DescribedPush description) => Task.CompletedTask;

        public Task Removed(string scene) => Task.CompletedTask;

        public Task Progress(string page, ProgressPush progress) => Task.CompletedTask;
    }
}
