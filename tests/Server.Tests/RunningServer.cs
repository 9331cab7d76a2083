using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>
/// The real server as a process of its own, on loopback, with a fresh database in the PostgreSQL that ./test has started
/// (CALM_PIVOT_TEST_DB). It can be killed and started again.
/// </summary>
public sealed class RunningServer : IAsyncLifetime
{
    private readonly string _database = $"test_{Guid.NewGuid():N}";
    private readonly int _port = FreePort();
    private Process? _process;

    /// <summary>What the server has written to its log.</summary>
    public System.Collections.Concurrent.ConcurrentQueue<string> Log { get; } = new();

    public Uri Address => new($"http://127.0.0.1:{_port}/");

    public string ConnectionString => new NpgsqlConnectionStringBuilder(Admin) { Database = _database }.ConnectionString;

    /// <summary>The server as it is published, which is up sooner; null: as it was built.</summary>
    private static string? Published => Environment.GetEnvironmentVariable("CALM_PIVOT_TEST_SERVER");

    private static string Admin => Environment.GetEnvironmentVariable("CALM_PIVOT_TEST_DB")
        ?? throw new InvalidOperationException("Run ./test, which starts PostgreSQL, or set CALM_PIVOT_TEST_DB to a connection string.");

    public async Task InitializeAsync()
    {
        await using var connection = new NpgsqlConnection(Admin);
        await connection.OpenAsync();
        await using var create = new NpgsqlCommand($"create database {_database}", connection);
        await create.ExecuteNonQueryAsync();
        await Start();
    }

    public async Task DisposeAsync()
    {
        Kill();
        NpgsqlConnection.ClearAllPools();
        await using var connection = new NpgsqlConnection(Admin);
        await connection.OpenAsync();
        await using var drop = new NpgsqlCommand($"drop database {_database} with (force)", connection);
        await drop.ExecuteNonQueryAsync();
    }

    public async Task Start() => _process = await Start(Address, ConnectionString, Log);

    /// <summary>Another server on the same database, at an address of its own.</summary>
    public async Task<OtherServer> Another(params (string Name, string Value)[] settings)
    {
        var address = new Uri($"http://127.0.0.1:{FreePort()}/");
        var log = new System.Collections.Concurrent.ConcurrentQueue<string>();
        return new(address, await Start(address, ConnectionString, log, settings)) { Log = log };
    }

    /// <summary>Starts two servers at once on a database in which nothing is yet.</summary>
    public static async Task<OtherServer[]> TwoOnNothing()
    {
        var name = $"test_{Guid.NewGuid():N}";
        await using var connection = new NpgsqlConnection(Admin);
        await connection.OpenAsync();
        await using var create = new NpgsqlCommand($"create database {name}", connection);
        await create.ExecuteNonQueryAsync();
        var fresh = new NpgsqlConnectionStringBuilder(Admin) { Database = name }.ConnectionString;
        Uri[] addresses = [new($"http://127.0.0.1:{FreePort()}/"), new($"http://127.0.0.1:{FreePort()}/")];
        var started = await Task.WhenAll(addresses.Select(a => Start(a, fresh, null)));
        return [.. addresses.Zip(started, (address, process) => new OtherServer(address, process) { Connection = fresh })];
    }

    /// <summary>Starts the server where it cannot come up.</summary>
    /// <returns>What it said, and its exit code.</returns>
    public static async Task<(string Said, int Code)> StartInVain(string connectionString, params (string Name, string Value)[] settings)
    {
        using var process = Process.Start(Command(new($"http://127.0.0.1:{FreePort()}/"), connectionString, settings))!;
        var said = process.StandardError.ReadToEndAsync();
        await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (await said, process.ExitCode);
    }

    private static ProcessStartInfo Command(Uri address, string connectionString, (string Name, string Value)[] settings)
    {
        var start = new ProcessStartInfo("dotnet", [Published ?? Path.Combine(AppContext.BaseDirectory, "CalmPivot.Server.dll"), "--urls", address.ToString()])
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["ConnectionStrings__CalmPivot"] = connectionString;

        // None lives long enough to gain by being compiled a third time, by what it did.
        start.Environment["DOTNET_TieredPGO"] = "0";

        // All come from one address, and all that is refused is looked for in the log.
        start.Environment["Limits__Persons"] = "1000000";
        start.Environment["Logs__LinesAMinute"] = "1000000";
        foreach (var (name, value) in settings)
        {
            if (name.StartsWith('-'))
            {
                start.ArgumentList.Add($"{name}={value}");
            }
            else
            {
                start.Environment[name] = value;
            }
        }

        return start;
    }

