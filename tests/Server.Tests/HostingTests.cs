using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core.Scene;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>How the server starts, what it lets in, and what every answer of it carries.</summary>
[Collection(nameof(OneServer))]
public sealed class HostingTests(RunningServer server) : IDisposable
{
    private static readonly string[] Headers =
    [
        "Content-Security-Policy", "X-Content-Type-Options", "Referrer-Policy", "Permissions-Policy", "Cross-Origin-Opener-Policy", "Cross-Origin-Resource-Policy",
    ];

    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task Two_servers_that_start_at_once_on_an_empty_database_both_come_up_and_write_one_scene_in_turns()
    {
        var servers = await RunningServer.TwoOnNothing();
        using var first = servers[0].NewCaller();
        using var second = servers[1].NewCaller();
        try
        {
            Assert.Single((await first.Get("api/scenes")).AsArray());
            var id = await first.NewScene();
            var moves = Enumerable.Range(0, 12).Select(i => (i % 2 == 0 ? first : second).Send(
                HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000, edits = new[] { Caller.Move(i % 2 == 0 ? "a" : "b", 1) } }));
            var answers = await Task.WhenAll(moves);
            var renamed = await second.Send(HttpMethod.Patch, $"api/scenes/{id}", new { name = "Renamed" });
            Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
            Assert.Equal(HttpStatusCode.OK, renamed.StatusCode);
            await using var connection = new NpgsqlConnection(servers[0].Connection);
            await connection.OpenAsync();
            await using var revision = new NpgsqlCommand($"select revision from scenes where id = '{id}'", connection);
            Assert.Equal(15L, await revision.ExecuteScalarAsync());
            Assert.Equal(6, await second.XOf(id, "a"));
            Assert.Equal(6, await second.XOf(id, "b"));
        }
        finally
        {
            Array.ForEach(servers, s => s.Dispose());
        }
    }

    [Fact]
    public async Task Without_a_database_the_server_says_so_and_ends()
    {
        var (said, code) = await RunningServer.StartInVain("Host=127.0.0.1;Port=1;Username=nobody;Database=nothing;Timeout=2");
        Assert.Equal(1, code);
        Assert.Contains("The database cannot be reached", said, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", said, StringComparison.Ordinal);
        Assert.Equal(1, (await RunningServer.StartInVain("")).Code);
    }

    [Theory]
    [InlineData("Limits__Edit", "5", "There is no setting “Limits:Edit”")]
    [InlineData("--Limit:Edits", "5", "There is no setting “Limit”")]
    [InlineData("Limits__Edits", "0", "Limits: The field Edits must be between 1 and")]
    [InlineData("Limits__Edits", "many", "'many' at 'Limits:Edits'")]
    [InlineData("Logs__Megabytes", "9999", "Logs: The field Megabytes must be between 1 and")]
    [InlineData("Collecting__Hours", "0", "Collecting: The field Hours must be between")]
    [InlineData("Proxies", "10.0.0.2, my-proxy", "Proxies: “my-proxy” is no address")]
    [InlineData("Web", "/nowhere/at/all", "there is no folder “/nowhere/at/all”")]
    [InlineData("ConnectionStrings__CalmPivot", "Hots=127.0.0.1", "ConnectionStrings:CalmPivot is not understood")]
    public async Task What_is_set_wrongly_is_said_in_a_sentence(string name, string value, string sentence)
    {
        var (said, code) = await RunningServer.StartInVain(server.ConnectionString, (name, value));
        Assert.Equal(1, code);
        Assert.Contains(sentence, said, StringComparison.Ordinal);
        Assert.Single(said.Trim().Split('\n'));
    }

    [Theory]
    [InlineData("index.html/")]
    [InlineData("icon.svg/")]
    [InlineData("assets/")]
    [InlineData("nothing/")]
    public async Task Behind_a_file_there_is_nothing(string path)
    {
        var folder = Directory.CreateTempSubdirectory();
        await File.WriteAllTextAsync(Path.Combine(folder.FullName, "index.html"), "<p>");
        await File.WriteAllTextAsync(Path.Combine(folder.FullName, "icon.svg"), "<svg>");
        folder.CreateSubdirectory("assets");
        using var other = await server.Another(("Web", folder.FullName));
        using var caller = other.NewCaller();
        Assert.Equal(HttpStatusCode.OK, (await caller.Http.GetAsync("")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await caller.Http.GetAsync("icon.svg")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.GetAsync(path)).StatusCode);
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task A_foreign_host_is_refused_with_all_headers()
    {
        var request = new HttpRequestMessage(HttpMethod.Get, "");
        request.Headers.Host = "elsewhere.example";
        var answer = await _caller.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.All(Headers, name => Assert.True(answer.Headers.Contains(name), name));
    }

    [Fact]
    public async Task Under_tls_browsers_are_told_to_stay_there()
    {
        using var behind = await server.Another(("Proxies", "127.0.0.1"), ("AllowedHosts", "*"));
        using var caller = behind.NewCaller();
        async Task<bool> Told(string scheme)
        {
            var request = new HttpRequestMessage(HttpMethod.Get, "healthz");
            request.Headers.TryAddWithoutValidation("X-Forwarded-Proto", scheme);
            request.Headers.TryAddWithoutValidation("X-Forwarded-Host", "pivot.example");
            return (await caller.Http.SendAsync(request)).Headers.Contains("Strict-Transport-Security");
        }

        Assert.True(await Told("https"));
        Assert.False(await Told("http"));
    }

    [Fact]
    public async Task What_the_server_says_of_itself_is_made_once_and_known_by_its_tag()
    {
        var first = await _caller.Http.GetAsync("openapi/v1.json");
        Assert.Equal("3.1.1", (string?)(await first.Content.ReadFromJsonAsync<JsonNode>())!["openapi"]);
        var again = new HttpRequestMessage(HttpMethod.Get, "openapi/v1.json");
        again.Headers.IfNoneMatch.Add(first.Headers.ETag!);
        Assert.Equal(HttpStatusCode.NotModified, (await _caller.Http.SendAsync(again)).StatusCode);
    }

    [Fact]
    public async Task A_database_that_cannot_be_written_is_not_well()
    {
        using var other = await server.Another();
        using var caller = other.NewCaller();
        Assert.Equal(HttpStatusCode.OK, (await caller.Http.GetAsync("healthz")).StatusCode);
        await server.Run("alter table pulse rename to pulse_away");
        try
        {
            Assert.Equal(HttpStatusCode.ServiceUnavailable, (await caller.Http.GetAsync("healthz")).StatusCode);
        }
        finally
        {
            await server.Run("alter table pulse_away rename to pulse");
        }
    }

    [Theory]
    [InlineData("GET", "api/nothing-here", 404, "not-found")]
    [InlineData("GET", "api/scenes/none", 404, "not-found")]
    [InlineData("DELETE", "api/scenes", 405, "not-understood")]
    [InlineData("POST", "api/scenes", 400, "not-understood")]
    [InlineData("POST", "api/scenes/import", 415, "unsupported-file")]
    public async Task Every_refusal_is_a_problem_with_a_trace_and_all_headers(string method, string path, int status, string word)
    {
        var request = new HttpRequestMessage(new(method), path);
        if (method == "POST")
        {
            request.Content = path.EndsWith("import", StringComparison.Ordinal) ? new ByteArrayContent([1, 2, 3]) : JsonContent.Create(new { });
        }

        var response = await _caller.Http.SendAsync(request);
        Assert.Equal(status, (int)response.StatusCode);
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
        var problem = (await response.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal(word, (string?)problem["refusal"]);
        var trace = (string)problem["traceId"]!;
        for (var i = 0; i < 50 && !server.Log.Any(line => line.Contains(trace, StringComparison.Ordinal)); i++)
        {
            await Task.Delay(100);
        }

        Assert.Contains(server.Log, line => line.Contains(trace, StringComparison.Ordinal));
        Assert.All(Headers, name => Assert.True(response.Headers.Contains(name), name));
    }

    [Fact]
    public async Task Another_page_of_the_same_site_may_read_but_not_write()
    {
        async Task<HttpStatusCode> With(HttpMethod method, string site, string? origin = null)
        {
            var request = new HttpRequestMessage(method, "api/scenes");
            request.Headers.TryAddWithoutValidation("Sec-Fetch-Site", site);
            if (origin is not null)
            {
                request.Headers.TryAddWithoutValidation("Origin", origin);
            }

            request.Content = method == HttpMethod.Post ? JsonContent.Create(new { name = "Mine" }) : null;
            return (await _caller.Http.SendAsync(request)).StatusCode;
        }

        Assert.Equal(HttpStatusCode.OK, await With(HttpMethod.Get, "same-site"));
        Assert.Equal(HttpStatusCode.Forbidden, await With(HttpMethod.Post, "same-site"));
        Assert.Equal(HttpStatusCode.Created, await With(HttpMethod.Post, "same-origin", server.Address.ToString().TrimEnd('/')));
    }

    [Fact]
    public async Task Behind_a_proxy_that_is_known_the_page_s_own_address_is_the_one_that_it_says()
    {
        using var behind = await server.Another(("Proxies", "127.0.0.1"), ("AllowedHosts", "*"));
        using var caller = behind.NewCaller();
        async Task<HttpStatusCode> From(Caller by, string origin)
        {
            var request = new HttpRequestMessage(HttpMethod.Get, "api/scenes");
            request.Headers.TryAddWithoutValidation("X-Forwarded-Proto", "https");
            request.Headers.TryAddWithoutValidation("X-Forwarded-Host", "pivot.example");
            request.Headers.TryAddWithoutValidation("Origin", origin);
            return (await by.Http.SendAsync(request)).StatusCode;
        }

        Assert.Equal(HttpStatusCode.OK, await From(caller, "https://pivot.example"));
        Assert.Equal(HttpStatusCode.Forbidden, await From(caller, "http://pivot.example"));

        // Without being told so, nobody's word is taken for it.
        Assert.Equal(HttpStatusCode.Forbidden, await From(_caller, "https://pivot.example"));
    }

    [Fact]
    public async Task Who_asks_too_often_is_told_when_to_try_again()
    {
        using var strict = await server.Another(("Limits__Edits", "5"), ("Limits__Scenes", "2"));
        using var caller = strict.NewCaller();
        await caller.Get("api/me/settings");
        var id = await caller.NewScene();
        HttpResponseMessage? refused = null;
        for (var i = 0; i < 12 && refused is null; i++)
        {
            var answer = await caller.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000, edits = new[] { Caller.Move("a", 1) } });
            refused = answer.StatusCode == HttpStatusCode.OK ? null : answer;
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, refused!.StatusCode);
        Assert.True(refused.Headers.RetryAfter?.Delta > TimeSpan.Zero);
        Assert.Equal("too-many", (string?)(await refused.Content.ReadFromJsonAsync<JsonNode>())!["refusal"]);

        // Somebody else goes on.
        using var other = strict.NewCaller();
        await other.Get("api/me/settings");
        Assert.Equal(HttpStatusCode.OK, (await other.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000, edits = new[] { Caller.Move("b", 1) } })).StatusCode);
    }

    [Fact]
    public async Task The_hub_takes_what_is_about_scenes_that_exist_and_were_joined_and_not_too_often()
    {
        var id = await _caller.NewScene();
        var other = await _caller.NewScene();
        await using var page = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        await using var watcher = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var told = new System.Collections.Concurrent.ConcurrentQueue<int>();
        watcher.On<JsonNode>("picked", push => told.Enqueue(push["nodes"]!.AsArray().Count));
        await page.StartAsync();
        await watcher.StartAsync();
        await Assert.ThrowsAsync<HubException>(() => page.InvokeAsync<long>("Join", "no such scene"));
        await watcher.InvokeAsync<long>("Join", other);
        await page.InvokeAsync<long>("Join", id);
        await Assert.ThrowsAsync<HubException>(() => page.InvokeAsync("Picked", other, new[] { "a" }));
        await Assert.ThrowsAsync<HubException>(() => page.InvokeAsync("Leave", other));
        await page.InvokeAsync<long>("Join", other);
        await page.InvokeAsync("Picked", other, new[] { "a", new string('x', 2_000) });
        for (var i = 0; i < 200 && told.IsEmpty; i++)
        {
            await Task.Delay(50);
        }

        Assert.Equal([1], told);

        // None waits for the answer to the one before: on a slow machine they would not be too often else.
        var calls = Enumerable.Range(0, 400).Select(_ => page.InvokeAsync("Picked", other, Array.Empty<string>())).ToArray();
        await ((Task)Task.WhenAll(calls)).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing | ConfigureAwaitOptions.ContinueOnCapturedContext);
        var refused = calls.Count(call => call.Exception?.InnerException is HubException);
        Assert.Equal(calls.Length, refused + calls.Count(call => call.IsCompletedSuccessfully));
        Assert.InRange(refused, 1, 399);
    }

    [Fact]
    public async Task The_description_says_how_vectors_matrices_axes_and_shapes_are_written()
    {
        var schemas = (await _caller.Get("openapi/v1.json"))["components"]!["schemas"]!;
        JsonNode Property(string schema, string name)
        {
            var property = schemas[schema]!["properties"]![name]!;
            return property["$ref"] is { } reference ? schemas[((string)reference!).Split('/')[^1]]! : property;
        }

        var by = Property("EditMove", "by");
        Assert.Equal(("array", 3, 3), ((string?)by["type"], (int)by["minItems"]!, (int)by["maxItems"]!));
        Assert.Equal(16, (int)Property("EditSteer", "view")["minItems"]!);
        Assert.Equal("number", (string?)Property("EditRotate", "by")["type"]);
        Assert.Equal("string", (string?)Property("EditRename", "name")["type"]);
        Assert.Equal("xyz", string.Concat(Property("EditRotate", "axis")["oneOf"]![0]!["enum"]!.AsArray()));
        Assert.NotNull(schemas["Shape"]!["properties"]!["topRadius"]);
        Assert.Equal("string", (string?)Property("EditMove", "nodes")["items"]!["type"]);
        Assert.Equal("number", (string?)Property("NodeData", "rank")["type"]);
        Assert.NotNull(Property("NodeData", "placement")["properties"]!["pivotTurn"]);
        foreach (var (name, schema) in schemas.AsObject().Where(s => s.Key.StartsWith("Edit", StringComparison.Ordinal) && s.Value!["properties"]?["do"] is not null))
        {
            Assert.Contains("do", schema!["required"]!.AsArray().Select(r => (string?)r));
            Assert.True(schema["properties"]!["picked"] is null, name);
        }
    }

    [Fact]
    public async Task What_is_not_found_is_said_to_have_gone_with_the_step_that_took_it()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "remove", nodes = new[] { "b" } });
        var problem = await _caller.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, edits = new[] { Caller.Move("b", 1) } }, 404, "not-found");
        Assert.Contains("“Removed B”", (string)problem["detail"]!, StringComparison.Ordinal);
    }
}
