using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Shots over the API: scopes, what is seen, who writes what, and pictures.</summary>
[Collection(nameof(SteadyServer))]
public sealed class ShotCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _ada = server.NewCaller();
    private readonly Caller _ben = server.NewCaller();

    public void Dispose()
    {
        _ada.Dispose();
        _ben.Dispose();
    }

    /// <summary>A scene with two boxes and the shots "one" and "two".</summary>
    private async Task<string> Scene()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Shot("one", "010", "One"), Shot("two", "020", "Two"));
        return id;
    }

    private static object Shot(string id, string number, string name) => new { @do = "shot", shot = new { id, number, name, frames = 48 } };

    private static object In(string shot, long seen, object edit, Guid? key = null, string scope = "shot") => new { @base = seen, key, edits = new[] { edit }, shot, scope };

    private static Task<JsonNode> Edit(Caller by, string id, object body) => by.Post($"api/scenes/{id}/edits", body);

    private async Task<double> XOf(string id, string node, string? shot = null) =>
        (double)(await _ada.Get($"api/scenes/{id}/evaluated{(shot is null ? "" : $"?shot={shot}")}"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == node)!["pivot"]![0]!;

    private async Task<JsonNode> SeenOf(string id, string node, string shot) =>
        (await _ada.Get($"api/scenes/{id}/evaluated?shot={shot}"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == node)!["seen"]!;

    [Fact]
    public async Task What_is_edited_in_one_shot_stands_there_alone_and_lasts()
    {
        var id = await Scene();
        var answer = await Edit(_ada, id, In("one", 3, Caller.Move("a", 2)));
        Assert.Equal("In 010 One only: moved A +2 m along the world's X", (string?)answer["step"]!["sentence"]);
        Assert.Empty(answer["changed"]!.AsArray());
        var cheat = Assert.Single(answer["entities"]!.AsArray())!;
        Assert.Equal(("cheat", "one/a/position.x", 2.0), ((string)cheat["kind"]!, (string)cheat["id"]!, (double)cheat["value"]!));
        Assert.Equal((0, 2, 0), (await XOf(id, "a"), await XOf(id, "a", "one"), await XOf(id, "a", "two")));

        var scene = await _ada.Get($"api/scenes/{id}");
        Assert.Equal(["010", "020"], scene["shots"]!.AsArray().Select(s => (string)s!["number"]!));
        Assert.Equal((24, 1), ((double)scene["fps"]!, (int)scene["firstFrame"]!));
        Assert.Equal("a", (string?)Assert.Single(scene["cheats"]!.AsArray())!["of"]);

        await _ada.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal(0, await XOf(id, "a", "one"));
        await _ada.Post($"api/scenes/{id}/redo", new { @base = 5 });
        Assert.Equal(2, await XOf(id, "a", "one"));
        await Edit(_ada, id, new { @base = 6, edits = new object[] { new { @do = "everywhere", shot = "one", nodes = new[] { "a" }, others = "keep" } } });
        Assert.Equal((2, 2, 0), (await XOf(id, "a"), await XOf(id, "a", "one"), await XOf(id, "a", "two")));
    }

    [Fact]
    public async Task Scope_and_shot_are_part_of_the_call_that_a_key_stands_for()
    {
        var id = await Scene();
        var key = Guid.NewGuid();
        var first = await Edit(_ada, id, In("one", 3, Caller.Move("a", 2), key));
        var again = await Edit(_ada, id, In("one", 3, Caller.Move("a", 2), key));
        Assert.Equal(first.ToJsonString(), again.ToJsonString());
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", In("two", 3, Caller.Move("a", 2), key), 409, "key-reused");
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", In("one", 3, Caller.Move("a", 2), key, "every"), 409, "key-reused");
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, key, edits = new[] { Caller.Move("a", 2) } }, 409, "key-reused");
        Assert.Equal(2, await XOf(id, "a", "one"));
    }

    [Fact]
    public async Task Two_people_meet_on_one_channel_only()
    {
        var id = await Scene();
        await Edit(_ada, id, In("one", 3, Caller.Move("a", 2)));

        // Beneath it, beside it, and in another shot nobody is in anybody's way.
        await Edit(_ben, id, new { @base = 3, edits = new[] { Caller.Move("a", 5) } });
        await Edit(_ben, id, In("two", 3, Caller.Move("a", 7)));
        await Edit(_ben, id, In("one", 3, new { @do = "move", nodes = new[] { "a" }, by = new[] { 0, 1, 0 }, space = new { kind = "world" } }));
        Assert.Equal((5, 2, 12), (await XOf(id, "a"), await XOf(id, "a", "one"), await XOf(id, "a", "two")));
        await Edit(_ada, id, In("one", 7, Caller.Move("a", 1)));
        var problem = await _ben.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", In("one", 4, Caller.Move("a", 4)), 409, "changed-meanwhile");
        Assert.Contains("A in 010 One", (string)problem["detail"]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Somebody_puts_under_what_another_cheats_and_nothing_jumps()
    {
        var id = await Scene();
        await Edit(_ada, id, In("one", 3, new { @do = "rotate", nodes = new[] { "b" }, by = 40, axis = "y", space = new { kind = "world" }, about = new { kind = "own" } }));
        await Edit(_ada, id, In("one", 4, Caller.Move("a", 2)));

        // Ben has not seen the cheats yet: what they become is worked out from what is there.
        await Edit(_ben, id, new { @base = 3, edits = new object[] { new { @do = "putUnder", nodes = new[] { "a" }, parent = "b" } } });
        Assert.Equal(0, await XOf(id, "a"));
        Assert.Equal(2, await XOf(id, "a", "one"), tolerance: 1e-9);
        await _ben.Post($"api/scenes/{id}/undo", new { @base = 6 });
        Assert.Equal((0, 2), (await XOf(id, "a"), await XOf(id, "a", "one")));
    }

    [Fact]
    public async Task Off_delete_and_adding_in_one_shot_leave_the_others_as_they_are()
    {
        var id = await Scene();
        var gone = await Edit(_ada, id, In("one", 3, new { @do = "remove", nodes = new[] { "a" } }));
        Assert.Equal("Switched A off in 010 One; it stays in the scene", (string?)gone["step"]!["sentence"]);
        Assert.False((bool)(await SeenOf(id, "a", "one"))["final"]!);
        Assert.Equal("not in 010 One: it is switched off there", (string?)(await SeenOf(id, "a", "one"))["reasons"]![0]);
        Assert.True((bool)(await SeenOf(id, "a", "two"))["final"]!);
        await Edit(_ada, id, In("one", 4, new { @do = "create", node = new { id = "c", name = "C", kind = "shape" } }));
        Assert.True((bool)(await SeenOf(id, "c", "one"))["final"]!);
        Assert.False((bool)(await SeenOf(id, "c", "two"))["final"]!);
        await Edit(_ada, id, new { @base = 5, edits = new object[] { new { @do = "seeIn", shots = new[] { "one" }, of = new[] { "a" } } } });
        Assert.True((bool)(await SeenOf(id, "a", "one"))["final"]!);
    }

    [Fact]
    public async Task What_cannot_be_is_refused_with_the_way_out()
    {
        var id = await Scene();
        Task<JsonNode> Refused(object body, string word) =>
            _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", body, word switch { "not-understood" => 400, "too-large" => 413, _ => 422 }, word);
        await Refused(In("one", 3, new { @do = "putUnder", nodes = new[] { "a" }, parent = "b" }), "every-shot-only");
        await Refused(new { @base = 3, edits = new[] { Caller.Move("a", 1) }, scope = "shot" }, "not-understood");
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", In("none", 3, Caller.Move("a", 1)), 404, "not-found");
        await _ada.Refused(HttpMethod.Get, $"api/scenes/{id}/evaluated?shot=none", null, 404, "not-found");
        foreach (var frames in new[] { 0, -1, 10_000_000 })
        {
            await Refused(new { @base = 3, edits = new object[] { new { @do = "setShot", id = "one", frames } } }, "not-understood");
        }

        await Refused(new { @base = 3, edits = new object[] { new { @do = "setShot", id = "one", camera = "a" } } }, "not-understood");
        await Refused(new { @base = 3, edits = new object[] { new { @do = "setShot", id = "one", name = new string('x', 501) } } }, "too-large");
        await Refused(new { @base = 3, edits = new object[] { new { @do = "setTiming", fps = 0 } } }, "not-understood");
        await Refused(new { @base = 3, edits = new object[] { new { @do = "takeBack", shot = "one" } } }, "not-understood");
        await Edit(_ada, id, In("one", 3, Caller.Move("a", 2)));
        await Refused(In("one", 4, Caller.Move("a", 1), scope: "every"), "cheated");
        await Refused(new { @base = 4, edits = new object[] { new { @do = "carryAlong", of = new[] { new { shot = "one", of = "a", channel = "position.x", by = new[] { 1, 2 } } } } } }, "not-understood");
        await Edit(_ada, id, new { @base = 4, edits = new object[] { new { @do = "setShot", id = "one", name = "شات " + new string('ا', 480), note = "x" } } });
        Assert.Equal((0, 2), (await XOf(id, "a"), await XOf(id, "a", "one")));
    }

    [Fact]
    public async Task Two_thousand_shots_are_all_that_fit()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, [.. Enumerable.Range(0, 2_000).Select(i => (object)new { @do = "shot", shot = new { id = $"s{i}" } })]);
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Shot("more", "1", "More") } }, 413, "too-large");
        Assert.Equal(2_000, (await _ada.Get($"api/scenes/{id}"))["shots"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_picture_of_a_shot_is_kept_with_its_revision_and_goes_with_the_shot()
    {
        var id = await Scene();
        var png = Pictures.Png(16, 9);
        async Task<HttpStatusCode> Put(string shot, byte[] bytes)
        {
            using var content = new ByteArrayContent(bytes);
            content.Headers.ContentType = new MediaTypeHeaderValue("image/png");
            return (await _ada.Http.PutAsync(new Uri($"api/scenes/{id}/shots/{shot}/picture?revision=3", UriKind.Relative), content)).StatusCode;
        }

        Assert.Equal(HttpStatusCode.NotFound, (await _ada.Http.GetAsync($"api/scenes/{id}/shots/one/picture")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, await Put("one", png));
        Assert.Equal(HttpStatusCode.NotFound, await Put("none", png));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, await Put("two", [1, 2, 3]));
        Assert.Equal(png, await _ada.Http.GetByteArrayAsync($"api/scenes/{id}/shots/one/picture"));
        Assert.Equal("""[{"shot":"one","revision":3}]""", (await _ada.Get($"api/scenes/{id}/shots/pictures")).ToJsonString());
        Assert.Equal(HttpStatusCode.NotFound, (await _ada.Http.GetAsync($"api/scenes/{id}/picture")).StatusCode);

        // In the list of scenes it is no picture of the scene, and the scene stands there once.
        var line = Assert.Single((await _ada.Get("api/scenes")).AsArray(), s => (string?)s!["id"] == id)!;
        Assert.Null(line["picture"]);
        var copy = (string)(await _ada.Post("api/scenes", new { name = "Again", like = id }))["id"]!;
        Assert.Equal(png, await _ada.Http.GetByteArrayAsync($"api/scenes/{copy}/shots/one/picture"));
    }

    [Fact]
    public async Task A_cheat_takes_less_than_a_kilobyte()
    {
        var id = await Scene();
        await Edit(_ada, id, In("one", 3, Caller.Move("a", 0.75)));
        var rows = await server.Query<decimal>($"""
            select coalesce((select pg_column_size(n.*) from nodes n join scenes s on s.no = n.scene where s.id = '{id}' and n.id = 'one/a/position.x'), 0)
              + coalesce((select sum(pg_column_size(l.*)) from log l join scenes s on s.no = l.scene where s.id = '{id}' and l.revision = 4), 0)
              + coalesce((select sum(pg_column_size(t.*)) from steps t join scenes s on s.no = t.scene where s.id = '{id}' and t.revision = 4), 0)::numeric
            """);
        Assert.InRange(rows, 100, 800);
    }
}
