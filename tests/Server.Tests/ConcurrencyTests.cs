using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Many callers at once: everything that is answered is stored, in one order, and told to all alike.</summary>
[Collection(nameof(OneServer))]
public sealed class ConcurrencyTests(RunningServer server) : IDisposable
{
    private readonly Caller[] _callers = [server.NewCaller(), server.NewCaller(), server.NewCaller()];

    public void Dispose() => Array.ForEach(_callers, c => c.Dispose());

    [Fact]
    public async Task Edits_of_different_nodes_made_at_once_all_stand()
    {
        var id = await Nodes(30);
        var answers = await Task.WhenAll(Enumerable.Range(0, 30).Select(i =>
            _callers[i % 3].Edit(id, 2, Caller.Move($"n{i}", i + 1))));
        Assert.Equal(Enumerable.Range(3, 30).Select(r => (long)r), answers.Select(a => (long)a["revision"]!).Order());
        var nodes = (await _callers[0].Get($"api/scenes/{id}"))["nodes"]!.AsArray();
        Assert.All(nodes, n => Assert.Equal(
            int.Parse(((string)n!["id"]!)[1..], System.Globalization.CultureInfo.InvariantCulture) + 1,
            (double)n["placement"]!["position"]![0]!));
        Assert.Equal(31, (await _callers[0].Get($"api/scenes/{id}/steps")).AsArray().Count);
    }

    [Fact]
    public async Task Of_edits_of_the_same_node_made_at_once_just_one_stands()
    {
        var id = await Nodes(1);
        var responses = await Task.WhenAll(Enumerable.Range(0, 12).Select(i =>
            _callers[i % 3].Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { Caller.Move("n0", 1) } })));
        Assert.Single(responses, r => r.StatusCode == HttpStatusCode.OK);
        foreach (var refused in responses.Where(r => r.StatusCode != HttpStatusCode.OK))
        {
            var problem = (await refused.Content.ReadFromJsonAsync<JsonNode>())!;
            Assert.Equal((409, "changed-meanwhile"), ((int)refused.StatusCode, (string?)problem["refusal"]));
        }

        Assert.Equal(1, await _callers[0].XOf(id, "n0"));
    }

    [Fact]
    public async Task A_call_sent_many_times_at_once_with_one_key_is_done_once()
    {
        var id = await Nodes(1);
        var body = new { @base = 2, key = Guid.NewGuid(), edits = new[] { Caller.Move("n0", 1) } };
        var answers = await Task.WhenAll(Enumerable.Range(0, 10).Select(_ => _callers[0].Post($"api/scenes/{id}/edits", body)));
        Assert.Single(answers.Select(a => a["revision"]!.ToJsonString() + a["step"]!.ToJsonString()).Distinct());
        Assert.Equal(1, await _callers[0].XOf(id, "n0"));
        Assert.Equal(2, (await _callers[0].Get($"api/scenes/{id}/steps")).AsArray().Count);
    }

    [Fact]
    public async Task What_is_evaluated_is_what_is_stored_however_it_came_about()
    {
        var id = await Nodes(6);
        long revision = 2;
        for (var i = 1; i < 6; i++)
        {
            var answer = await _callers[0].Edit(
                id,
                revision,
                new { @do = "putUnder", nodes = new[] { $"n{i}" }, parent = $"n{i - 1}" },
                new { @do = "rotate", nodes = new[] { $"n{i - 1}" }, by = 17 * i, axis = "y", space = new { kind = "parent" }, about = new { kind = "own" } },
                Caller.Move($"n{i}", i));
            revision = (long)answer["revision"]!;
            await _callers[0].Get($"api/scenes/{id}/evaluated");
        }

        var before = (await _callers[0].Get($"api/scenes/{id}/evaluated"))["nodes"]!.ToJsonString();

        // A copy is evaluated from nothing but what is stored.
        var copy = await _callers[1].Post("api/scenes", new { name = "Copy", like = id });
        var after = (await _callers[1].Get($"api/scenes/{copy["id"]}/evaluated"))["nodes"]!.ToJsonString();
        Assert.Equal(before, after);
    }

    [Fact]
    public async Task Nothing_that_was_answered_is_lost_and_nothing_done_twice_while_the_database_cuts_its_connections()
    {
        var id = await Nodes(3);
        using var stop = new CancellationTokenSource();
        var cutting = Task.Run(async () =>
        {
            var random = new Random(4);
            while (!stop.IsCancellationRequested)
            {
                await Task.Delay(random.Next(5, 60));
                await server.Query<long>("select count(pg_terminate_backend(pid)) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()");
            }
        });
        var done = new int[3];
        await Task.WhenAll(Enumerable.Range(0, 3).Select(async who =>
        {
            var until = DateTime.UtcNow + TimeSpan.FromSeconds(8);
            while (DateTime.UtcNow < until)
            {
                // The same call by the same key until it is answered, as a page does it.
                var body = new { @base = 1_000_000, key = Guid.NewGuid(), edits = new[] { Caller.Move($"n{who}", 1) } };
                HttpResponseMessage answer;
                do
                {
                    answer = await _callers[who].Send(HttpMethod.Post, $"api/scenes/{id}/edits", body);
                    Assert.True(answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.ServiceUnavailable, await answer.Content.ReadAsStringAsync());
                }
                while (answer.StatusCode != HttpStatusCode.OK);
                done[who]++;
            }
        }));
        await stop.CancelAsync();
        await cutting;
        for (var well = 0; well < 10;)
        {
            well = (await _callers[0].Http.GetAsync("api/scenes")).StatusCode == HttpStatusCode.OK ? well + 1 : 0;
        }

        for (var who = 0; who < 3; who++)
        {
            Assert.True(done[who] > 0);
            Assert.Equal(done[who], await _callers[who].XOf(id, $"n{who}"));
        }

        var (steps, before) = (0, long.MaxValue);
        for (JsonArray page = []; steps == 0 || page.Count > 0; steps += page.Count)
        {
            page = (await _callers[0].Get($"api/scenes/{id}/steps?before={before}")).AsArray();
            before = page.Count > 0 ? (long)page[0]!["number"]! : before;
        }

        Assert.Equal(done.Sum() + 1, steps);
    }

    [Fact]
    public async Task Scenes_are_listed_while_they_come_and_go()
    {
        var made = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => _callers[i % 3].Post("api/scenes", new { name = $"Passing {i}" })));
        var ids = made.Select(m => (string)m["id"]!).ToList();
        await Task.WhenAll(ids.Select((id, i) => i % 2 == 0
            ? _callers[0].Send(HttpMethod.Delete, $"api/scenes/{id}")
            : _callers[1].Send(HttpMethod.Patch, $"api/scenes/{id}", new { name = $"Kept {i}" })));
        var listed = (await _callers[2].Get("api/scenes")).AsArray().ToDictionary(s => (string)s!["id"]!, s => (string?)s!["name"]);
        for (var i = 0; i < ids.Count; i++)
        {
            Assert.Equal(i % 2 != 0, listed.ContainsKey(ids[i]));
            if (i % 2 != 0)
            {
                Assert.Equal($"Kept {i}", listed[ids[i]]);
            }
        }
    }

    private async Task<string> Nodes(int count)
    {
        var id = (string)(await _callers[0].Post("api/scenes", new { name = "Crowd" }))["id"]!;
        await _callers[0].Edit(
            id,
            1,
            [.. Enumerable.Range(0, count).Select(i => new { @do = "create", node = new { id = $"n{i}", name = $"N {i}", kind = "shape" } })]);
        return id;
    }
}
