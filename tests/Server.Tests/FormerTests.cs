using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json.Nodes;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>
/// Scenes that former versions stored (rows of their tables in Former/…/scenes.copy: a demo, an imported file, a scene with a
/// history) are opened, undone and done again to the letter (Former/…/states.json: what that version answered each time).
/// </summary>
[Collection(nameof(OneServer))]
public sealed class FormerTests(RunningServer server)
{
    private static readonly string[] OfCollections = ["id", "name", "parent", "rank", "switches", "label", "rule"];

    [Theory]
    [InlineData("1")]
    [InlineData("2")]
    [InlineData("3")]
    public async Task What_a_former_version_stored_is_opened_undone_and_done_again_to_the_letter(string form)
    {
        await Restore(form);
        var states = JsonNode.Parse(await File.ReadAllTextAsync(Former(form, "states.json")))!;
        var secret = System.Text.Encoding.ASCII.GetBytes((string)states["secret"]!);

        // As the migration would, were these here before it.
        var person = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(secret))[..16];
        await server.Run($"insert into unsigned_persons values ('{person}') on conflict (person) do update set taken_over_at = null");
        using var caller = server.NewCaller();
        caller.Http.DefaultRequestHeaders.Add("Cookie", $"calm-pivot-person={states["secret"]}");
        if (states["keyed"] is { } keyed)
        {
            // A call that was answered before is answered so again, and not made twice.
            var again = await caller.Post($"api/scenes/{keyed["scene"]}/edits", keyed["body"]!);
            Assert.True(JsonNode.DeepEquals(Named(keyed["answer"]!), again), again.ToJsonString());
        }

