using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;

namespace CalmPivot.Server.Store;

/// <summary>Geometry or a picture, named by its hash.</summary>
public sealed record Blob(string Hash, string MediaType, byte[] Bytes);

/// <summary>Everything that one change of a scene writes, all of it or nothing.</summary>
/// <param name="Scene">The number of its rows.</param>
/// <param name="Revision">The one that it was worked out on; it leads to the next.</param>
public sealed record Commit(long Scene, long Revision, Act Act, Change Change)
{
    /// <summary>The step that is made, or the last of those that are taken back or done again.</summary>
    public Step? Step { get; init; }

    /// <summary>What the step was about, in picking order.</summary>
    public IReadOnlyList<string> Picked { get; init; } = [];

    /// <summary>The steps that are taken back or done again.</summary>
    public IReadOnlyList<long> Marks { get; init; } = [];

    /// <summary>Whether its maker may have steps to do again, which are out of reach from now on.</summary>
    public bool DropsRedo { get; init; }

    public Guid? Key { get; init; }

    /// <summary>By which a call is known that is sent again with the key.</summary>
    public byte[]? Request { get; init; }

    public Described? Described { get; init; }

    public IReadOnlyList<Blob> Blobs { get; init; } = [];

    /// <summary>Told how many of how many nodes are stored.</summary>
    public Func<int, int, Task>? Stored { get; init; }

    /// <summary>Whoever asked for it may have gone before it is stored.</summary>
    public CancellationToken Stopped { get; init; }

    /// <summary>What is written row by row.</summary>
    internal List<Entity> Rows => [.. Change.All.Select(n => n.After).OfType<Entity>()];

    /// <summary>What uses other geometry or pictures than before.</summary>
    internal IEnumerable<Entity> Using => UsingOf(Change);

    internal static IEnumerable<Entity> UsingOf(Change change) => change.All
        .Where(n => n.After is Node or Material or Surroundings or Cheat { Channel: CheatChannel.OfSurroundings } && (n.Before is null || !SceneStore.BlobsOf(n.After).SequenceEqual(SceneStore.BlobsOf(n.Before))))
        .Select(n => n.After!);
}

/// <summary>What became of a commit.</summary>
public enum Outcome
{
    Stored,

    /// <summary>Nothing was stored: the scene is at another revision, or gone.</summary>
    Behind,

    /// <summary>Nothing was stored: the key was used before.</summary>
    Repeated,
}

/// <param name="First">The call that used the key before.</param>
public readonly record struct Committed(Outcome Outcome, KeyedCall? First = null);
