using System.Collections.Concurrent;

namespace CalmPivot.Server.Push;

/// <summary>The pages that are connected to this server, and the scene that each of them shows.</summary>
public sealed class Audience
{
    private readonly ConcurrentDictionary<string, string> _pages = new();

    /// <summary>The scenes that pages here show.</summary>
    public IReadOnlyCollection<string> Scenes => [.. _pages.Values.Where(scene => scene.Length > 0).Distinct()];

    public bool IsHere(string page) => _pages.ContainsKey(page);

    public void Come(string page) => _pages[page] = "";

    public void Join(string page, string scene) => _pages[page] = scene;

    public void Leave(string page) => _pages[page] = "";

    public void Go(string page) => _pages.TryRemove(page, out _);
}
