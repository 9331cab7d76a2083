using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;

namespace CalmPivot.Server.Store;

/// <summary>What led from one revision of a scene to the next. Rows are stored with these numbers.</summary>
[JsonConverter(typeof(Core.Json.CamelCase<Act>))]
public enum Act
{
    /// <summary>A step was made: by edits, an import, the demo.</summary>
    Step = 0,
    Undo = 1,
    Redo = 2,

    /// <summary>The scene was given another name or unit.</summary>
    Described = 3,
}

/// <summary>A scene's name and unit, before and after.</summary>
public sealed record Described(string NameWas, string UnitWas, string Name, string Unit);

/// <summary>A row of the log, as it was read.</summary>
/// <param name="Revision">The one that it led to.</param>
/// <param name="Step">The step that was made, taken back or done again; of several the last.</param>
/// <param name="Marks">All steps that were taken back or done again.</param>
public sealed record LogRow(long Revision, DateTimeOffset At, Act Act, Step? Step, IReadOnlyList<string> Picked, IReadOnlyList<long> Marks, Guid? Key, byte[]? Request, PartChange[] Written, Described? Described)
{
    public IReadOnlyList<Write> Writes => [.. Written.Select(w => new Write(w.Id, w.Parts))];
}

/// <summary>The first answer to a call with a key: where it lies, and to what call.</summary>
public sealed record KeyedCall(long Revision, byte[] Request);
