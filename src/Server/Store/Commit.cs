using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;

namespace CalmPivot.Server.Store;

/// <summary>An answer to a call with a key, kept so that the call can be sent again.</summary>
public sealed record KeyedAnswer(Guid Key, byte[] RequestHash, string Json);

/// <summary>A step that is to be stored with what it changed.</summary>
public sealed record NewStep(Step Step, IReadOnlyList<Edit> Edits, IReadOnlyList<long> Drops);

/// <summary>Geometry or a picture, named by its hash.</summary>
public sealed record Blob(string Hash, string MediaType, byte[] Bytes);

/// <summary>Everything that one change of a scene writes, in one transaction.</summary>
public sealed record Commit(
    SceneDocument Scene,
    Change Change,
    NewStep? Step,
    IReadOnlyDictionary<long, bool> Undone,
    KeyedAnswer? Answer,
    IReadOnlyList<Blob> Blobs)
{
    /// <summary>Told how many of how many nodes are stored.</summary>
    public Func<int, int, Task>? Stored { get; init; }

    /// <summary>Whoever asked for it may have gone before it is stored.</summary>
    public CancellationToken Stopped { get; init; }
}
