using System.Collections.Concurrent;
using CalmPivot.Server.Neighbours;
using CalmPivot.Server.Scenes;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>
/// What other servers tell, taken in: their steps are read from the log and pushed to the pages here, and what their pages say is said here. Of a server that is
/// gone, its pages have left.
/// </summary>
internal sealed class FromOthers : IHostedService
{
    private readonly Post _post;
    private readonly OpenScenes _scenes;
    private readonly Audience _audience;
    private readonly IScenePush _push;
    private readonly IHubContext<SceneHub> _hub;

    /// <summary>The pages elsewhere that were heard, with their server and scene.</summary>
    private readonly ConcurrentDictionary<string, (string Server, string Scene)> _pages = new();

    /// <summary>The revisions to which scenes are to be led; one is at work on each.</summary>
    private readonly Dictionary<string, long> _wanted = [];
    private readonly Lock _wanting = new();

    /// <summary>What pages here were told last of scenes that are not in memory.</summary>
    private readonly ConcurrentDictionary<string, long> _passed = new();

    /// <summary>Scenes of which pages here were told that they are gone.</summary>
    private readonly ConcurrentDictionary<string, bool> _gone = new();

    public FromOthers(Post post, OpenScenes scenes, Audience audience, IScenePush push, IHubContext<SceneHub> hub)
    {
        (_post, _scenes, _audience, _push, _hub) = (post, scenes, audience, push, hub);
        post.Came += Take;
        post.Stepped += (scene, revision) => Lead(scene, revision);
        post.Found += () => post.Tell(LetterKind.Joined, [.. audience.Scenes]);
        post.Lost += Lose;
        post.Regular += LookRound;
    }

    public Task StartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    private async Task Take(Letter letter)
    {
        switch (letter.Kind)
        {
            case LetterKind.Joined:
                foreach (var scene in letter.Scenes)
                {
                    await _hub.Clients.Group(scene).SendAsync("joined");
                }

                break;
            case LetterKind.Anew:
                foreach (var scene in letter.Scenes)
                {
                    _scenes.Forget(scene);
                }

                break;
            case LetterKind.Told when letter.Method is { } method:
                if (letter.Of is { } page)
                {
                    // Who has nothing picked any more may have left, and has nothing that would have to be taken back.
                    if (method == "picked" && letter.Said is { } picked && picked.GetProperty("nodes").GetArrayLength() == 0)
                    {
                        _pages.TryRemove(page, out _);
                    }
                    else
                    {
                        _pages[page] = (letter.From, letter.Scenes[0]);
                    }
                }

                var hearers = letter.Page is { } one ? _hub.Clients.Client(one) : _hub.Clients.Group(letter.Scenes[0]);
                await (letter.Said is { } said ? hearers.SendAsync(method, said) : hearers.SendAsync(method));
                break;
        }
    }

    /// <summary>Leads what is here of a scene to a revision, beside all else; of many that come meanwhile to the last.</summary>
    private void Lead(string scene, long revision)
    {
        lock (_wanting)
        {
            var isAtWork = _wanted.TryGetValue(scene, out var wanted);
            _wanted[scene] = Math.Max(wanted, revision);
            if (!isAtWork)
            {
                _ = Task.Run(() => LeadOn(scene));
            }
        }
    }

    private async Task LeadOn(string scene)
    {
        for (long done = -1; ;)
        {
            long wanted;
            lock (_wanting)
            {
                wanted = _wanted[scene];
                if (wanted <= done)
                {
                    _wanted.Remove(scene);
                    return;
                }
            }

            try
            {
                await Heed(scene, wanted);
            }
            catch (Exception)
            {
                // The copy is given up then, which has been logged, and the next look round leads the pages on.
            }

            done = wanted;
        }
    }

    private async Task Heed(string scene, long revision)
    {
        await _scenes.Heed(scene, revision);
        if (!_scenes.Ids.Contains(scene) && _audience.Scenes.Contains(scene) && _passed.GetValueOrDefault(scene) < revision)
        {
            _passed[scene] = revision;
            await _push.Passed(scene, revision);
        }
    }

    /// <summary>What no letter told, since the database was away or a server had just come.</summary>
    private async Task LookRound()
    {
        string[] shown = [.. _scenes.Ids.Union(_audience.Scenes)];
        foreach (var left in _passed.Keys.Concat(_gone.Keys).Except(shown))
        {
            _passed.TryRemove(left, out _);
            _gone.TryRemove(left, out _);
        }

        if (shown.Length == 0 || await _scenes.Revisions(shown) is not { } revisions)
        {
            return;
        }

        foreach (var scene in shown)
        {
            if (revisions.TryGetValue(scene, out var revision))
            {
                _gone.TryRemove(scene, out _);
                Lead(scene, revision);
            }
            else if (_gone.TryAdd(scene, true))
            {
                _scenes.Forget(scene);
                await _hub.Clients.Group(scene).SendAsync("gone");
            }
        }
    }

    private async Task Lose(string server)
    {
        foreach (var (page, (_, scene)) in _pages.Where(p => p.Value.Server == server).ToList())
        {
            _pages.TryRemove(page, out _);
            await _hub.Clients.Group(scene).SendAsync("trying", new TryingPush(page, 0, null));
            await _hub.Clients.Group(scene).SendAsync("picked", new PickedPush(page, []));
        }
    }
}
