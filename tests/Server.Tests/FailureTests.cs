using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>What fails is said as what it is, holds nobody up for good, and does not fill the log.</summary>
[Collection(nameof(OneServer))]
public sealed class FailureTests(RunningServer server)
{
    [Fact]
    public async Task A_full_disk_is_said_as_what_it_is_and_nothing_is_lost()
    {
        using var other = await server.Another();
        using var caller = other.NewCaller();
        var id = await caller.NewScene();
        object move = new { @base = 1_000, edits = new[] { Caller.Move("a", 1) } };
        await server.Run("create function full_disk() returns trigger language plpgsql as $$ begin raise exception 'no space left on device' using errcode = '53100'; end $$");
        await server.Run($"create trigger full_disk before insert on log for each row when (new.scene = (0 + {await server.Query<long>($"select no from scenes where id = '{id}'")})) execute function full_disk()");
        await server.Run("create trigger full_disk before update on pulse for each row when (new.tried is not null) execute function full_disk()");
        try
        {
            Assert.Equal("ok", await Health(caller));
            var refused = await caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", move);
            var problem = (await refused.Content.ReadFromJsonAsync<JsonNode>())!;
            Assert.Equal((507, "no-room"), ((int)refused.StatusCode, (string?)problem["refusal"]));
            Assert.Contains("no room left", (string?)problem["detail"], StringComparison.Ordinal);
            Assert.Equal("no room", await Health(caller));
            Assert.Equal("no room", await Health(caller));
        }
        finally
        {
            await server.Run("drop function full_disk cascade");
        }

        Assert.Equal("ok", await Health(caller));
        Assert.Equal(0, await caller.XOf(id, "a"));
        Assert.Equal(HttpStatusCode.OK, (await caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", move)).StatusCode);
        Assert.Equal(1, await caller.XOf(id, "a"));
        Assert.Single(other.Log, line => line.Contains($"Scene {id} is loaded anew", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Where_the_database_hangs_no_turn_is_held_for_good()
    {
        var impatient = new NpgsqlConnectionStringBuilder(server.ConnectionString) { CommandTimeout = 1, CancellationTimeout = 500 }.ConnectionString;
        using var other = await server.Another(("ConnectionStrings__CalmPivot", impatient));
        using var caller = other.NewCaller();
        var id = await caller.NewScene();
        object move = new { @base = 1_000, edits = new[] { Caller.Move("a", 1) }, key = Guid.NewGuid() };
        await using var connection = new NpgsqlConnection(server.ConnectionString);
        await connection.OpenAsync();
        var began = Stopwatch.StartNew();
        await using (var hold = await connection.BeginTransactionAsync())
        {
            // Whoever wants the row of the scene waits for this.
            await using var command = new NpgsqlCommand($"select from scenes where id = '{id}' for update", connection, hold);
            await command.ExecuteNonQueryAsync();
            var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", move)));
            Assert.All(answers, a => Assert.Equal(HttpStatusCode.ServiceUnavailable, a.StatusCode));
        }

        Assert.InRange(began.Elapsed.TotalSeconds, 0.5, 15);
        var again = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", move)));
        Assert.All(again, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        Assert.Equal(1, await caller.XOf(id, "a"));
    }

    [Theory]
    [InlineData("{\"a\":\"\\u0000\"}")]
    [InlineData("{\"a\":\"\\ud83d\"}")]
    [InlineData("{\"a\":[{\"\\udc00\":1}]}")]
    public async Task Text_that_cannot_be_stored_is_refused_by_name(string madeOf)
    {
        using var caller = server.NewCaller();
        var id = await caller.NewScene();
        using var picture = new ByteArrayContent(Pictures.Png(4, 4));
        picture.Headers.ContentType = new("image/png");
        var answer = await caller.Http.PostAsync($"api/scenes/{id}/stills?revision=1&madeOf={Uri.EscapeDataString(madeOf)}", picture);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal((400, "not-understood"), ((int)answer.StatusCode, (string?)problem["refusal"]));
        Assert.StartsWith("“madeOf” holds a character that cannot be stored", (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_refused_again_and_again_does_not_fill_the_log()
    {
        using var other = await server.Another(("Logs__LinesAMinute", "5"));
        using var caller = other.NewCaller();
        var before = other.Log.Count;
        await using (var hub = new HubConnectionBuilder().WithUrl(new Uri(other.Address, "hub")).Build())
        {
            await hub.StartAsync();
            for (var i = 0; i < 150; i++)
            {
                await Assert.ThrowsAsync<HubException>(() => hub.InvokeAsync("Picked", "nothing", Array.Empty<string>()));
            }
        }

        var id = await caller.NewScene();
        for (var i = 0; i < 50; i++)
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1, edits = new[] { new { nodes = "a" } } })).StatusCode);
            Assert.Equal(HttpStatusCode.OK, (await caller.Http.GetAsync("api/scenes")).StatusCode);
        }

        await Task.Delay(200);
        var lines = other.Log.Skip(before).ToList();
        Assert.DoesNotContain(lines, line => line.Contains("   at ", StringComparison.Ordinal));
        Assert.Equal(5, lines.Count(line => line.Contains("Hub Picked refused", StringComparison.Ordinal)));
        Assert.InRange(lines.Count, 10, 14);
    }

    [Fact]
    public async Task The_log_turns_over_by_size_and_few_files_are_kept()
    {
        var folder = Directory.CreateTempSubdirectory();
        using (var other = await server.Another(("Logs__File", Path.Combine(folder.FullName, "server.log")), ("Logs__Each", "true"), ("Logs__Megabytes", "1"), ("Logs__Files", "2")))
        using (var caller = other.NewCaller())
        {
            var path = $"api/scenes/{new string('x', 6_000)}";
            for (var i = 0; i < 12; i++)
            {
                await Task.WhenAll(Enumerable.Range(0, 60).Select(_ => caller.Http.GetAsync(path)));
            }

            await Task.Delay(200);
            Assert.Empty(other.Log);
        }

        var files = folder.GetFiles();
        Assert.Equal(2, files.Length);
        Assert.All(files, file => Assert.InRange(file.Length, 1, 1_100_000));
        folder.Delete(recursive: true);
    }

    private static async Task<string?> Health(Caller caller) => (string?)(await (await caller.Http.GetAsync("healthz")).Content.ReadFromJsonAsync<JsonNode>())!["status"];
}
