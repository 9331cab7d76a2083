using System.Collections.Concurrent;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Demo;
using Microsoft.AspNetCore.SignalR.Client;

namespace CalmPivot.Server.Tests;

/// <summary>Two servers on one database: pages at each hear of what comes by the other, and none reads what is behind what its page was told.</summary>
[Collection(nameof(OneServer))]
public sealed class NeighbourTests(RunningServer server) : IDisposable
{
    private static readonly TimeSpan Soon = TimeSpan.FromSeconds(10);

    private readonly Caller _ada = server.NewCaller();

    public void Dispose() => _ada.Dispose();

    [Fact]
    public async Task Pages_hear_of_every_step_whichever_server_it_came_by()
    {
        using var other = await server.Another();
        using var ben = other.NewCaller();
        var id = await _ada.NewScene();
        await using var here = await Page.On(server.Address, id);
        await using var there = await Page.On(other.Address, id);
        var by = new[] { _ada, ben };
        for (var i = 0; i < 30; i++)
        {
            await by[i % 2].Edit(id, 2 + i, Caller.Move(i % 3 == 0 ? "a" : "b", 1));
        }

        (await ben.Send(HttpMethod.Patch, $"api/scenes/{id}", new { name = "Renamed there" })).EnsureSuccessStatusCode();
        await ben.Post($"api/scenes/{id}/undo", new { @base = 33 });
        foreach (var page in new[] { here, there })
        {
            await page.Until(34);
            Assert.Equal(Enumerable.Range(3, 32).Select(r => (long)r), page.Heard);
        }

        // By the log, with what was written part by part, as a page takes it in that was away; under the key of the call nothing else.
        Assert.Equal(Enumerable.Range(0, 15).Select(i => 4L + (2 * i)).Append(33).Append(34), here.Entered.Select(e => (long)e["revision"]!));
        Assert.Equal(Enumerable.Range(0, 15).Select(i => 3L + (2 * i)), there.Entered.Select(e => (long)e["revision"]!));
        Assert.Equal("Renamed there", (string?)here.Entered.Single(e => (long)e["revision"]! == 33)["described"]!["name"]);
        Assert.Equal(((await _ada.Get($"api/scenes/{id}/log?after=3"))["entries"]![0]!).ToJsonString(), here.Entered.First().ToJsonString());
    }

    [Fact]
    public async Task What_is_read_at_one_server_is_never_behind_what_was_answered_by_another()
    {
        using var other = await server.Another();
        using var ben = other.NewCaller();
        var id = await _ada.NewScene();
        var (callers, revision) = (new[] { _ada, ben }, 2L);
        await ben.Get($"api/scenes/{id}/evaluated");
        for (var i = 0; i < 24; i++)
        {
            var (writes, reads) = (callers[i % 2], callers[1 - (i % 2)]);
            revision = (long)(i % 6 == 5 ? await writes.Post($"api/scenes/{id}/undo", new { @base = revision }) : await writes.Edit(id, revision, Caller.Move(i % 2 == 0 ? "a" : "b", 1)))["revision"]!;
            var path = (i % 4) switch { 0 => "", 1 => "/evaluated", 2 => "/derived", _ => "/log?after=2" };
            Assert.Equal(revision, (long)(await reads.Get($"api/scenes/{id}{path}"))["revision"]!);
            Assert.Equal((await writes.Get($"api/scenes/{id}/steps")).ToJsonString(), (await reads.Get($"api/scenes/{id}/steps")).ToJsonString());
            Assert.Equal(Lines(await writes.Http.GetByteArrayAsync($"api/scenes/{id}/document")), Lines(await reads.Http.GetByteArrayAsync($"api/scenes/{id}/document")));
            Assert.Equal(await writes.Http.GetStringAsync($"api/scenes/{id}/export?format=gltf"), await reads.Http.GetStringAsync($"api/scenes/{id}/export?format=gltf"));
        }
    }

    /// <summary>Neither is a revision: the other is told to load the scene anew.</summary>
    [Fact]
    public async Task A_step_that_is_named_and_how_long_steps_are_kept_is_known_at_the_other_soon()
    {
        using var other = await server.Another();
        using var ben = other.NewCaller();
        var id = await _ada.NewScene();
        await ben.Get($"api/scenes/{id}");
        (await _ada.Send(HttpMethod.Patch, $"api/scenes/{id}/steps/1", new { name = "Two boxes" })).EnsureSuccessStatusCode();
        (await _ada.Send(HttpMethod.Patch, $"api/scenes/{id}", new { keepSteps = 12 })).EnsureSuccessStatusCode();
        await Comes(async () => (string?)(await ben.Get($"api/scenes/{id}/steps"))[0]!["name"] == "Two boxes" && (int?)(await ben.Get($"api/scenes/{id}"))["keepSteps"] == 12);
    }

    [Fact]
    public async Task A_scene_that_is_removed_at_one_server_is_gone_at_the_other()
    {
        using var other = await server.Another();
        using var ben = other.NewCaller();
        var id = await _ada.NewScene();
        await using var there = await Page.On(other.Address, id);
        (await _ada.Send(HttpMethod.Delete, $"api/scenes/{id}")).EnsureSuccessStatusCode();
        await ben.Refused(HttpMethod.Get, $"api/scenes/{id}", null, 404, "not-found");
        await Comes(() => Task.FromResult(there.Gone == 1));
        await _ada.Post($"api/bin/{id}", new { });
        Assert.Equal(2, (long)(await ben.Get($"api/scenes/{id}"))["revision"]!);
    }

