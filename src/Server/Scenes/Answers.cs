using CalmPivot.Core.Entities;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Api;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Scenes;

/// <summary>What callers are answered: of a change that is made, and of one that lies in the log.</summary>
internal static class Answers
{
    /// <param name="change">Whole: what it wrote is answered as it is now.</param>
    public static StepAnswer Of(long revision, StepLine step, Change change, Guid? key) => new(
        revision,
        step,
        [.. change.Nodes.Where(n => n.After is not null).Select(n => new NodeData(n.After!))],
        [.. change.Nodes.Where(n => n.After is null).Select(n => n.Id)],
        [.. change.Entities.Where(e => e.After is not null).Select(e => new EntityData(e.After!))],
        [.. change.Entities.Where(e => e.After is null).Select(e => new GoneEntity(EntityKinds.WordOf(e.Before!), e.Id))],
        key,
        Digest.Of(change));

    /// <summary>
    /// The answer that a call got, from the log: what its change wrote, as it was then. That is the scene as it stands, with what came
    /// after it taken back.
    /// </summary>
    /// <param name="rows">From its row on, up to the scene as it stands.</param>
    public static StepAnswer Again(IScene scene, IReadOnlyList<LogRow> rows, Guid? key)
    {
        var row = rows[0];
        var then = new SceneDraft(scene);
        for (var i = rows.Count - 1; i > 0; i--)
        {
            then.Take(PartChange.On(then, Reversed(rows[i].Written)));
        }

        var written = row.Written.ToDictionary(w => w.Id);
        var after = Change.Of(row.Written.Select(w => new EntityChange(w.Id, w.Was, w.Is is null ? null : then.FindAny(w.Id))));
        var step = row.Step ?? throw new InvalidDataException("A step is missing that the log refers to.");
        return Of(row.Revision, new(step.Number, step.Sentence, step.By, row.Picked), after, key) with { Digest = Digest.Of(PartChange.Sparse(row.Written)) };
    }

    /// <summary>A row of the log, for who catches up.</summary>
    public static LogEntry Of(LogRow row) => new(
        row.Revision,
        row.At,
        row.Act,
        row.Written,
        row.Step is { } step ? new(step.Number, step.Sentence, step.By, row.Picked) : null,
        row.Key,
        row.Act == Act.Described ? null : Digest.Of(PartChange.Sparse(row.Written)),
        row.Described);

    private static IEnumerable<PartChange> Reversed(PartChange[] written) => written.Reverse().Select(w => w with { Was = w.Is, Is = w.Was });
}