        foreach (var scene in states["scenes"]!.AsArray())
        {
            var (id, expected) = ((string)scene!["id"]!, new Queue<JsonNode?>(Spelled(scene["states"]!.AsArray())));
            Same(expected.Dequeue(), await State(caller, id), "opened");
            if (scene["steps"] is { } steps)
            {
                var listed = await caller.Get($"api/scenes/{id}/steps");
                Assert.True(JsonNode.DeepEquals(Untimed(steps), Untimed(listed)), listed.ToJsonString());
                foreach (var number in listed.AsArray().Select(s => (long)s!["number"]!))
                {
                    Assert.NotEmpty((await caller.Get($"api/scenes/{id}/steps/{number}")).AsArray());
                }
            }

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

            // Its rows are in the present form from now on, and what its former steps did is still there.
            Assert.Equal(4, await server.Query<int>($"select form from scenes where id = '{id}'"));
            Assert.Equal(0L, await server.Query<long>($"select count(*) from former_nodes where scene_id = '{id}'"));
            Assert.Equal(
                await server.Query<long>($"select count(*) from former_steps where scene_id = '{id}'"),
                await server.Query<long>($"select count(*) from steps s join scenes c on c.no = s.scene where c.id = '{id}' and s.revision is null"));
        }
    }

    /// <summary>With the surfaces that nodes said in full named by the ids of the materials that they are now, and rules by these.</summary>
    private static JsonNode Named(JsonNode state)
    {
        var named = state.DeepClone();
        foreach (var node in new[] { "nodes", "changed" }.SelectMany(list => named[list]?.AsArray() ?? []).OfType<JsonObject>())
        {
            if (node["material"] is JsonObject one)
            {
                node["material"] = IdOf(one);
            }

            if (node["materials"] is JsonArray several)
            {
                node["materials"] = new JsonArray([.. several.Select(m => (JsonNode?)IdOf(m!.AsObject()))]);
            }
        }

        return named;
    }

    private static string IdOf(JsonObject surface) => WireJson.Read<MaterialChoice>(surface.ToJsonString()).Id;

    /// <summary>Everything that nodes name is there, and each material is what the node said of it.</summary>
    private static void Made(JsonNode scene)
    {
        var materials = scene["materials"]!.AsArray().ToDictionary(m => (string)m!["id"]!);
        foreach (var node in scene["nodes"]!.AsArray())
        {
            foreach (var id in (node!["materials"]?.AsArray() ?? []).Append(node["material"]).OfType<JsonNode>().Select(m => (string)m!))
            {
                var material = WireJson.Read<EntityData>(materials[id]!.ToJsonString()).Entity;
                Assert.StartsWith(Material.IdOf(((Material)material).Surface, material.Name.StartsWith('#') ? "" : material.Name), id);
            }
        }
    }

    /// <summary>That version told the time of a step that it had just made finer than it was stored.</summary>
    private static JsonNode Untimed(JsonNode steps)
    {
        var untimed = steps.DeepClone();
        Assert.All(untimed.AsArray(), step => Assert.True(step!.AsObject().Remove("at")));
        return untimed;
    }

    /// <summary>What is as in the state before stands there by its id alone.</summary>
    private static IEnumerable<JsonNode?> Spelled(JsonArray states)
    {
        var known = new Dictionary<string, JsonNode>();
        foreach (var state in states)
        {
            var spelled = new JsonObject();
            foreach (var (list, items) in state!.AsObject())
            {
                spelled[list] = new JsonArray([.. items!.AsArray().Select(item => item is JsonObject whole
                    ? (known[(string)whole["id"]!] = whole).DeepClone()
                    : known[(string)item!].DeepClone())]);
            }

            yield return Plain(Named(spelled));
        }
    }

    /// <summary>Of collections what they are, in the former form and in the present one.</summary>
    private static async Task<JsonNode> State(Caller caller, string id)
    {
        var scene = await caller.Get($"api/scenes/{id}");
        Made(scene);
        return Plain(scene);
    }

    private static JsonObject Plain(JsonNode scene)
    {
        var collections = scene["collections"]!.AsArray().Select(c => (JsonNode?)new JsonObject(OfCollections.Select(name => KeyValuePair.Create(name, c![name]?.DeepClone())))).ToList();
        foreach (var rule in collections.Select(c => c!["rule"]).OfType<JsonObject>())
        {
            // What it said as a text, and is by its ids now; undone to, it may still say it.
            rule["material"] = rule["material"] is not null || rule["materials"] is not null;
            rule.Remove("materials");
        }

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

    private async Task Restore(string form)
    {
        await using var connection = new NpgsqlConnection(server.ConnectionString);
        await connection.OpenAsync();
        TextWriter? writer = null;
        var blobs = false;
        foreach (var line in await File.ReadAllLinesAsync(Former(form, "scenes.copy"), Encoding.UTF8))
        {
            if (line.StartsWith("copy ", StringComparison.Ordinal))
            {
                blobs = line.StartsWith("copy blobs", StringComparison.Ordinal);
                if (blobs)
                {
                    await Run(connection, "create temp table coming_blobs (like blobs)");
                    writer = await connection.BeginTextImportAsync(line.TrimEnd(';').Replace("copy blobs", "copy coming_blobs", StringComparison.Ordinal));
                    continue;
                }

                // Where the rows of former forms lie by now.
                writer = await connection.BeginTextImportAsync(System.Text.RegularExpressions.Regex.Replace(line.TrimEnd(';'), "^copy (nodes|steps|answers) ", "copy former_$1 ") is var former && form != "3" ? former : line.TrimEnd(';'));
            }
            else if (line == "\\.")
            {
                await writer!.DisposeAsync();
                writer = null;
                if (blobs)
                {
                    // Some may be here of other tests.
                    await Run(connection, "insert into blobs (hash, media_type, bytes) select hash, media_type, bytes from coming_blobs on conflict do nothing; drop table coming_blobs");
                    blobs = false;
                }
            }
            else if (writer is not null)
            {
                await writer.WriteAsync(line + "\n");
            }
        }
    }

    private static async Task Run(NpgsqlConnection connection, string sql)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }

    private static string Former(string form, string file, [CallerFilePath] string here = "") => Path.Combine(Path.GetDirectoryName(here)!, "Former", form, file);
}
