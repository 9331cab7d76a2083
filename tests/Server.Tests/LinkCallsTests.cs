using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Constraints by the API: what is stored, what is told of it, who may write what when.</summary>
[Collection(nameof(SteadyServer))]
public sealed class LinkCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    private static object Aim(string node, string target) => new { @do = "constrain", nodes = new[] { node }, constraint = new { kind = "aim", target, axis = "+z", upAxis = "+y" } };

    [Fact]
    public async Task What_a_constraint_does_is_told_with_where_it_was_placed()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Caller.Move("b", 4));
        var answer = await _caller.Edit(id, 3, Aim("a", "b"));
        Assert.Equal("Aimed A at B with its +Z, up by the world's +Y", (string?)answer["step"]!["sentence"]);
        var stored = answer["changed"]!.AsArray().Single(n => (string?)n!["id"] == "a")!["constraints"]![0]!;
        Assert.Equal(("aim", "aim", "b", 1.0, true), ((string?)stored["id"], (string?)stored["kind"], (string?)stored["target"], (double)stored["weight"]!, (bool)stored["enabled"]!));
        var nodes = (await _caller.Get($"api/scenes/{id}/evaluated"))["nodes"]!.AsArray();
        var node = nodes.Single(n => (string?)n!["id"] == "a")!;
        Assert.Equal(9, node["axes"]!.AsArray().Count);
        Assert.Equal(16, node["placed"]!.AsArray().Count);
        var link = node["links"]!.AsArray().Single()!;
        Assert.Equal(90, (double)link["turned"]!, 1e-6);
        Assert.Equal("Aim at B", (string?)link["title"]);
        Assert.Null(nodes.Single(n => (string?)n!["id"] == "b")!["links"]);
    }

    [Fact]
    public async Task Only_what_is_written_counts_as_changed_meanwhile()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Aim("a", "b"));
        var revision = (long)(await _caller.Get($"api/scenes/{id}"))["revision"]!;
        await _caller.Edit(id, revision, Caller.Move("b", 3));

        // The target has changed since, the part has not.
        await _caller.Edit(id, revision, new { @do = "setConstraint", of = new[] { new { node = "a", id = "aim" } }, weight = 0.5 });
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = revision, edits = new[] { new { @do = "unconstrain", of = new[] { new { node = "a" } } } } }, 409, "changed-meanwhile");
    }

    [Fact]
    public async Task Two_people_cannot_close_a_loop_neither_by_an_edit_nor_by_an_undo()
    {
        using var other = server.NewCaller();
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, Aim("a", "b"));
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Aim("b", "a") } }, 422, "would-loop");
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
        await other.Edit(id, 4, Aim("b", "a"));
        await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/redo", new { @base = 5 }, 422, "would-loop");
    }

    [Fact]
    public async Task Bad_constraints_are_refused_and_nothing_changes()
    {
        var id = await _caller.NewScene();
        foreach (var constraint in new object[]
        {
            new { kind = "lean", target = "b" },
            new { kind = "aim", target = "a" },
            new { kind = "aim", target = "gone" },
            new { kind = "aim", target = "b", weight = 2 },
            new { kind = "aim", target = "b", up = new { sideways = "+y" } },
            new { kind = "aim", target = "b", wobble = 1 },
            new { kind = "follow", target = "b", axes = "" },
            new { kind = "limit", of = "position", low = new[] { 2, 2, 2 }, high = new[] { 1, 1, 1 } },
        })
        {
            var answer = await _caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { new { @do = "constrain", nodes = new[] { "a" }, constraint } } });
            Assert.Contains((int)answer.StatusCode, new[] { 400, 404, 422 });
            Assert.EndsWith(".", (string?)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["detail"]);
        }

        Assert.Equal(2, (long)(await _caller.Get($"api/scenes/{id}"))["revision"]!);
    }

    [Fact]
    public async Task The_order_of_triangles_is_built_once_and_belongs_to_its_scene()
    {
        var id = await _caller.NewScene();
        var joined = await _caller.Edit(id, 2, new { @do = "join", nodes = new[] { "a", "b" } });
        var hash = (string?)joined["changed"]!.AsArray().Single(n => (string?)n!["id"] == "b")!["geometry"];
        var first = await (await _caller.Send(HttpMethod.Get, $"api/scenes/{id}/geometry/{hash}/triangles")).Content.ReadAsByteArrayAsync();
        var again = await (await _caller.Send(HttpMethod.Get, $"api/scenes/{id}/geometry/{hash}/triangles")).Content.ReadAsByteArrayAsync();
        Assert.Equal(first, again);
        Assert.Equal(24, Enumerable.Range(0, first.Length / 4).Select(i => BitConverter.ToInt32(first, 4 * i)).Distinct().Count());
        await _caller.Refused(HttpMethod.Get, $"api/scenes/{await _caller.NewScene()}/geometry/{hash}/triangles", null, 404, "not-found");
    }
}