    private static async Task<Process> Start(
        Uri address, string connectionString, System.Collections.Concurrent.ConcurrentQueue<string>? log, params (string Name, string Value)[] settings)
    {
        var process = Process.Start(Command(address, connectionString, settings))!;
        process.OutputDataReceived += (_, line) =>
        {
            if (line.Data is { } said)
            {
                log?.Enqueue(said);
            }
        };
        process.BeginOutputReadLine();
        var errors = process.StandardError.ReadToEndAsync();
        using var client = new HttpClient { BaseAddress = address };
        for (var i = 0; i < 300; i++)
        {
            if (process.HasExited)
            {
                throw new InvalidOperationException(await errors);
            }

            try
            {
                if ((await client.GetAsync("healthz")).IsSuccessStatusCode)
                {
                    return process;
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(100);
        }

        throw new InvalidOperationException("The server did not start.");
    }

    /// <summary>Ends the process at once, without any chance to tidy up.</summary>
    public void Kill()
    {
        _process?.Kill(entireProcessTree: true);
        _process?.WaitForExit();
        _process?.Dispose();
        _process = null;
    }

    public async Task Restart()
    {
        Kill();
        await Start();
    }

    /// <summary>A caller with a cookie jar of its own: another person each.</summary>
    public Caller NewCaller() => new(Address);

    public async Task<T> Query<T>(string sql)
    {
        await using var connection = new NpgsqlConnection(ConnectionString);
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        return (T)(await command.ExecuteScalarAsync())!;
    }

    /// <summary>Does something in the database, beside the server.</summary>
    public async Task Run(string sql)
    {
        await using var connection = new NpgsqlConnection(ConnectionString);
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}

/// <summary>A server beside the one that the tests share.</summary>
public sealed class OtherServer(Uri address, Process process) : IDisposable
{
    public Uri Address => address;

    /// <summary>What it has written to its log.</summary>
    public System.Collections.Concurrent.ConcurrentQueue<string> Log { get; init; } = new();

    public string? Connection { get; init; }

    public Caller NewCaller() => new(address);

    public void Dispose()
    {
        process.Kill(entireProcessTree: true);
        process.WaitForExit();
        process.Dispose();
    }
}

/// <summary>Somebody who calls the API.</summary>
public sealed class Caller : IDisposable
{
    private readonly HttpClient _http;

    public Caller(Uri address) => _http = new(new HttpClientHandler { CookieContainer = new CookieContainer() }) { BaseAddress = address };

    public HttpClient Http => _http;

    public async Task<JsonNode> Get(string path) => (await _http.GetFromJsonAsync<JsonNode>(path))!;

    public Task<HttpResponseMessage> Send(HttpMethod method, string path, object? body = null) =>
        _http.SendAsync(new HttpRequestMessage(method, path) { Content = body is null ? null : JsonContent.Create(body) });

    public async Task<JsonNode> Post(string path, object body)
    {
        var response = await Send(HttpMethod.Post, path, body);
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.IsSuccessStatusCode, $"{(int)response.StatusCode} {text}");
        return JsonNode.Parse(text)!;
    }

    /// <summary>Makes a call that is refused, and returns the problem details.</summary>
    public async Task<JsonNode> Refused(HttpMethod method, string path, object? body, int status, string refusal)
    {
        var response = await Send(method, path, body);
        Assert.Equal(status, (int)response.StatusCode);
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
        var problem = (await response.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal(refusal, (string?)problem["refusal"]);
        Assert.Equal(status, (int?)problem["status"]);
        Assert.False(string.IsNullOrWhiteSpace((string?)problem["title"]));
        Assert.EndsWith(".", (string)problem["detail"]!, StringComparison.Ordinal);
        return problem;
    }

    /// <summary>A new scene with two boxes, "a" and "b".</summary>
    public async Task<string> NewScene()
    {
        var id = (string)(await Post("api/scenes", new { name = "Test" }))["id"]!;
        await Edit(id, 1, new { @do = "create", node = new { id = "a", name = "A", kind = "shape" } }, new { @do = "create", node = new { id = "b", name = "B", kind = "shape" } });
        return id;
    }

    public Task<JsonNode> Edit(string scene, long seen, params object[] edits) => Post($"api/scenes/{scene}/edits", new { @base = seen, edits });

    public static object Move(string node, double x) =>
        new { @do = "move", nodes = new[] { node }, by = new[] { x, 0, 0 }, space = new { kind = "world" } };

    public async Task<double> XOf(string scene, string node) =>
        (double)(await Get($"api/scenes/{scene}"))["nodes"]!.AsArray().Single(n => (string?)n!["id"] == node)!["placement"]!["position"]![0]!;

    public void Dispose() => _http.Dispose();
}

/// <summary>Tests that kill the server, start others beside it, or take all of it: one class after the other.</summary>
[CollectionDefinition(nameof(OneServer))]
public sealed class OneServer : ICollectionFixture<RunningServer>;

/// <summary>Tests that only call a server, which nobody takes from them: beside those.</summary>
[CollectionDefinition(nameof(SteadyServer))]
public sealed class SteadyServer : ICollectionFixture<RunningServer>;
