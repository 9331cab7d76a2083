using System.Threading.RateLimiting;
using CalmPivot.Core;
using CalmPivot.Server.Neighbours;
using CalmPivot.Server.Scenes;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>What another page has picked, in picking order; nothing once it has left.</summary>
public sealed record PickedPush(string Page, IReadOnlyList<string> Nodes);

/// <summary>What another page tries at a revision, as edits of the API; nothing: it has ended.</summary>
public sealed record TryingPush(string Page, long Revision, string? Edits);

/// <summary>Pages join the scene they show, and tell each other what is picked there: of scenes that exist and that they joined, and not too often.</summary>
public sealed class SceneHub(Audience audience, Post post) : Hub
{
    /// <summary>More would not be told apart, and pages are told at every pick.</summary>
    private const int MostPicked = 500;

    private const int MostIdLength = 64;

    /// <summary>Characters of what is tried.</summary>
    private const int MostTried = 8192;

    /// <summary>So many calls of one connection at once; half as many come back each second.</summary>
    private const int MostCalls = 200;

    private const string Joined = "scene";
    private const string Calls = "calls";

    /// <returns>The scene's revision: a page that has seen less has missed something.</returns>
    public async Task<long> Join(string scene, OpenScenes scenes)
    {
        Count();
        OpenScene open;
        try
        {
            open = await scenes.Get(scene);
        }
        catch (Refusal refusal)
        {
            throw new HubException(refusal.Message);
        }

        if (Context.Items.TryGetValue(Joined, out var present) && present is string before && before != scene)
        {
            await Groups.RemoveFromGroupAsync(Context.ConnectionId, before);
            audience.Leave(Context.ConnectionId);
            await Tell(before, []);
        }

        Context.Items[Joined] = scene;
        audience.Join(Context.ConnectionId, scene);
        await Groups.AddToGroupAsync(Context.ConnectionId, scene);

        // Those who are here already say again what they have picked.
        await Clients.OthersInGroup(scene).SendAsync("joined");
        post.Tell(LetterKind.Joined, [scene]);
        return open.Read((document, _) => document.Revision);
    }

    public async Task Leave(string scene)
    {
        Count();
        CheckJoined(scene);
        Context.Items.Remove(Joined);
        audience.Leave(Context.ConnectionId);
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, scene);
        await Tell(scene, []);
    }

    public Task Picked(string scene, string[] nodes)
    {
        Count();
        CheckJoined(scene);
        return Tell(scene, nodes);
    }

    /// <summary>What a page tries, for the others to see while it goes on; nothing of it counts.</summary>
    /// <param name="edits">As the API writes them; null: it has ended.</param>
    public Task Trying(string scene, long revision, string? edits)
    {
        Count();
        CheckJoined(scene);
        return edits?.Length > MostTried
            ? throw new HubException("This is too much to be shown while it is tried.")
            : TellAll(scene, "trying", new TryingPush(Context.ConnectionId, revision, edits));
    }

    public override Task OnConnectedAsync()
    {
        audience.Come(Context.ConnectionId);
        return base.OnConnectedAsync();
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        audience.Go(Context.ConnectionId);
        if (Context.Items.TryGetValue(Joined, out var scene))
        {
            await Tell((string)scene!, []);
        }

        await base.OnDisconnectedAsync(exception);
    }

    private Task Tell(string scene, string[] nodes) =>
        TellAll(scene, "picked", new PickedPush(Context.ConnectionId, [.. nodes.Where(n => n is { Length: <= MostIdLength }).Take(MostPicked)]));

    /// <summary>Tells the other pages on a scene, whichever server they are at.</summary>
    private Task TellAll(string scene, string method, object said)
    {
        post.Tell(LetterKind.Told, [scene], of: Context.ConnectionId, method: method, said: said);
        return Clients.OthersInGroup(scene).SendAsync(method, said);
    }

    private void CheckJoined(string scene)
    {
        if (!(Context.Items.TryGetValue(Joined, out var joined) && Equals(joined, scene)))
        {
            throw new HubException("Join the scene first.");
        }
    }

    private void Count()
    {
        if (!Context.Items.TryGetValue(Calls, out var known) || known is not TokenBucketRateLimiter left)
        {
            Context.Items[Calls] = left = new(new() { TokenLimit = MostCalls, TokensPerPeriod = MostCalls / 2, ReplenishmentPeriod = TimeSpan.FromSeconds(1), AutoReplenishment = false, QueueLimit = 0 });
        }

        left.TryReplenish();
        using var lease = left.AttemptAcquire();
        if (!lease.IsAcquired)
        {
            throw new HubException("This was said too often in a short time.");
        }
    }
}
