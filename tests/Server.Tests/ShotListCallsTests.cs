using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Over the API: what differs in two shots, lists of shots out and in, one shot as a file.</summary>
[Collection(nameof(SteadyServer))]
public sealed class ShotListCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _ada = server.NewCaller();

    public void Dispose() => _ada.Dispose();

    /// <summary>Two boxes, two shots; in the first one box stands elsewhere and the other is off.</summary>
    private async Task<string> Scene()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Shot("one", "010", "One"), Shot("two", "020", "Two"));
        await _ada.Post($"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Caller.Move("a", 2) }, shot = "one", scope = "shot" });
        await _ada.Edit(id, 4, new { @do = "seeIn", shots = new[] { "one" }, of = new[] { "b" }, on = false });
        return id;
    }

    private static object Shot(string id, string number, string name) => new { @do = "shot", shot = new { id, number, name, frames = 48 } };

    private async Task<(HttpStatusCode Status, JsonNode? Body)> Import(string id, string text, bool ask = false, string more = "")
    {
        using var body = new ByteArrayContent(Encoding.UTF8.GetBytes(text));
        body.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        using var answer = await _ada.Http.PostAsync(new Uri($"api/scenes/{id}/shots/import{(ask ? "?only=ask" : "")}{more}", UriKind.Relative), body);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync()));
    }

    private async Task<string> Text(string path)
    {
        using var answer = await _ada.Http.GetAsync(new Uri(path, UriKind.Relative));
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await answer.Content.ReadAsStringAsync();
    }

    [Fact]
    public async Task What_differs_is_told_by_thing_and_channel()
    {
        var id = await Scene();
        var diff = await _ada.Get($"api/scenes/{id}/shots/one/diff?with=two");
        var cheat = Assert.Single(diff["cheats"]!.AsArray())!;
        Assert.Equal(("a", "position.x", 2.0, 0.0), ((string)cheat["node"]!, (string)cheat["channel"]!, (double)cheat["a"]!, (double)cheat["b"]!));
        var seen = Assert.Single(diff["seen"]!.AsArray())!;
        Assert.Equal(("b", false, true), ((string)seen["id"]!, (bool)seen["a"]!, (bool)seen["b"]!));
        Assert.Equal(diff["cheats"]!.ToJsonString(), (await _ada.Get($"api/scenes/{id}/shots/one/diff"))["cheats"]!.ToJsonString());
        await _ada.Edit(id, 5, new { @do = "takeFrom", shot = "one", from = "two" });
        Assert.Empty((await _ada.Get($"api/scenes/{id}/shots/one/diff?with=two"))["cheats"]!.AsArray());
        await _ada.Post($"api/scenes/{id}/undo", new { @base = 6 });
        Assert.Single((await _ada.Get($"api/scenes/{id}/shots/one/diff?with=two"))["cheats"]!.AsArray());
        await _ada.Refused(HttpMethod.Get, $"api/scenes/{id}/shots/gone/diff", null, 404, "not-found");
        await _ada.Refused(HttpMethod.Get, $"api/scenes/{id}/shots/one/diff?with=gone", null, 404, "not-found");
    }

    [Fact]
    public async Task A_list_goes_out_and_comes_in_as_one_step_after_it_was_asked_what_it_does()
    {
        var id = await Scene();
        Assert.Equal(["One", "Two"], (await _ada.Get($"api/scenes/{id}/shots"))["shots"]!.AsArray().Select(s => (string)s!["name"]!));
        Assert.Contains("\"OTIO_SCHEMA\": \"Timeline.1\"", await Text($"api/scenes/{id}/shots?format=otio"), StringComparison.Ordinal);
        var table = await Text($"api/scenes/{id}/shots?format=csv");
        Assert.StartsWith("number,name,frames,fps,first frame,time code,camera,note,colour\r\n010,One,48,24,1,", table, StringComparison.Ordinal);
        Assert.Equal("Every shot of this list is in the scene already, as the list has it.", (string?)(await Import(id, table, ask: true)).Body!["text"]);

        var changed = table.Replace("One,48", "One,72", StringComparison.Ordinal) + "030,Three,24,24,,,,,\r\n";
        var (_, asked) = await Import(id, changed, ask: true);
        Assert.Equal(["frames 48 → 72", "", "new, 24 frames"], asked!["changes"]!.AsArray().Select(c => string.Join(", ", c!["changes"]!.AsArray().Select(w => (string)w!))));
        Assert.Equal(5, (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!);

        var (status, made) = await Import(id, changed);
        Assert.Equal((HttpStatusCode.OK, 6L), (status, (long)made!["step"]!["revision"]!));
        Assert.Equal([72, 48, 24], (await _ada.Get($"api/scenes/{id}/shots"))["shots"]!.AsArray().Select(s => (int)s!["frames"]!));

        // The same list once more: nothing is to be done, and no step is made.
        var (repeated, again) = await Import(id, changed);
        Assert.Equal((HttpStatusCode.OK, true, 6L), (repeated, again!["step"] is null, (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!));
        await _ada.Post($"api/scenes/{id}/undo", new { @base = 6 });
        Assert.Equal([48, 48], (await _ada.Get($"api/scenes/{id}/shots"))["shots"]!.AsArray().Select(s => (int)s!["frames"]!));
    }

    [Fact]
    public async Task What_is_switched_off_in_a_timeline_is_taken_by_choice()
    {
        var id = await Scene();
        var timeline = (await Text($"api/scenes/{id}/shots?format=otio")).Replace("\"name\": \"Two\"", "\"name\": \"Three\", \"enabled\": false", StringComparison.Ordinal);
        timeline = System.Text.RegularExpressions.Regex.Replace(timeline, "(Three[^}]*?\"enabled\": false.*?)\"enabled\": true", "$1\"was\": true", System.Text.RegularExpressions.RegexOptions.Singleline);
        var passed = (await Import(id, timeline, ask: true)).Body!;
        Assert.Equal((1, 1), ((int)passed["off"]!, passed["shots"]!.AsArray().Count));
        var taken = (await Import(id, timeline, ask: true, more: "&off=take")).Body!;
        Assert.Equal((1, 2), ((int)taken["off"]!, taken["shots"]!.AsArray().Count));
        Assert.Equal(HttpStatusCode.BadRequest, (await Import(id, timeline, ask: true, more: "&off=leave")).Status);
    }

    [Theory]
    [InlineData("", "broken-file")]
    [InlineData("a,b\r\n1,2", "broken-file")]
    [InlineData("{\"OTIO_SCHEMA\":", "broken-file")]
    [InlineData("{\"OTIO_SCHEMA\":\"Clip.2\"}", "unsupported-file")]
    public async Task What_is_no_list_changes_nothing(string text, string refusal)
    {
        var id = await Scene();
        var (_, body) = await Import(id, text);
        Assert.Equal(refusal, (string?)body!["refusal"]);
        Assert.Equal(5, (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!);
        await _ada.Refused(HttpMethod.Get, $"api/scenes/{id}/shots?format=xls", null, 415, "unsupported-file");
    }

    [Fact]
    public async Task One_shot_goes_out_by_itself_and_a_scene_comes_back_with_all()
    {
        var id = await Scene();
        var one = JsonNode.Parse(await Text($"api/scenes/{id}/export?format=gltf&shot=one"))!;
        var node = Assert.Single(one["nodes"]!.AsArray())!;
        Assert.Equal(("A", 2.0), ((string)node["name"]!, (double)node["translation"]![0]!));
        await _ada.Refused(HttpMethod.Get, $"api/scenes/{id}/export?shot=gone", null, 404, "not-found");

        using var body = new StringContent(await Text($"api/scenes/{id}/export?format=gltf"), Encoding.UTF8, "model/gltf+json");
        using var answer = await _ada.Http.PostAsync(new Uri("api/scenes/import", UriKind.Relative), body);
        var scene = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.Equal(["010", "020"], scene["shots"]!.AsArray().Select(s => (string)s!["number"]!));
        Assert.Equal(["position.x", "seen"], scene["cheats"]!.AsArray().Select(c => (string)c!["channel"]!).Order());

        // Into a scene that is there they do not come, and that is said.
        using var again = new StringContent(await Text($"api/scenes/{id}/export?format=gltf"), Encoding.UTF8, "model/gltf+json");
        using var into = await _ada.Http.PostAsync(new Uri($"api/scenes/{id}/import", UriKind.Relative), again);
        Assert.Contains("The shots of the file were left out", await into.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
