using System.Collections.Concurrent;
using CalmPivot.Core;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Push;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Scenes;

/// <summary>
/// The scenes that are in use, each loaded once and shared by all callers. What was not asked for in a while is given up, and of
/// more than some dozens those that were not asked for the longest; whoever still waits for one of them is led to what is loaded anew.
/// </summary>
public sealed class OpenScenes(Stores stores, IScenePush push, LogLines? lines = null, Company? company = null)
{
    private readonly ConcurrentDictionary<string, (long Turn, long At)> _asked = new();
    private long _clock;

    /// <summary>How many scenes are in memory.</summary>
    public int Count => _open.Count;

    /// <summary>So many scenes are kept in memory.</summary>
    public int Most { get; init; } = 64;

    /// <summary>Where two servers write one scene, each is behind every other time.</summary>
    private const int MostTries = 20;

    /// <summary>So long is waited for the database to say whether what is in memory is behind.</summary>
    private static readonly TimeSpan Asking = TimeSpan.FromSeconds(2);

    private readonly ConcurrentDictionary<string, Lazy<Task<OpenScene?>>> _open = new();

    /// <summary>The scenes in memory.</summary>
    public IReadOnlyCollection<string> Ids => [.. _open.Keys];

    /// <summary>The scene as it is stored at this moment: what other servers did is in it.</summary>
    /// <exception cref="Refusal">not-found.</exception>
    public async Task<OpenScene> Get(string id)
    {
        if (company is null or { Alone: true })
        {
            return await AtHand(id);
        }

        if (!_open.ContainsKey(id) || await Revisions([id]) is not { } revisions)
        {
            return await AtHand(id);
        }

        await Heed(id, revisions.TryGetValue(id, out var revision) ? revision : null);
        return await AtHand(id);
    }

    /// <summary>What other servers did is taken in, of a scene that is in memory.</summary>
    /// <param name="revision">As it is stored; null: the scene is gone.</param>
    public async Task Heed(string id, long? revision)
    {
        for (var tries = 1; tries < MostTries && _open.TryGetValue(id, out var entry); tries++)
        {
            try
            {
                if (await entry.Value is not { Spoiled: false } scene || revision is null)
                {
                    Forget(id, entry);
                    return;
                }

                if (scene.Read((document, _) => document.Revision) < revision)
                {
                    await scene.Heed(revision.Value);
                }

                return;
            }
            catch (BehindException)
            {
                // It is loaded anew.
                Forget(id, entry);
            }
        }
    }

    /// <summary>The revisions that scenes stand at in the database; null: it does not say.</summary>
    public async Task<Dictionary<string, long>?> Revisions(IReadOnlyCollection<string> ids)
    {
        using var patience = new CancellationTokenSource(Asking);
        try
        {
            return await stores.Scenes.Revisions(ids, patience.Token);
        }
        catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
        {
            return null;
        }
    }

    private async Task<OpenScene> AtHand(string id)
    {
        while (true)
        {
            var entry = _open.GetOrAdd(id, key => new(() => Load(key)));
            _asked[id] = (Interlocked.Increment(ref _clock), Environment.TickCount64);
            OpenScene? scene;
            try
            {
                scene = await entry.Value;
            }
            catch
            {
                Forget(id, entry);
                throw;
            }

            if (scene is { Spoiled: false })
            {
                GiveUpOld();
                return scene;
            }

            Forget(id, entry);
            if (scene is null)
            {
                throw new Refusal(Refusals.NotFound, "This scene does not exist, or has been removed. Choose another in the Scenes menu.");
            }
        }
    }

    /// <summary>Does something with a scene; where what is in memory was behind, again with what is stored.</summary>
    /// <exception cref="Refusal">not-found.</exception>
    public async Task<T> With<T>(string id, Func<OpenScene, Task<T>> act)
    {
        ArgumentNullException.ThrowIfNull(act);
        for (var tries = 1; ; tries++)
        {
            try
            {
                return await act(await AtHand(id));
            }
            catch (BehindException) when (tries < MostTries)
            {
                // The scene is loaded anew.
            }
        }
    }

    public void Forget(string id)
    {
        _asked.TryRemove(id, out _);
        _open.TryRemove(id, out _);
    }

    /// <summary>Lets go of the scenes that were not asked for in a while, with their geometry.</summary>
    /// <returns>How many these were.</returns>
    public int GiveUpIdle(TimeSpan after)
    {
        var now = Environment.TickCount64;
        var idle = _asked.Where(a => now - a.Value.At >= after.TotalMilliseconds).Select(a => a.Key).ToList();
        idle.ForEach(Forget);
        return idle.Count;
    }

    private void GiveUpOld()
    {
        if (_open.Count > Most)
        {
            foreach (var old in _open.Keys.OrderBy(id => _asked.GetValueOrDefault(id).Turn).Take(_open.Count - Most).ToList())
            {
                Forget(old);
            }
        }
    }

    private void Forget(string id, Lazy<Task<OpenScene?>> entry) => _open.TryRemove(new(id, entry));

    private async Task<OpenScene?> Load(string id)
    {
        if (await stores.Scenes.Load(id) is not { } loaded)
        {
            return null;
        }

        // Pages here may have missed what others did while it was not in memory.
        await push.Passed(id, loaded.Document.Revision);
        return new(loaded, stores, push, lines);
    }
}
