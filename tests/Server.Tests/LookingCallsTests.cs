using System.Net;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>The calls behind steps, named selections and clearing what nothing uses.</summary>
[Collection(nameof(SteadyServer))]
public sealed class LookingCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task A_step_tells_what_it_was_about_and_what_it_did()
    {
        var id = await _caller.NewScene();
        var made = await _caller.Edit(id, 2, Caller.Move("b", 1), Caller.Move("a", 2));
        Assert.Equal(["b", "a"], made["step"]!["picked"]!.AsArray().Select(n => (string?)n));
        var number = (long)made["step"]!["number"]!;
        var change = (await _caller.Get($"api/scenes/{id}/steps/{number}")).AsArray();
        var moved = change.Single(c => (string?)c!["id"] == "a")!;
        Assert.Equal(0, (double)moved["was"]!["placement"]!["position"]![0]!);
        Assert.Equal(2, (double)moved["is"]!["placement"]!["position"]![0]!);
        var undone = await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
        Assert.Equal(["b", "a"], undone["step"]!["picked"]!.AsArray().Select(n => (string?)n));
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{id}/steps/99", null, 404, "not-found");
    }

    [Fact]
    public async Task Going_back_to_a_step_takes_back_all_after_it_and_going_where_one_is_changes_nothing()
    {
        var id = await _caller.NewScene();
        foreach (var x in new[] { 1, 1, 1 })
        {
            await _caller.Edit(id, 100, Caller.Move("a", x));
        }

        await _caller.Post($"api/scenes/{id}/undo", new { @base = 5, to = 2 });
        Assert.Equal(1, await _caller.XOf(id, "a"));
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 6, to = 2 }, 409, "nothing-to-undo");
        Assert.Equal(1, await _caller.XOf(id, "a"));
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 6, to = 4 });
        Assert.Equal(3, await _caller.XOf(id, "a"));
    }

    [Fact]
    public async Task Checkpoints_have_names_that_can_be_taken_away()
    {
        var id = await _caller.NewScene();
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}/steps/1", new { name = "Begin" })).StatusCode);
        Assert.Equal("Begin", (string?)(await _caller.Get($"api/scenes/{id}/steps"))[0]!["name"]);
        await _caller.Send(HttpMethod.Patch, $"api/scenes/{id}/steps/1", new { });
        Assert.Null((await _caller.Get($"api/scenes/{id}/steps"))[0]!["name"]);
    }

    [Fact]
    public async Task Selections_are_named_changed_listed_and_forgotten()
    {
        var id = await _caller.NewScene();
        await Put("Pair", "b", "a");
        await Put("a/b", "a");
        await Put("Pair", "a", "b");
        var list = (await _caller.Get($"api/scenes/{id}/selections")).AsArray();
        Assert.Equal(["Pair", "a/b"], list.Select(s => (string?)s!["name"]));
        Assert.Equal(["a", "b"], list[0]!["nodes"]!.AsArray().Select(n => (string?)n));
        Assert.Equal(HttpStatusCode.NoContent, (await _caller.Send(HttpMethod.Delete, $"api/scenes/{id}/selections?name=a%2Fb")).StatusCode);
        await _caller.Refused(HttpMethod.Delete, $"api/scenes/{id}/selections?name=a%2Fb", null, 404, "not-found");
        Assert.Single((await _caller.Get($"api/scenes/{id}/selections")).AsArray());

        async Task Put(string name, params string[] nodes) => Assert.Equal(
            HttpStatusCode.NoContent,
            (await _caller.Send(HttpMethod.Put, $"api/scenes/{id}/selections", new { name, nodes })).StatusCode);
    }

    [Fact]
    public async Task A_selection_needs_a_name_and_objects_that_are_there()
    {
        var id = await _caller.NewScene();
        await _caller.Refused(HttpMethod.Put, $"api/scenes/{id}/selections", new { name = "X", nodes = Array.Empty<string>() }, 400, "nothing-picked");
        await _caller.Refused(HttpMethod.Put, $"api/scenes/{id}/selections", new { name = "X", nodes = new[] { "gone" } }, 404, "not-found");
        await _caller.Refused(HttpMethod.Put, $"api/scenes/{id}/selections", new { name = " ", nodes = new[] { "a" } }, 400, "not-understood");
        await _caller.Refused(HttpMethod.Put, $"api/scenes/{id}/selections", new { name = new string('x', 501), nodes = new[] { "a" } }, 413, "too-large");
        await _caller.Refused(HttpMethod.Get, "api/scenes/none/selections", null, 404, "not-found");
    }

    [Fact]
    public async Task Steering_and_facets_are_edits_of_the_api()
    {
        var id = await _caller.NewScene();
        double[] view = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, 4, 5, 1];
        await _caller.Edit(
            id,
            2,
            new { @do = "create", node = new { id = "eye", name = "Eye", kind = "camera", camera = new { aspect = 2.0 } } },
            new { @do = "steer", node = "eye", view },
            new { @do = "setNormals", nodes = new[] { "a" }, how = "smooth", angle = 30 });
        var nodes = (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray();
        JsonNode Node(string of) => nodes.Single(n => (string?)n!["id"] == of)!;
        Assert.Equal([3, 4, 5], Node("eye")["placement"]!["position"]!.AsArray().Select(v => (double)v!));
        Assert.Equal(2, (double)Node("eye")["camera"]!["aspect"]!);
        Assert.Equal("smooth", (string?)Node("a")["normals"]!["how"]);
        await _caller.Refused(
            HttpMethod.Post,
            $"api/scenes/{id}/edits",
            new { @base = 3, edits = new object[] { new { @do = "setNormals", nodes = new[] { "a" }, how = "shiny" } } },
            400,
            "not-understood");
    }

    [Fact]
    public async Task Nothing_is_unused_in_a_scene_of_shapes()
    {
        var id = await _caller.NewScene();
        var unused = await _caller.Get($"api/scenes/{id}/unused");
        Assert.Equal((0, 0L), ((int)unused["count"]!, (long)unused["bytes"]!));
    }
}
