using System.Collections.Concurrent;
using CalmPivot.Core;
using CalmPivot.Server.Push;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Scenes;

/// <summary>The scenes that are in use, each loaded once and shared by all callers.</summary>
public sealed class OpenScenes(SceneStore store, IScenePush push)
{
    /// <summary>Where two servers write one scene, each is behind every other time.</summary>
    private const int MostTries = 20;

    private readonly ConcurrentDictionary<string, Lazy<Task<OpenScene?>>> _open = new();

    /// <exception cref="Refusal">not-found.</exception>
    public async Task<OpenScene> Get(string id)
    {
        while (true)
        {
            var entry = _open.GetOrAdd(id, key => new(() => Load(key)));
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
                return await act(await Get(id));
            }
            catch (BehindException) when (tries < MostTries)
            {
                // The scene is loaded anew.
            }
        }
    }

    public void Forget(string id) => _open.TryRemove(id, out _);

    private void Forget(string id, Lazy<Task<OpenScene?>> entry) => _open.TryRemove(new(id, entry));

    private async Task<OpenScene?> Load(string id) => await store.Load(id) is { } loaded ? new(loaded, store, push) : null;
}
