using System.Text.Json.Nodes;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Api;
using CalmPivot.Server.Demo;
using Microsoft.AspNetCore.SignalR.Client;

namespace CalmPivot.Proof;

/// <summary>
/// A page as the browser has it, without a browser: the core's replica, which takes in what it is answered and what the hub tells in the order of revisions, catches up by
/// the log where something was missed, and goes on at the next server where its own is gone.
/// </summary>
internal sealed class Page(IReadOnlyList<Uri> servers, string scene, Answers answers, int at) : IAsyncDisposable
{
    private static readonly string[] Unnamed = ["The surroundings have", "The frames of the scene have", "The scene has been changed since you saw it, further back"];

    private static readonly TimeSpan Gap = TimeSpan.FromSeconds(2);

    private readonly Writer _writer = new(servers, answers, at);
    private readonly SemaphoreSlim _one = new(1, 1);
    private readonly SortedDictionary<long, Action> _early = [];
    private readonly CancellationTokenSource _closed = new();
    private Replica? _replica;
    private HubConnection? _hub;
    private Task? _keeping;

    /// <summary>How often it had to ask for what it had missed.</summary>
    public int CaughtUp { get; private set; }

    public SceneDocument Scene => _replica!.Scene;

    public async Task Open()
    {
        _replica = new(SceneBinary.Read(await (await _writer.Read($"api/scenes/{scene}/document")).ReadAsByteArrayAsync(), NoGeometries.Instance));
        await Connect();
        _keeping = Task.Run(KeepConnected);
    }

    /// <summary>Does something with the scene as it stands here.</summary>
    public async Task<T> With<T>(Func<SceneDocument, T> read)
    {
        await _one.WaitAsync();
        try
        {
            return read(Scene);
        }
        finally
        {
            _one.Release();
        }
    }

    /// <summary>Sends a call and takes in what it is answered.</summary>
    /// <returns>Whether it was done; what is refused is no failure.</returns>
    public async Task<bool> Send(string call, JsonObject body)
    {
        var (status, said) = await _writer.Send($"api/scenes/{scene}/{call}", body);
        Check.That(status is 200 or (>= 400 and < 500), $"{call} is answered {status}: {said}");

        // Whoever is refused since somebody else was first is told of what.
        Check.That(
            (string?)said?["refusal"] != "changed-meanwhile" || ((string)said["detail"]!).Contains('“') || Unnamed.Any(((string)said["detail"]!).StartsWith),
            $"{call} is refused without a name: {said}");
        if (status == 200)
        {
            await Hear(said!);
        }

        return status == 200;
    }

    public async ValueTask DisposeAsync()
    {
        await _closed.CancelAsync();
        await (_keeping ?? Task.CompletedTask);
        await (_hub?.DisposeAsync() ?? default);
        _writer.Dispose();
        _replica?.Dispose();
        _one.Dispose();
        _closed.Dispose();
    }

    private async Task KeepConnected()
    {
        var behind = DateTime.MaxValue;
        while (!_closed.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(200, _closed.Token);
                if (_hub is not { State: HubConnectionState.Connected })
                {
                    await Connect();
                }

                bool waits;
                lock (_early)
                {
                    waits = _early.Count > 0;
                }

                behind = !waits ? DateTime.MaxValue : behind == DateTime.MaxValue ? DateTime.UtcNow + Gap : behind;
                if (DateTime.UtcNow > behind)
                {
                    behind = DateTime.MaxValue;
                    await CatchUp();
                }
            }
            catch (Exception e) when (e is HttpRequestException or IOException or OperationCanceledException or InvalidOperationException or Microsoft.AspNetCore.SignalR.HubException)
            {
                // It is tried again.
            }
        }
    }

    private async Task Connect()
    {
        await (_hub?.DisposeAsync() ?? default);
        var hub = new HubConnectionBuilder().WithUrl(new Uri(_writer.Server, "hub")).Build();
        hub.On<JsonNode>("stepped", Hear);
        hub.On<JsonNode>("entered", Enter);
        hub.On<JsonNode>("described", _ => CatchUp());
        hub.On<long>("passed", revision => Scene.Revision < revision ? CatchUp() : Task.CompletedTask);
        try
        {
            await hub.StartAsync(_closed.Token);
        }
        catch (HttpRequestException)
        {
            // By this the writer finds another server, where this one is gone.
            await _writer.Json($"api/scenes/{scene}/derived");
            throw;
        }

        _hub = hub;
        if (await hub.InvokeAsync<long>("Join", scene, _closed.Token) > Scene.Revision)
        {
            await CatchUp();
        }
    }

    private async Task CatchUp()
    {
        CaughtUp++;
        for (long revision = long.MaxValue; Scene.Revision < revision;)
        {
            var said = await _writer.Json($"api/scenes/{scene}/log?after={Scene.Revision}");
            revision = (long)said["revision"]!;
            foreach (var entry in said["entries"]!.AsArray())
            {
                await Enter(entry!);
            }
        }
    }

    private Task Enter(JsonNode said)
    {
        var entry = WireJson.Read<LogEntry>(said.ToJsonString(), ApiJson.Options);
        return InOrder(entry.Revision, () => _replica!.Hear(entry.Revision, entry.Written, null, out _));
    }

    private Task Hear(JsonNode said)
    {
        var step = WireJson.Read<StepAnswer>(said.ToJsonString(), ApiJson.Options);
        return InOrder(step.Revision, () => _replica!.Hear(
            step.Revision, [.. step.Changed.Select(n => n.Node), .. step.Entities.Select(e => e.Entity)], [.. step.Removed, .. step.Gone.Select(g => g.Id)], null, out _));
    }

    /// <summary>What comes early waits for what was before it; what was heard before is left out.</summary>
    private async Task InOrder(long revision, Action take)
    {
        await _one.WaitAsync();
        try
        {
            lock (_early)
            {
                if (revision > Scene.Revision)
                {
                    _early.TryAdd(revision, take);
                }

                while (_early.Count > 0 && _early.First() is var (next, act) && next <= Scene.Revision + 1)
                {
                    _early.Remove(next);
                    if (next == Scene.Revision + 1)
                    {
                        act();
                    }
                }
            }
        }
        finally
        {
            _one.Release();
        }
    }
}
