using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.History;

/// <summary>Which parts of which node a step wrote.</summary>
[method: JsonConstructor]
public readonly record struct Write(string Node, Parts Fields);

/// <summary>An entry of the history: what was done, by whom, and what it wrote.</summary>
public sealed record Step(long Number, string Sentence, string By, DateTimeOffset At, IReadOnlyList<Write> Writes)
{
    public bool Undone { get; init; }

    /// <summary>Undone, and out of reach of redo since its maker did something new.</summary>
    public bool Dropped { get; init; }

    /// <summary>Was undone at some time, even if it stands again.</summary>
    public bool Wavered { get; init; }

    public string? Name { get; init; }

    public bool Standing => !Undone;

    public static IReadOnlyList<Write> WritesOf(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. change.All.Select(n => new Write(n.Id, n.Written()))];
    }
}
