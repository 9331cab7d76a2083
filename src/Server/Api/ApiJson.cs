using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The JSON of the API: the core's own way, with the server's types.</summary>
public static class ApiJson
{
    public static readonly JsonSerializerOptions Options = WireJson.With(new DefaultJsonTypeInfoResolver());

    /// <summary>Makes the framework's options these.</summary>
    public static void Configure(JsonSerializerOptions options) => WireJson.Configure(options, new DefaultJsonTypeInfoResolver());
}

/// <summary>The answer to edits, undo and redo, and what pages hear; by the key a page knows its own.</summary>
/// <param name="Digest">A word for what was written, by which a page that computed the same knows it; see <see cref="Core.Replicas.Digest"/>.</param>
/// <param name="Changed">The nodes that were written.</param>
/// <param name="Removed">The nodes that are gone.</param>
/// <param name="Entities">What was written beside nodes, each with its kind.</param>
/// <param name="Gone">What is gone of these.</param>
/// <param name="Notes">What could not be kept of a file; of imports.</param>
public sealed record StepAnswer(
    long Revision, StepLine Step, NodeData[] Changed, string[] Removed, EntityData[] Entities, GoneEntity[] Gone, Guid? Key = null, string? Digest = null,
    IReadOnlyList<string>? Notes = null);

/// <summary>The step that was made, taken back or done again.</summary>
/// <param name="Picked">The nodes that the step was about, in picking order.</param>
public sealed record StepLine(long Number, string Sentence, string By, IReadOnlyList<string> Picked);

/// <summary>The short answer, for callers that know what they did.</summary>
public sealed record MinimalAnswer(long Revision, StepLine Step, string Digest);

/// <summary>What led from one revision of a scene to the next.</summary>
/// <param name="Written">What was written, part by part, before and after.</param>
/// <param name="Step">The step that was made, taken back or done again.</param>
/// <param name="Described">The scene's name and unit, where these were changed.</param>
public sealed record LogEntry(
    long Revision, DateTimeOffset At, Act Act, IReadOnlyList<PartChange> Written, StepLine? Step = null, Guid? Key = null, string? Digest = null, Described? Described = null);

/// <summary>Entries of the log in order, and the revision that the scene is at; where they do not reach it, ask on after the last.</summary>
public sealed record LogAnswer(long Revision, IReadOnlyList<LogEntry> Entries);

/// <param name="Shot">The current shot: the edits are computed on what it shows.</param>
/// <param name="Scope">Whether they are made in every shot or in that one only; left out: in every shot.</param>
public sealed record EditsRequest(long Base, Edit[] Edits, Guid? Key = null, string? Shot = null, EditScope? Scope = null)
{
    /// <exception cref="Core.Refusal">not-understood: one shot only, and no shot.</exception>
    internal Scope InScope() => Scope == EditScope.Shot && Shot is null
        ? throw new Core.Refusal(Core.Refusals.NotUnderstood, "Say in which shot the edits are to be made.")
        : new(Shot, Scope == EditScope.Shot);
}

[JsonConverter(typeof(CamelCase<EditScope>))]
public enum EditScope
{
    Every,
    Shot,
}

/// <summary>The revision of the scene that the picture of a shot shows.</summary>
public sealed record ShotPictureEntry(string Shot, long Revision);

public sealed record RestoreRequest(long Base, Guid? Key = null, long? To = null);

public sealed record NewSceneRequest(string Name, string? Like = null);

/// <param name="KeepSteps">For so many days; 0: for good.</param>
public sealed record DescribeRequest(string? Name = null, string? Unit = null, int? KeepSteps = null);

public sealed record NameStepRequest(string? Name = null);

/// <summary>A whole scene.</summary>
/// <param name="KeepSteps">For so many days its steps are kept; left out: for good.</param>
public sealed record SceneAnswer(
    string Id,
    string Name,
    long Revision,
    string Unit,
    IReadOnlyList<NodeData> Nodes,
    IReadOnlyList<NodeData> Marks,
    IReadOnlyList<EntityData> Collections,
    IReadOnlyList<EntityData> Materials,
    IReadOnlyList<EntityData> Shots,
    IReadOnlyList<EntityData> Cheats,
    double Fps,
    int FirstFrame,
    EntityData Surroundings,
    IReadOnlyList<string>? Notes = null,
    int? KeepSteps = null);

public sealed record EvaluatedAnswer(long Revision, IReadOnlyList<EvaluatedNode> Nodes, IReadOnlyList<EvaluatedNode> Marks);

/// <summary>A short word for all that follows from what a scene stores; a page that computes the same comes to the same.</summary>
public sealed record DerivedAnswer(long Revision, string Digest);

/// <summary>Where a node stands after evaluation: world matrix column-major, pivot in the world.</summary>
/// <param name="Axes">The own axes in the world, nine numbers, column by column.</param>
/// <param name="Placed">Where what is stored puts it, before its constraints; left out where it has none.</param>
/// <param name="Links">What its constraints do at the moment; left out where it has none.</param>
public sealed record EvaluatedNode(
    string Id,
    double[] World,
    double[] Pivot,
    SeenAnswer Seen,
    IReadOnlyList<string> Warnings,
    double[] Axes,
    double[]? Placed,
    IReadOnlyList<LinkReading>? Links);

public sealed record SeenAnswer(bool Working, bool Final, IReadOnlyList<string> Reasons);

public sealed record StepEntry(long Number, string Sentence, string By, DateTimeOffset At, bool Undone, bool Dropped, string? Name);
