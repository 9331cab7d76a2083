using CalmPivot.Server.Api;
using CalmPivot.Server.Scenes;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>Tells the pages on a scene of every step.</summary>
public interface IScenePush
{
    /// <param name="except">The connection of the page that made the step, which has its answer; null: all hear of it.</param>
    Task Stepped(string scene, StepAnswer step, string? except = null);

    Task Described(string scene, DescribedPush description);

    /// <summary>The scene is gone.</summary>
    Task Removed(string scene);

    /// <summary>How far something long is that a page has asked for.</summary>
    Task Progress(string page, ProgressPush progress);
}

/// <summary>A scene's new name and unit.</summary>
public sealed record DescribedPush(long Revision, string Name, string Unit);

/// <summary>What is being done, and how many of how many are done of it; 0 of 0 where that cannot be counted.</summary>
public sealed record ProgressPush(string Doing, int Done, int All);

/// <summary>What another page has picked, in picking order; nothing once it has left.</summary>
public sealed record PickedPush(string Page, IReadOnlyList<string> Nodes);

/// <summary>Pages join the scene they show, and tell each other what is picked there.</summary>
public sealed class SceneHub : Hub
{
    /// <summary>More would not be told apart, and pages are told at every pick.</summary>
    private const int MostPicked = 500;

    private const string Joined = "scene";

    /// <returns>The scene's revision: a page that has seen less has missed something.</returns>
    public async Task<long> Join(string scene, OpenScenes scenes)
    {
        Context.Items[Joined] = scene;
        await Groups.AddToGroupAsync(Context.ConnectionId, scene);

        // Those who are here already say again what they have picked.
        await Clients.OthersInGroup(scene).SendAsync("joined");
        return (await scenes.Get(scene)).Read((document, _) => document.Revision);
    }

    public async Task Leave(string scene)
    {
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, scene);
        await Picked(scene, []);
    }

    public Task Picked(string scene, string[] nodes) =>
        Clients.OthersInGroup(scene).SendAsync("picked", new PickedPush(Context.ConnectionId, [.. nodes.Take(MostPicked)]));

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        if (Context.Items.TryGetValue(Joined, out var scene))
        {
            await Picked((string)scene!, []);
        }

        await base.OnDisconnectedAsync(exception);
    }
}

internal sealed class ScenePush(IHubContext<SceneHub> hub) : IScenePush
{
    public Task Stepped(string scene, StepAnswer step, string? except = null) =>
        (except is null ? hub.Clients.Group(scene) : hub.Clients.GroupExcept(scene, except)).SendAsync("stepped", step);

    public Task Described(string scene, DescribedPush description) => hub.Clients.Group(scene).SendAsync("described", description);

    public Task Removed(string scene) => hub.Clients.Group(scene).SendAsync("gone");

    public Task Progress(string page, ProgressPush progress) => hub.Clients.Client(page).SendAsync("progress", progress);
}
