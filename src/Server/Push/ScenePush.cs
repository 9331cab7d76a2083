using CalmPivot.Server.Api;
using CalmPivot.Server.Neighbours;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>Tells the pages on a scene of every step.</summary>
public interface IScenePush
{
    /// <param name="except">The connection of the page that made the step, which has its answer; null: all hear of it.</param>
    Task Stepped(string scene, StepAnswer step, string? except = null);

    Task Described(string scene, DescribedPush description);

    /// <summary>What another server did was taken in here.</summary>
    Task Entered(string scene, LogEntry entry);

    /// <summary>The scene stands at a revision: who has seen less has missed something.</summary>
    Task Passed(string scene, long revision);

    /// <summary>Other servers are to load the scene anew, since something was changed that its log does not say.</summary>
    void Anew(string scene);

    /// <summary>The scene is gone.</summary>
    Task Removed(string scene);

    /// <summary>Other stills of the scene are kept now.</summary>
    Task Stills(string scene);

    /// <summary>How far something long is that a page has asked for.</summary>
    Task Progress(string page, ProgressPush progress);
}

/// <summary>A scene's new name and unit.</summary>
public sealed record DescribedPush(long Revision, string Name, string Unit);

/// <summary>What is being done, and how many of how many are done of it; 0 of 0 where that cannot be counted.</summary>
public sealed record ProgressPush(string Doing, int Done, int All);

/// <summary>By the hub; what pages at other servers are to hear as well goes to these by the post. Steps they read from the log.</summary>
internal sealed class ScenePush(IHubContext<SceneHub> hub, Audience audience, Post post) : IScenePush
{
    public Task Stepped(string scene, StepAnswer step, string? except = null) =>
        (except is null ? hub.Clients.Group(scene) : hub.Clients.GroupExcept(scene, except)).SendAsync("stepped", step);

    public Task Described(string scene, DescribedPush description) => hub.Clients.Group(scene).SendAsync("described", description);

    public Task Entered(string scene, LogEntry entry) => hub.Clients.Group(scene).SendAsync("entered", entry);

    public Task Passed(string scene, long revision) => hub.Clients.Group(scene).SendAsync("passed", revision);

    public void Anew(string scene) => post.Tell(LetterKind.Anew, [scene]);

    public Task Removed(string scene)
    {
        post.Tell(LetterKind.Anew, [scene]);
        return Everywhere(scene, "gone");
    }

    public Task Stills(string scene) => Everywhere(scene, "stills");

    public Task Progress(string page, ProgressPush progress)
    {
        if (audience.IsHere(page))
        {
            return hub.Clients.Client(page).SendAsync("progress", progress);
        }

        post.Tell(LetterKind.Told, [], page, method: "progress", said: progress);
        return Task.CompletedTask;
    }

    private Task Everywhere(string scene, string method)
    {
        post.Tell(LetterKind.Told, [scene], method: method);
        return hub.Clients.Group(scene).SendAsync(method);
    }
}
