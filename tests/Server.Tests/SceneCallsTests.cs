using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

[Collection(nameof(SteadyServer))]
public sealed class SceneCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task The_demo_is_there_with_sixty_objects_and_four_levels()
    {
        var scene = await _caller.Get("api/scenes/orrery-room");
        var nodes = scene["nodes"]!.AsArray();
        Assert.True(nodes.Count >= 60);
        var parents = nodes.ToDictionary(n => (string)n!["id"]!, n => (string?)n!["parent"]);
        Assert.Contains(parents.Keys, id =>
        {
            var depth = 1;
            for (var at = parents[id]; at is not null; at = parents[at])
            {
                depth++;
            }

            return depth >= 4;
        });
    }

    [Fact]
    public async Task A_scene_is_made_read_described_and_removed()
    {
        var made = await _caller.Send(HttpMethod.Post, "api/scenes", new { name = "  Attic " });
        Assert.Equal(HttpStatusCode.Created, made.StatusCode);
        var id = (string)(await made.Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        Assert.Equal($"/api/scenes/{id}", made.Headers.Location!.ToString());
        var read = await _caller.Http.GetAsync($"api/scenes/{id}");
        Assert.Equal("\"1\"", read.Headers.ETag!.ToString());
        Assert.Equal("Attic", (string?)(await read.Content.ReadFromJsonAsync<JsonNode>())!["name"]);
        var patched = await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}", new { unit = "cm" });
        var scene = (await patched.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal(("cm", 2L), ((string?)scene["unit"], (long)scene["revision"]!));
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Delete, $"api/scenes/{id}")).StatusCode);
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}", null, 404, "not-found");
        await _caller.Refused(HttpMethod.Delete, $"api/scenes/{id}", null, 404, "not-found");
    }

    [Fact]
    public async Task New_scenes_can_begin_like_the_start_or_like_another()
    {
        var start = await _caller.Post("api/scenes", new { name = "New", like = "start" });
        Assert.Equal(["Camera", "Lamp"], start["nodes"]!.AsArray().Select(n => (string?)n!["name"]));
        var copy = await _caller.Post("api/scenes", new { name = "Copy", like = "orrery-room" });
        var original = await _caller.Get("api/scenes/orrery-room");
        Assert.Equal(original["nodes"]!.AsArray().Count, copy["nodes"]!.AsArray().Count);
        Assert.NotEqual((string?)original["id"], (string?)copy["id"]);
    }

    [Fact]
    public async Task Evaluated_gives_worlds_pivots_and_why_something_is_not_seen()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(
            id,
            2,
            new { @do = "putUnder", nodes = new[] { "b" }, parent = "a" },
            Caller.Move("a", 3),
            new { @do = "see", nodes = new[] { "a" }, working = false });
        var evaluated = await _caller.Get($"api/scenes/{id}/evaluated");
        var b = evaluated["nodes"]!.AsArray().Single(n => (string?)n!["id"] == "b")!;
        Assert.Equal(3, (double)b["world"]![12]!);
        Assert.Equal([3.0, 0, 0], b["pivot"]!.AsArray().Select(v => (double)v!));
        Assert.False((bool)b["seen"]!["working"]!);
        Assert.True((bool)b["seen"]!["final"]!);
        Assert.Contains("“A”", (string)b["seen"]!["reasons"]![0]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_demo_can_be_restored_and_that_can_be_undone()
    {
        var before = await _caller.Get("api/scenes/orrery-room");
        await _caller.Edit("orrery-room", (long)before["revision"]!, new { @do = "remove", nodes = new[] { "orrery" } });
        var restored = await _caller.Post("api/demo", new { });
        Assert.Equal(before["nodes"]!.ToJsonString(), restored["nodes"]!.ToJsonString());
        await _caller.Post("api/scenes/orrery-room/undo", new { @base = (long)restored["revision"]! });
        var after = await _caller.Get("api/scenes/orrery-room");
        Assert.DoesNotContain(after["nodes"]!.AsArray(), n => (string?)n!["id"] == "orrery");
        await _caller.Post("api/scenes/orrery-room/undo", new { @base = (long)after["revision"]! });
    }

    [Fact]
    public async Task The_document_describes_itself()
    {
        var document = await _caller.Get("openapi/v1.json");
        foreach (var path in new[] { "/api/scenes", "/api/scenes/{id}/edits", "/api/scenes/{id}/undo", "/api/scenes/import", "/api/me/settings" })
        {
            Assert.NotNull(document["paths"]![path]);
        }
    }

    [Fact]
    public async Task Settings_are_kept_for_each_person()
    {
        Assert.Equal("{}", (await _caller.Get("api/me/settings")).ToJsonString());
        await _caller.Send(HttpMethod.Put, "api/me/settings", new { theme = "night" });
        Assert.Equal("night", (string?)(await _caller.Get("api/me/settings"))["theme"]);
        using var other = server.NewCaller();
        Assert.Equal("{}", (await other.Get("api/me/settings")).ToJsonString());
        await _caller.Refused(HttpMethod.Put, "api/me/settings", new[] { 1 }, 400, "not-understood");
    }

    [Fact]
    public async Task Pages_of_other_sites_are_kept_out()
    {
        async Task<HttpStatusCode> With(string header, string value)
        {
            var request = new HttpRequestMessage(HttpMethod.Get, "api/scenes");
            request.Headers.TryAddWithoutValidation(header, value);
            return (await _caller.Http.SendAsync(request)).StatusCode;
        }

        Assert.Equal(HttpStatusCode.Forbidden, await With("Origin", "http://elsewhere.example"));
        Assert.Equal(HttpStatusCode.Forbidden, await With("Sec-Fetch-Site", "cross-site"));
        Assert.Equal(HttpStatusCode.BadRequest, await With("Host", "elsewhere.example"));
        Assert.Equal(HttpStatusCode.OK, await With("Origin", server.Address.ToString().TrimEnd('/')));
    }

    [Fact]
    public async Task Every_answer_carries_the_headers_that_keep_others_out()
    {
        var response = await _caller.Http.GetAsync("healthz");
        Assert.Equal("nosniff", response.Headers.GetValues("X-Content-Type-Options").Single());
        var policy = response.Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("script-src 'self' 'wasm-unsafe-eval'", policy, StringComparison.Ordinal);
        Assert.Contains("frame-ancestors 'none'", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("unsafe-inline", policy, StringComparison.Ordinal);
        var cookie = (await _caller.Http.GetAsync("api/me/settings")).Headers.GetValues("Set-Cookie").Single();
        Assert.Contains("httponly", cookie, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("samesite=strict", cookie, StringComparison.OrdinalIgnoreCase);
    }
}