    [Fact]
    public async Task Pages_know_what_is_picked_and_tried_at_the_other_server_until_that_is_gone()
    {
        var other = await server.Another();
        var id = await _ada.NewScene();
        await using var here = await Page.On(server.Address, id);
        await using var there = await Page.On(other.Address, id);
        await Comes(() => Task.FromResult(here.Joined > 0));

        // Both are longer than what PostgreSQL carries at once; letters that are not ASCII come out as they went in.
        string[] many = [.. Enumerable.Range(0, 400).Select(i => $"an object with a long name, “{i}”")];
        var edits = "[\"" + new string('ü', 8_000) + "\"]";
        await there.Hub.InvokeAsync("Picked", id, many);
        await there.Hub.InvokeAsync("Trying", id, 2, edits);
        await Comes(() => Task.FromResult(here.Picked.Any(p => p["nodes"]!.AsArray().Select(n => (string)n!).SequenceEqual(many)) && here.Tried.Any(t => (string?)t["edits"] == edits)));
        Assert.Empty(there.Picked);
        var page = (string)here.Tried.First()["page"]!;
        Assert.Equal(there.Hub.ConnectionId, page);

        // And the other way.
        await here.Hub.InvokeAsync("Picked", id, new[] { "a" });
        await Comes(() => Task.FromResult(there.Picked.Any(p => (string?)p["nodes"]![0] == "a")));

        other.Dispose();
        await Comes(() => Task.FromResult((string?)here.Picked.Last()["page"] == page && here.Picked.Last()["nodes"]!.AsArray().Count == 0 && here.Tried.Last()["edits"] is null), seconds: 20);
    }

    [Fact]
    public async Task Pages_are_led_on_after_the_database_has_cut_all_connections_and_when_their_scene_has_left_memory()
    {
        using var other = await server.Another(("Scenes__IdleSeconds", "1"));
        var id = await _ada.NewScene();
        await using var there = await Page.On(other.Address, id);
        await server.Query<long>("select count(pg_terminate_backend(pid)) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()");
        var revision = 2L;
        while (revision < 6)
        {
            // What was cut answers 503 once, and is done again by a page.
            var answer = await _ada.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = revision, edits = new[] { Caller.Move("a", 1) } });
            revision = answer.IsSuccessStatusCode ? (long)(await answer.Content.ReadFromJsonAsync<JsonNode>())!["revision"]! : revision;
        }

        await Comes(() => Task.FromResult(there.Knows >= 6), seconds: 20);
        await Task.Delay(2_500);
        await _ada.Edit(id, 6, Caller.Move("a", 1));
        await Comes(() => Task.FromResult(there.Knows >= 7), seconds: 20);
    }

    /// <summary>What a document says, in whatever order.</summary>
    private static List<string> Lines(byte[] document) => LogTests.Lines(SceneBinary.Read(document, NoGeometries.Instance));

    private static async Task Comes(Func<Task<bool>> isSo, int seconds = 10)
    {
        for (var until = DateTime.UtcNow + TimeSpan.FromSeconds(seconds); !await isSo();)
        {
            Assert.True(DateTime.UtcNow < until, "It did not come.");
            await Task.Delay(50);
        }
    }

    /// <summary>A page that shows a scene, and what it hears.</summary>
    private sealed class Page : IAsyncDisposable
    {
        private readonly TaskCompletionSource<long> _reached = new();
        private long _until = long.MaxValue;

        private Page(Uri address)
        {
            Hub = new HubConnectionBuilder().WithUrl(new Uri(address, "hub")).Build();
            Hub.On<JsonNode>("stepped", step => Hear((long)step["revision"]!));
            Hub.On<JsonNode>("described", said => Hear((long)said["revision"]!));
            Hub.On<JsonNode>("entered", entry =>
            {
                Entered.Enqueue(entry);
                Hear((long)entry["revision"]!);
            });
            Hub.On<long>("passed", revision => Knows = Math.Max(Knows, revision));
            Hub.On<JsonNode>("picked", Picked.Enqueue);
            Hub.On<JsonNode>("trying", Tried.Enqueue);
            Hub.On("joined", () => Joined++);
            Hub.On("gone", () => Gone++);
        }

        public HubConnection Hub { get; }

        public ConcurrentQueue<long> Heard { get; } = new();

        public ConcurrentQueue<JsonNode> Entered { get; } = new();

        public ConcurrentQueue<JsonNode> Picked { get; } = new();

        public ConcurrentQueue<JsonNode> Tried { get; } = new();

        public int Joined { get; private set; }

        public int Gone { get; private set; }

        /// <summary>The latest revision that it has heard of.</summary>
        public long Knows { get; private set; }

        public static async Task<Page> On(Uri address, string scene)
        {
            var page = new Page(address);
            await page.Hub.StartAsync();
            await page.Hub.InvokeAsync<long>("Join", scene);
            return page;
        }

        public async Task Until(long revision)
        {
            Volatile.Write(ref _until, revision);
            if (Knows < revision)
            {
                await _reached.Task.WaitAsync(Soon);
            }
        }

        public ValueTask DisposeAsync() => Hub.DisposeAsync();

        private void Hear(long revision)
        {
            Heard.Enqueue(revision);
            Knows = Math.Max(Knows, revision);
            if (revision >= Volatile.Read(ref _until))
            {
                _reached.TrySetResult(revision);
            }
        }
    }
}
