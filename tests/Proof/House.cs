using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Tests;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Proof;

/// <summary>A server as a process of its own, which can be killed.</summary>
internal sealed class ServerProcess(Uri address) : IAsyncDisposable
{
    private readonly SemaphoreSlim _one = new(1, 1);
    private Process? _process;

    public Uri Address => address;

    public bool Runs => _process is { HasExited: false };

    public static ServerProcess New()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return new(new($"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/"));
    }

    public async Task Start()
    {
        var start = new ProcessStartInfo("dotnet", [House.Told("CALM_PIVOT_PROOF_SERVER"), "--urls", address.ToString()]) { RedirectStandardOutput = true, RedirectStandardError = true };
        start.Environment["ConnectionStrings__CalmPivot"] = House.Connection;
        foreach (var limit in new[] { "Persons", "Edits", "Scenes", "Uploads" })
        {
            start.Environment[$"Limits__{limit}"] = "100000000";
        }

        _process = Process.Start(start)!;
        _process.OutputDataReceived += (_, _) => { };
        _process.BeginOutputReadLine();
        _process.ErrorDataReceived += (_, line) => House.Say(line.Data);
        _process.BeginErrorReadLine();
        using var client = new HttpClient { BaseAddress = address };
        for (var i = 0; i < 600; i++)
        {
            try
            {
                if ((await client.GetAsync("healthz")).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(50);
        }

        throw new InvalidOperationException($"The server at {address} did not start.");
    }

    /// <summary>Ends it at once, without any chance to tidy up.</summary>
    public async Task Kill()
    {
        await _one.WaitAsync();
        _process!.Kill(entireProcessTree: true);
        await _process.WaitForExitAsync();
        _process.Dispose();
        _process = null;
        _one.Release();
    }

    public async ValueTask DisposeAsync()
    {
        if (Runs)
        {
            await Kill();
        }

        _one.Dispose();
    }
}

/// <summary>What all proofs stand on: the database that the script has started, and how it is killed and started again.</summary>
internal static class House
{
    public static string Connection => Told("CALM_PIVOT_PROOF_DB");

    public static string Told(string name) => Environment.GetEnvironmentVariable(name) ?? throw new InvalidOperationException($"Run tests/prove, which says {name}.");

    public static void Say(string? line)
    {
        if (!string.IsNullOrEmpty(line))
        {
            Console.Error.WriteLine(line);
        }
    }

    /// <summary>Kills the database, all processes of it, and starts it again after a while: it recovers from its own log.</summary>
    public static async Task KillDatabase(TimeSpan away)
    {
        await Shell("kill");
        await Task.Delay(away);
        await Shell("start");
    }

    /// <summary>A scene that holds everything a scene can hold.</summary>
    public static async Task<string> Room(int seed)
    {
        await using var source = Database.Open(Connection);
        var room = AnyEdit.Room(seed);
        var id = Guid.NewGuid().ToString("N");
        List<Blob> blobs =
        [
            .. room.Nodes.SelectMany(SceneStore.BlobsOf).Distinct().Select(hash => new Blob(hash, BlobStore.GeometryType, GeometryBinary.Write(room.Geometries.Find(hash)!))),
            new(AnyEdit.Image, "image/png", AnyEdit.Picture),
        ];
        await new SceneStore(source, new(source)).Create(new SceneDocument(id, "Room", "m", 1, room.Everything, new BlobStore(source).Of(id)), blobs);
        return id;
    }

    /// <summary>What a document says, in whatever order.</summary>
    public static List<string> Lines(SceneDocument scene) => [.. scene.Everything.OrderBy(e => e.Id, StringComparer.Ordinal).Select(e => Core.Wire.WireJson.Write(new EntityData(e)))];

    private static async Task Shell(string act)
    {
        using var process = Process.Start(new ProcessStartInfo("bash", ["-c", $"{Told("CALM_PIVOT_PROOF_CONTROL")} {act}"]) { RedirectStandardOutput = true })!;
        await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException($"The database could not be told to {act}.");
        }
    }
}
