using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json.Nodes;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>
/// Scenes that a former version stored (rows of its tables in Former/scenes.copy: a demo, an imported file, a scene with a
/// history) are opened, undone and done again to the letter (Former/states.json: what that version answered each time).
/// </summary>
[Collection(nameof(OneServer))]
public sealed class FormerTests(RunningServer server)
{
    private static readonly string[] OfCollections = ["id", "name", "parent", "rank", "switches", "label", "rule"];

    [Fact]
    public async Task What_a_former_version_stored_is_opened_undone_and_done_again_to_the_letter()
    {
        await Restore();
        var states = JsonNode.Parse(await File.ReadAllTextAsync(Former("states.json")))!;
        using var caller = server.NewCaller();
        caller.Http.DefaultRequestHeaders.Add("Cookie", $"calm-pivot-person={states["secret"]}");
        foreach (var scene in states["scenes"]!.AsArray())
        {
            var (id, expected) = ((string)scene!["id"]!, new Queue<JsonNode?>(scene["states"]!.AsArray()));
            Same(expected.Dequeue(), await State(caller, id), "opened");
            foreach (var way in scene["ways"]!.AsArray().Select(w => (string)w!))
            {
                var revision = (long)(await caller.Get($"api/scenes/{id}"))["revision"]!;
                await caller.Post($"api/scenes/{id}/{way}", new { @base = revision });
                Same(expected.Dequeue(), await State(caller, id), $"{way} at {revision}");
            }

            Assert.Empty(expected);

            // And it is opened anew as it was left.
            var before = await State(caller, id);
            await caller.Post($"api/scenes/{id}/edits", new { @base = (long)(await caller.Get($"api/scenes/{id}"))["revision"]!, edits = new[] { new { @do = "mark", name = "Here", at = new { point = new[] { 1, 2, 3 } } } } });
            await caller.Post($"api/scenes/{id}/undo", new { @base = (long)(await caller.Get($"api/scenes/{id}"))["revision"]! });
            Same(before, await State(caller, id), "edited and undone");

            // Its rows are in the present form from now on.
            Assert.Equal(2, await server.Query<int>($"select form from scenes where id = '{id}'"));
            Assert.Equal(0L, await server.Query<long>($"select count(*) from nodes where scene_id = '{id}' and body ->> 'kind' = 'collection' and body -> 'placement' is not null"));
        }
    }

    /// <summary>Of collections what they are, in the former form and in the present one.</summary>
    private static async Task<JsonNode> State(Caller caller, string id)
    {
        var scene = await caller.Get($"api/scenes/{id}");
        var collections = scene["collections"]!.AsArray().Select(c => (JsonNode?)new JsonObject(OfCollections.Select(name => KeyValuePair.Create(name, c![name]?.DeepClone()))));
        return new JsonObject
        {
            ["nodes"] = scene["nodes"]!.DeepClone(),
            ["marks"] = scene["marks"]!.DeepClone(),
            ["collections"] = new JsonArray([.. collections]),
        };
    }

    private static void Same(JsonNode? expected, JsonNode? present, string when)
    {
        foreach (var list in new[] { "nodes", "marks", "collections" })
        {
            Assert.Equal(expected![list]!.AsArray().Count, present![list]!.AsArray().Count);
            foreach (var (one, other) in expected[list]!.AsArray().Zip(present[list]!.AsArray()))
            {
                Assert.True(JsonNode.DeepEquals(one, other), $"{when}:\n{one?.ToJsonString()}\n{other?.ToJsonString()}");
            }
        }
    }

    private async Task Restore()
    {
        await using var connection = new NpgsqlConnection(server.ConnectionString);
        await connection.OpenAsync();
        TextWriter? writer = null;
        foreach (var line in await File.ReadAllLinesAsync(Former("scenes.copy"), Encoding.UTF8))
        {
            if (line.StartsWith("copy ", StringComparison.Ordinal))
            {
                writer = await connection.BeginTextImportAsync(line.TrimEnd(';'));
            }
            else if (line == "\\.")
            {
                await writer!.DisposeAsync();
                writer = null;
            }
            else if (writer is not null)
            {
                await writer.WriteAsync(line + "\n");
            }
        }
    }

    private static string Former(string file, [CallerFilePath] string here = "") => Path.Combine(Path.GetDirectoryName(here)!, "Former", file);
}
