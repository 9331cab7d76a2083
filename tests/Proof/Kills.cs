using System.Text.Json.Nodes;

namespace CalmPivot.Proof;

/// <summary>
/// Four writers move a thing each by one metre again and again, while the server, or the database, is killed forty times: where each stands at last says whether
/// anything was lost or done twice.
/// </summary>
internal static class Kills
{
    private const int Times = 40;
    private const int Writers = 4;

    public static Task<string> OfServer() => Run("server", async (server, random) =>
    {
        await Task.Delay(random.Next(300, 1_500));
        await server.Kill();
        await server.Start();
    });

    public static Task<string> OfDatabase() => Run("database", async (_, random) =>
    {
        await Task.Delay(random.Next(300, 1_500));
        await House.KillDatabase(TimeSpan.FromMilliseconds(random.Next(500)));
    });

    private static async Task<string> Run(string what, Func<ServerProcess, Random, Task> kill)
    {
        await using var server = ServerProcess.New();
        await server.Start();
        var (answers, random) = (new Answers(), new Random(35));
        var writers = Enumerable.Range(0, Writers).Select(_ => new Writer([server.Address], answers)).ToArray();
        var scene = (string)(await writers[0].Send("api/scenes", new() { ["name"] = "Killed" })).Said!["id"]!;
        var made = new JsonArray([.. Enumerable.Range(0, Writers).Select(i => (JsonNode)new JsonObject { ["do"] = "create", ["node"] = new JsonObject { ["id"] = $"n{i}", ["name"] = $"N{i}", ["kind"] = "shape" } })]);
        await writers[0].Send($"api/scenes/{scene}/edits", new() { ["base"] = 1, ["edits"] = made });
        using var stop = new CancellationTokenSource();
        var done = new int[Writers];
        var writing = Enumerable.Range(0, Writers).Select(async who =>
        {
            while (!stop.IsCancellationRequested)
            {
                var move = new JsonObject { ["do"] = "move", ["nodes"] = new JsonArray($"n{who}"), ["by"] = new JsonArray(1, 0, 0), ["space"] = new JsonObject { ["kind"] = "world" } };
                var (status, said) = await writers[who].Send($"api/scenes/{scene}/edits", new() { ["base"] = 1_000_000_000, ["key"] = Guid.NewGuid().ToString(), ["edits"] = new JsonArray(move) });
                done[who] += status == 200 ? 1 : throw new InvalidOperationException($"{status} {said}");
            }
        }).ToArray();
        for (var i = 0; i < Times; i++)
        {
            await kill(server, random);
        }

        await stop.CancelAsync();
        await Task.WhenAll(writing);
        var nodes = (await writers[0].Json($"api/scenes/{scene}"))["nodes"]!.AsArray();
        for (var who = 0; who < Writers; who++)
        {
            var x = (double)nodes.Single(n => (string?)n!["id"] == $"n{who}")!["placement"]!["position"]![0]!;
            Check.That(x == done[who], $"Writer {who} was answered {done[who]} times, and its thing stands at {x}.");
        }

        var revision = (long)(await writers[0].Json($"api/scenes/{scene}"))["revision"]!;
        Check.That(revision == 2 + done.Sum(), $"{done.Sum()} were answered, and the scene is at revision {revision}.");
        Check.That(answers.Failures.IsEmpty, string.Join('\n', answers.Failures.Take(5)));
        Array.ForEach(writers, w => w.Dispose());
        return $"{Times} kills of the {what}, {Writers} writers, {done.Sum()} edits answered, none lost, none done twice ({answers})";
    }
}
