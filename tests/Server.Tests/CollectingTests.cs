using System.Net;
using System.Text.Json.Nodes;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>What is cleared away by itself, and what is not.</summary>
[Collection(nameof(OneServer))]
public sealed class CollectingTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();
    private readonly NpgsqlDataSource _source = NpgsqlDataSource.Create(server.ConnectionString);

    private CollectingStore Store => new(_source, new SceneStore(_source, new BlobStore(_source)));

    public void Dispose()
    {
        _caller.Dispose();
        _source.Dispose();
    }

    [Fact]
    public async Task A_removed_scene_lies_in_the_bin_and_comes_back_with_its_steps()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Caller.Move("a", 1));
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Delete, $"api/scenes/{id}")).StatusCode);
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}", null, 404, "not-found");
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Caller.Move("a", 1) } }, 404, "not-found");
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 3 }, 404, "not-found");
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/log?after=2", null, 404, "not-found");
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/steps", null, 404, "not-found");
        await _caller.Refused(HttpMethod.Patch, $"api/scenes/{id}", new { name = "Other" }, 404, "not-found");
        await _caller.Refused(HttpMethod.Post, "api/scenes", new { name = "Copy", like = id }, 404, "not-found");
        await _caller.Refused(HttpMethod.Delete, $"api/scenes/{id}", null, 404, "not-found");
        Assert.DoesNotContain((await _caller.Get("api/scenes")).AsArray(), s => (string?)s!["id"] == id);
        var binned = (await _caller.Get("api/bin")).AsArray().Single(s => (string?)s!["id"] == id)!;
        Assert.Equal(("Test", 2), ((string?)binned["name"], (int)binned["nodeCount"]!));
        var back = await _caller.Post($"api/bin/{id}", new { });
        Assert.Equal(3L, (long)back["revision"]!);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
        Assert.Equal(0, await _caller.XOf(id, "a"));
        await _caller.Refused(HttpMethod.Post, $"api/bin/{id}", null, 404, "not-found");
        await _caller.Refused(HttpMethod.Delete, $"api/bin/{id}", null, 404, "not-found");
    }

    [Fact]
    public async Task An_edit_that_is_worked_out_while_its_scene_is_removed_is_not_made()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Caller.Move("a", 1));

        // By another server, so that this one does not know of it.
        await server.Query<int>($"with r as (update scenes set removed_at = now() where id = '{id}' returning 1) select count(*)::int from r");
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Caller.Move("a", 1) } }, 404, "not-found");
        await _caller.Post($"api/bin/{id}", new { });
        Assert.Equal(1, await _caller.XOf(id, "a"));
    }

    [Fact]
    public async Task The_demo_comes_back_from_the_bin_when_it_is_asked_for()
    {
        await _caller.Post("api/demo", new { });
        await _caller.Send(HttpMethod.Delete, "api/scenes/orrery-room");
        var demo = await _caller.Post("api/demo", new { });
        Assert.True(demo["nodes"]!.AsArray().Count > 100);
        Assert.NotEmpty((await _caller.Get("api/scenes/orrery-room/steps")).AsArray());
    }

    [Fact]
    public async Task The_bin_is_emptied_when_asked_and_of_what_lay_there_for_thirty_days()
    {
        string[] ids = [await _caller.NewScene(), await _caller.NewScene(), await _caller.NewScene()];
        foreach (var id in ids)
        {
            await _caller.Send(HttpMethod.Delete, $"api/scenes/{id}");
        }

        await server.Query<int>($"with r as (update scenes set removed_at = now() - interval '31 days' where id = '{ids[0]}' returning 1) select count(*)::int from r");
        await server.Query<int>($"with r as (update scenes set removed_at = now() - interval '29 days' where id = '{ids[1]}' returning 1) select count(*)::int from r");
        Assert.Equal(1, await Store.EmptyBin());
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Delete, $"api/bin/{ids[1]}")).StatusCode);
        Assert.Equal([ids[2]], (await _caller.Get("api/bin")).AsArray().Select(s => (string)s!["id"]!).Intersect(ids));
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Delete, "api/bin")).StatusCode);
        Assert.DoesNotContain((await _caller.Get("api/bin")).AsArray(), scene => (bool)scene!["mine"]!);
        Assert.Equal(0L, await server.Query<long>("select (select count(*) from nodes n left join scenes c on c.no = n.scene where c.no is null) + (select count(*) from log l left join scenes c on c.no = l.scene where c.no is null)"));
    }

    [Fact]
    public async Task Steps_are_trimmed_by_age_only_where_that_is_asked_for_and_the_scene_stays_as_it_is()
    {
        var (id, other) = (await _caller.NewScene(), await _caller.NewScene());
        foreach (var one in new[] { id, other })
        {
            for (var i = 0; i < 4; i++)
            {
                await _caller.Edit(one, 100, Caller.Move("a", 1));
            }

            await server.Query<int>($"with r as (update steps s set at = s.at - interval '40 days' from scenes c where c.no = s.scene and c.id = '{one}' and s.number <= 3 returning 1) select count(*)::int from r");
        }

        await _caller.Refused(HttpMethod.Patch, $"api/scenes/{id}", new { keepSteps = -1 }, 400, "not-understood");
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { keepSteps = 30 });
        Assert.Equal(30, (int)(await _caller.Get($"api/scenes/{id}"))["keepSteps"]!);
        Assert.Equal(30, (int)(await _caller.Get("api/scenes")).AsArray().Single(s => (string?)s!["id"] == id)!["keepSteps"]!);
        Assert.Equal([id], await Store.TrimSteps());
        Assert.Empty(await Store.TrimSteps());
        await server.Restart();
        Assert.Equal([4L, 5L], (await _caller.Get($"api/scenes/{id}/steps")).AsArray().Select(s => (long)s!["number"]!));
        Assert.Equal(5, (await _caller.Get($"api/scenes/{other}/steps")).AsArray().Count);
        Assert.Equal(4, await _caller.XOf(id, "a"));
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/log?after=3", null, 410, "no-longer-kept");
        Assert.Equal(2, (await _caller.Get($"api/scenes/{id}/log?after=4"))["entries"]!.AsArray().Count);
        var stale = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { Caller.Move("b", 1) } }, 409, "changed-meanwhile");
        Assert.Contains("Fetch the scene", (string)stale["detail"]!, StringComparison.Ordinal);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 6 });
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 6 });
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 6 }, 409, "nothing-to-undo");
        Assert.Equal(2, await _caller.XOf(id, "a"));
        await _caller.Edit(id, 8, Caller.Move("a", 1));
        Assert.Equal(6L, (long)(await _caller.Get($"api/scenes/{id}/steps")).AsArray()[^1]!["number"]!);
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { keepSteps = 0 });
        Assert.Null((await _caller.Get($"api/scenes/{id}"))["keepSteps"]);
    }

    [Fact]
    public async Task The_last_step_is_never_trimmed_so_that_no_number_comes_twice()
    {
        var id = await _caller.NewScene();
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { keepSteps = 1 });
        await server.Query<int>($"with r as (update steps s set at = s.at - interval '40 days' from scenes c where c.no = s.scene and c.id = '{id}' returning 1) select count(*)::int from r");
        Assert.DoesNotContain(id, await Store.TrimSteps());
        await server.Restart();
        Assert.Single((await _caller.Get($"api/scenes/{id}/steps")).AsArray());
        var edited = await _caller.Edit(id, 2, Caller.Move("a", 1));
        Assert.Equal((3L, 2L), ((long)edited["revision"]!, (long)edited["step"]!["number"]!));
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
    }

    [Fact]
    public async Task Geometry_stays_as_long_as_a_step_can_bring_it_back_and_then_for_a_while()
    {
        using var content = ExchangeCallsTests.Content(System.Text.Encoding.UTF8.GetBytes(ExchangeCallsTests.Triangle(11.5f)), "model/gltf+json");
        var scene = JsonNode.Parse(await (await _caller.Http.PostAsync("api/scenes/import?name=Mesh", content)).Content.ReadAsStringAsync())!;
        var (id, node, hash) = ((string)scene["id"]!, (string)scene["nodes"]![0]!["id"]!, (string)scene["nodes"]![0]!["geometry"]!);
        Task<long> Kept() => server.Query<long>($"select count(*) from blobs where hash = '{hash}'");
        await _caller.Edit(id, 1, new { @do = "remove", nodes = new[] { node } });
        await Store.CollectBlobs(TimeSpan.Zero);
        Assert.Equal(1, await Kept());

        // Undone and done otherwise, the removal cannot be done again; but the object is there.
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 2 });
        await _caller.Edit(id, 3, new { @do = "rename", node, name = "Kept" });
        await Store.CollectBlobs(TimeSpan.Zero);
        Assert.Equal(1, await Kept());

        // A copy that is taken back for good is the only thing that uses the geometry of a join.
        await _caller.Edit(id, 4, new { @do = "duplicate", nodes = new[] { node }, ids = new[] { new[] { "copy" } } });
        var joined = await _caller.Edit(id, 5, new { @do = "join", nodes = new[] { node, "copy" } });
        var made = (string)joined["changed"]!.AsArray().Single(n => (string?)n!["id"] == "copy")!["geometry"]!;
        Assert.NotEqual(hash, made);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 6 });
        await Store.CollectBlobs(TimeSpan.Zero);
        Assert.Equal(1, await server.Query<long>($"select count(*) from blobs where hash = '{made}'"));
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 7 });
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 8 });
        await _caller.Edit(id, 9, new { @do = "rename", node, name = "Else" });
        await Store.CollectBlobs(TimeSpan.FromHours(1));
        Assert.Equal(1, await server.Query<long>($"select count(*) from blobs where hash = '{made}'"));
        await Store.CollectBlobs(TimeSpan.Zero);
        Assert.Equal(0, await server.Query<long>($"select count(*) from blobs where hash = '{made}'"));
        Assert.Equal(1, await Kept());
        Assert.Equal(HttpStatusCode.OK, (await _caller.Http.GetAsync($"api/scenes/{id}/geometry/{hash}")).StatusCode);
    }

    [Fact]
    public async Task A_key_is_known_for_a_week()
    {
        var id = await _caller.NewScene();
        var body = new { @base = 1_000_000, key = Guid.NewGuid(), edits = new[] { Caller.Move("a", 1) } };
        await _caller.Post($"api/scenes/{id}/edits", body);
        Task Age(int days) => server.Query<int>($"with r as (update log l set at = now() - interval '{days} days' from scenes c where c.no = l.scene and c.id = '{id}' returning 1) select count(*)::int from r");
        await Age(6);
        await Store.ForgetKeys();
        await server.Restart();
        await _caller.Post($"api/scenes/{id}/edits", body);
        Assert.Equal(1, await _caller.XOf(id, "a"));
        await Age(8);
        Assert.True(await Store.ForgetKeys() >= 1);
        await server.Restart();
        await _caller.Post($"api/scenes/{id}/edits", body);
        Assert.Equal(2, await _caller.XOf(id, "a"));
    }
}
