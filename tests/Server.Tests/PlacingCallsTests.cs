using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Placing by calls: marks beside the tree, values in the world, alignment, drops, and their refusals.</summary>
[Collection(nameof(OneServer))]
public sealed class PlacingCallsTests(RunningServer server) : IDisposable
{
    private static readonly object World = new { kind = "world" };
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task Marks_are_listed_evaluated_undone_and_kept_over_a_restart()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(
            id,
            2,
            new { @do = "mark", id = "ramp", name = "Ramp", at = new { point = new[] { 0, 1, 0 }, y = new[] { 0, 1, 1 } } },
            new { @do = "mark", id = "rider", name = "Rider", at = new { node = "a" }, follow = true },
            Caller.Move("a", 3));
        var scene = await _caller.Get($"api/scenes/{id}");
        Assert.Equal(["ramp", "rider"], scene["marks"]!.AsArray().Select(m => (string?)m!["id"]));
        Assert.Equal("a", (string?)scene["marks"]![1]!["parent"]);
        Assert.Equal(2, scene["nodes"]!.AsArray().Count);
        Assert.Equal(3, await PivotX(id, "rider"));
        var listed = (await _caller.Get("api/scenes")).AsArray().Single(s => (string?)s!["id"] == id)!;
        Assert.Equal(2, (int)listed["nodeCount"]!);

        // The source goes: the mark stays where it is, and follows again when that is undone.
        await _caller.Edit(id, 3, new { @do = "remove", nodes = new[] { "a" } });
        Assert.Null((string?)(await _caller.Get($"api/scenes/{id}"))["marks"]![1]!["parent"]);
        Assert.Equal(3, await PivotX(id, "rider"));
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal("a", (string?)(await _caller.Get($"api/scenes/{id}"))["marks"]![1]!["parent"]);

        server.Kill();
        await server.Start();
        Assert.Equal(3, await PivotX(id, "rider"));
        await _caller.Edit(id, 5, new { @do = "rotate", nodes = new[] { "b" }, by = 90, axis = "z", space = new { kind = "mark", mark = "ramp" }, about = new { kind = "mark", mark = "rider" } });
    }

    [Fact]
    public async Task What_a_mark_follows_cannot_be_undone_away_beneath_it()
    {
        using var other = server.NewCaller();
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "create", node = new { id = "c", name = "C", kind = "group" } });
        await other.Edit(id, 3, new { @do = "mark", id = "m", name = "M", at = new { node = "c" }, follow = true });
        var problem = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 4 }, 409, "changed-meanwhile");
        Assert.Contains("Pin the mark first", (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Taking_out_and_pinning_need_no_null_written()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "putUnder", nodes = new[] { "b" }, parent = "a" }, new { @do = "mark", id = "m", name = "M", at = new { node = "a" }, follow = true });
        await _caller.Edit(id, 3, new { @do = "putUnder", nodes = new[] { "b" } }, new { @do = "follow", mark = "m" });
        var scene = await _caller.Get($"api/scenes/{id}");
        Assert.All(scene["nodes"]!.AsArray(), node => Assert.Null((string?)node!["parent"]));
        Assert.Null((string?)scene["marks"]![0]!["parent"]);
    }

    [Fact]
    public async Task The_fixed_forms_of_placing_are_understood()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "create", node = new { id = "c", name = "C", kind = "shape", placement = new { position = new[] { 9, 5, 0 } } } });
        object[] edits =
        [
            new { @do = "setOrder", nodes = new[] { "a" }, order = "ZYX" },
            new { @do = "setTakes", nodes = new[] { "a" }, takes = new { rotation = false }, keep = "world" },
            new { @do = "dropShear", nodes = new[] { "a" } },
            new { @do = "mirror", nodes = new[] { "a" }, axis = "x", space = World, about = new { kind = "zero" }, how = "turn" },
            new { @do = "align", nodes = new[] { "a" }, to = "b", axes = new { y = new { from = "min", to = "max" } }, space = World, @as = "each" },
            new { @do = "spread", nodes = new[] { "a", "b", "c" }, along = "x", space = World, equal = "pivots" },
            new { @do = "drop", nodes = new[] { "c" }, by = "lowest", @as = "each" },
            new { @do = "set", nodes = new[] { "a", "b" }, channel = "position", values = new double?[] { null, null, 2 }, mode = "add", @in = "world" },
            new { @do = "bring", nodes = new[] { "b" }, to = new { node = "c" }, rotation = true },
            new { @do = "movePivot", nodes = new[] { "a" }, shift = new { by = new[] { 0.1, 0, 0 }, space = World }, spin = new { by = 30, axis = "y", space = World } },
            new { @do = "rotate", nodes = new[] { "a" }, by = 15, axis = "y", space = new { kind = "channels" }, about = new { kind = "own" } },
        ];
        var answer = await _caller.Edit(id, 3, edits);
        Assert.Equal(4, (long)answer["revision"]!);
        var nodes = (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray().ToDictionary(n => (string)n!["id"]!, n => n!["placement"]!);
        Assert.Equal("ZYX", (string?)nodes["a"]["order"]);
        Assert.False((bool)nodes["a"]["takes"]!["rotation"]!);
        Assert.Equal(0.5, (double)nodes["c"]["position"]![1]!, 1e-9);
        Assert.Equal((double)nodes["c"]["position"]![0]!, (double)nodes["b"]["position"]![0]!, 1e-9);
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal(5, (double)(await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == "c")!["placement"]!["position"]![1]!);
    }

    [Theory]
    [InlineData("""{"do":"align","nodes":["a"],"to":"gone","axes":{},"space":{"kind":"world"},"as":"each"}""", 404, "not-found")]
    [InlineData("""{"do":"align","nodes":["a"],"to":"b","axes":{"x":{"from":"left","to":"max"}},"space":{"kind":"world"},"as":"each"}""", 400, "not-understood")]
    [InlineData("""{"do":"spread","nodes":["a","b"],"along":"x","space":{"kind":"world"},"equal":"gaps"}""", 400, "nothing-picked")]
    [InlineData("""{"do":"drop","nodes":["a","b"],"along":[0,0,1],"by":"lowest","as":"block"}""", 404, "not-found")]
    [InlineData("""{"do":"set","nodes":["a"],"channel":"scale","values":[0,null,null]}""", 422, "zero-scale")]
    [InlineData("""{"do":"mirror","nodes":["a"],"axis":"w","space":{"kind":"world"},"about":{"kind":"zero"},"how":"turn"}""", 400, "not-understood")]
    [InlineData("""{"do":"rotate","nodes":["a"],"by":5,"axis":"x","space":{"kind":"mark"},"about":{"kind":"own"}}""", 400, "not-understood")]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,0,0],"space":{"kind":"channels"}}""", 400, "not-understood")]
    public async Task What_cannot_be_placed_is_refused(string edit, int status, string refusal)
    {
        var id = await _caller.NewScene();
        var problem = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { JsonNode.Parse(edit) } }, status, refusal);
        Assert.NotEmpty((string)problem["detail"]!);
        Assert.Equal(2, (long)(await _caller.Get($"api/scenes/{id}"))["revision"]!);
    }

    private async Task<double> PivotX(string scene, string mark) =>
        (double)(await _caller.Get($"api/scenes/{scene}/evaluated"))["marks"]!.AsArray().Single(n => (string?)n!["id"] == mark)!["pivot"]![0]!;
}
