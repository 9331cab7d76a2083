using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Building by calls: groups, copies, collections, joined meshes, pasting, and their refusals.</summary>
[Collection(nameof(OneServer))]
public sealed class BuildingCallsTests(RunningServer server) : IDisposable
{
    private static readonly object World = new { kind = "world" };
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task Collections_are_listed_explain_what_is_hidden_and_outlive_the_server()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(
            id,
            2,
            new { @do = "collection", id = "set", name = "Set", color = "#336699" },
            new { @do = "collection", id = "inner", name = "Inner", under = "set", nodes = new[] { "a" } },
            new { @do = "collection", id = "smart", name = "Smart", rule = new { name = "B*", kind = "shape" } },
            new { @do = "see", nodes = new[] { "set" }, working = false });
        server.Kill();
        await server.Start();
        var scene = await _caller.Get($"api/scenes/{id}");
        Assert.Equal(["set", "inner", "smart"], scene["collections"]!.AsArray().Select(c => (string?)c!["id"]));
        Assert.Equal("set", (string?)scene["collections"]![1]!["parent"]);
        Assert.Equal("B*", (string?)scene["collections"]![2]!["rule"]!["name"]);
        Assert.Equal(["inner"], scene["nodes"]![0]!["collections"]!.AsArray().Select(c => (string?)c));

        var seen = (await _caller.Get($"api/scenes/{id}/evaluated"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == "a")!["seen"]!;
        Assert.False((bool)seen["working"]!);
        Assert.Equal("hidden in the working view: it is in “Inner” only, and “Set” around it is off", (string?)seen["reasons"]![0]);

        var listed = (await _caller.Get("api/scenes")).AsArray().Single(s => (string?)s!["id"] == id)!;
        Assert.Equal(2, (int)listed["nodeCount"]!);
        await _caller.Edit(id, 3, new { @do = "remove", nodes = new[] { "set" } });
        Assert.Single((await _caller.Get($"api/scenes/{id}"))["collections"]!.AsArray());
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal(3, (await _caller.Get($"api/scenes/{id}"))["collections"]!.AsArray().Count);
    }

    [Fact]
    public async Task An_object_is_added_to_each_of_the_picked_and_is_undone_in_one_step()
    {
        var id = await _caller.NewScene();
        var node = new { name = "Rig", kind = "group" };
        var added = await _caller.Edit(id, 2, new { @do = "add", node, nodes = new[] { "a", "b" }, where = "around", ids = new[] { "over-a", "over-b" } });
        Assert.Equal("Added Rig around each of 2 objects", (string?)added["step"]!["sentence"]);
        var nodes = (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray();
        Assert.Equal(["over-a", "a", "over-b", "b"], nodes.Select(n => (string?)n!["id"]));
        Assert.Equal("over-b", (string?)nodes[3]!["parent"]);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
        Assert.Equal(["a", "b"], (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray().Select(n => (string?)n!["id"]));
        foreach (var (body, refusal, status) in new (object, string, int)[]
        {
            (new { @do = "add", node, nodes = Array.Empty<string>(), where = "inside" }, "nothing-picked", 400),
            (new { @do = "add", node, nodes = new[] { "a" }, where = "under" }, "not-understood", 400),
            (new { @do = "add", node, nodes = new[] { "a" }, where = "inside", ids = new[] { "x", "y" } }, "not-understood", 400),
            (new { @do = "add", node, nodes = new[] { "gone" }, where = "beside" }, "not-found", 404),
        })
        {
            await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 4, edits = new[] { body } }, status, refusal);
        }
    }

