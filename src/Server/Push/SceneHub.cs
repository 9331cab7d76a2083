using CalmPivot.Server.Api;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>Tells the pages on a scene of every step.</summary>
public interface IScenePush
{
    Task Stepped(string scene, StepAnswer step);

    Task Described(string scene, DescribedPush description);
}

/// <summary>A scene's new name and unit.</summary>
public sealed record DescribedPush(long Revision, string Name, string Unit);

/// <summary>Pages join the scene they show.</summary>
public sealed class SceneHub : Hub
{
    public Task Join(string scene) => Groups.AddToGroupAsync(Context.ConnectionId, scene);

    public Task Leave(string scene) => Groups.RemoveFromGroupAsync(Context.ConnectionId, scene);
}

internal sealed class ScenePush(IHubContext<SceneHub> hub) : IScenePush
{
    public Task Stepped(string scene, StepAnswer step) => hub.Clients.Group(scene).SendAsync("stepped", step);

    public Task Described(string scene, DescribedPush description) => hub.Clients.Group(scene).SendAsync("described", description);
}