    [Fact]
    public async Task A_joined_mesh_is_stored_served_and_comes_back_by_undo_and_redo()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Caller.Move("a", 3), new { @do = "join", nodes = new[] { "a", "b" } });
        var hash = await GeometryOf(id, "b");
        Assert.NotNull(hash);
        Assert.True((await _caller.Http.GetAsync(new Uri($"api/scenes/{id}/geometry/{hash}", UriKind.Relative))).IsSuccessStatusCode);

        server.Kill();
        await server.Start();
        var separated = await _caller.Edit(id, 3, new { @do = "separate", nodes = new[] { "b" } });
        Assert.Equal(2, separated["changed"]!.AsArray().Count);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal(hash, await GeometryOf(id, "b"));
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 5 });
        Assert.Null(await GeometryOf(id, "b"));
        await _caller.Post($"api/scenes/{id}/redo", new { @base = 6 });
        Assert.Equal(hash, await GeometryOf(id, "b"));
    }

    [Fact]
    public async Task Groups_and_copies_are_edits_of_the_api()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "group", nodes = new[] { "a", "b" }, name = "Pair", at = "base", id = "pair" });
        await _caller.Edit(
            id,
            3,
            new
            {
                @do = "duplicate",
                nodes = new[] { "pair" },
                count = 2,
                by = new { @do = "rotate", by = 120, axis = "y", space = World, about = new { kind = "point", at = new[] { 5, 0, 0 } } },
                sharing = true,
                ids = new[] { new[] { "p2" }, new[] { "p3" } },
            });
        var nodes = (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray();
        Assert.Equal(["pair", "a", "b", "p2", "p2-1", "p2-2", "p3", "p3-1", "p3-2"], nodes.Select(n => (string?)n!["id"]));
        Assert.Equal(["Pair", "Pair 2", "Pair 3"], nodes.Where(n => n!["parent"] is null).Select(n => (string?)n!["name"]));
        Assert.Equal("a", (string?)nodes.Single(n => (string?)n!["id"] == "p3-1")!["shares"]);
        await _caller.Edit(id, 4, new { @do = "setShape", node = "p3-1", shape = new { size = new[] { 3, 3, 3 } } }, new { @do = "unshare", nodes = new[] { "p2-1" } });
        await _caller.Edit(id, 5, new { @do = "label", nodes = new[] { "pair" }, color = "#123456", note = "both", closed = true }, new { @do = "draw", nodes = new[] { "pair" }, @as = "wire" });
        await _caller.Edit(id, 6, new { @do = "renameMany", nodes = new[] { "p2", "p3" }, name = "Two", from = 1, digits = 2 }, new { @do = "ungroup", nodes = new[] { "p2" } });
        nodes = (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray();
        Assert.Equal(3, (double)nodes.Single(n => (string?)n!["id"] == "a")!["shape"]!["size"]![0]!);
        Assert.Equal("both", (string?)nodes[0]!["label"]!["note"]);
        Assert.Equal("wire", (string?)nodes[0]!["switches"]!["drawn"]);
        Assert.Equal("Two 02", (string?)nodes.Single(n => (string?)n!["id"] == "p3")!["name"]);
    }

    [Fact]
    public async Task What_was_copied_is_pasted_as_it_reads()
    {
        var id = await _caller.NewScene();
        var node = (await _caller.Get($"api/scenes/{id}"))["nodes"]![0]!.DeepClone();
        var world = new double[] { 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 7, 0, 0, 1 };
        await _caller.Edit(id, 2, new { @do = "paste", copied = new { calmPivot = 1, nodes = new[] { node }, worlds = new[] { world } }, ids = new[] { "pasted" }, under = "b" });
        Assert.Equal(7, await _caller.XOf(id, "pasted"));
    }

    [Theory]
    [InlineData("""{"do":"putUnder","nodes":["free"],"parent":"free"}""", 422, "would-loop")]
    [InlineData("""{"do":"putUnder","nodes":["a"],"parent":"set"}""", 400, "not-understood")]
    [InlineData("""{"do":"move","nodes":["set"],"by":[1,0,0],"space":{"kind":"world"}}""", 400, "not-understood")]
    [InlineData("""{"do":"duplicate","nodes":["a"],"count":100000}""", 413, "too-large")]
    [InlineData("""{"do":"duplicate","nodes":["a"],"by":{"do":"remove"}}""", 400, "not-understood")]
    [InlineData("""{"do":"move","nodes":["b"],"by":[1,0,0],"space":{"kind":"world"}}""", 409, "locked")]
    [InlineData("""{"do":"ungroup","nodes":["a"]}""", 400, "not-understood")]
    [InlineData("""{"do":"collect","nodes":["a"],"collection":"b"}""", 404, "not-found")]
    [InlineData("""{"do":"group","nodes":["gone"],"name":"G"}""", 404, "not-found")]
    [InlineData("""{"do":"paste","copied":{"calmPivot":1,"nodes":[],"worlds":[]}}""", 400, "not-understood")]
    [InlineData("""{"do":"join","nodes":["a"]}""", 400, "nothing-picked")]
    [InlineData("""{"do":"label","nodes":["a"],"color":"red"}""", 400, "not-understood")]
    [InlineData("""{"do":"collection","name":"Rule","rule":{}}""", 400, "not-understood")]
    public async Task What_cannot_be_built_is_refused(string edit, int status, string refusal)
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "collection", id = "set", name = "Set", nodes = new[] { "b" } }, new { @do = "collection", id = "free", name = "Free" }, new { @do = "lock", nodes = new[] { "set" }, on = true });
        var before = (await _caller.Get($"api/scenes/{id}")).ToJsonString();
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { JsonNode.Parse(edit) } }, status, refusal);
        Assert.Equal(before, (await _caller.Get($"api/scenes/{id}")).ToJsonString());
    }

    private async Task<string?> GeometryOf(string scene, string node) =>
        (string?)(await _caller.Get($"api/scenes/{scene}"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == node)!["geometry"];
}
