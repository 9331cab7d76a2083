using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A scene's rows of the log after a revision, and how far the scene is.</summary>
/// <param name="After">The log holds what came after this revision.</param>
public sealed record LogTail(long Revision, long After, IReadOnlyList<LogRow> Rows);

/// <summary>The log of changes: what led from each revision of a scene to the next, and what each step did.</summary>
public sealed class LogStore(NpgsqlDataSource source)
{
    /// <summary>Keys are known for this long.</summary>
    public static readonly TimeSpan KeysKept = TimeSpan.FromDays(7);

    /// <summary>More is read bit by bit: of many rows, or of some that are large.</summary>
    public const int MostAtOnce = 500;

    private const long MostBytesAtOnce = 4 * 1024 * 1024;

    /// <summary>What came after a revision, in order: so much of it at once, the first row in any case.</summary>
    /// <returns>Null: the scene is gone.</returns>
    public async Task<LogTail?> After(long scene, long revision)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        var head = await connection.Rows(
            "select revision, log_after from scenes where no = @scene and removed_at is null", r => (Revision: r.GetInt64(0), After: r.GetInt64(1)), ("scene", scene));
        if (head.Count == 0)
        {
            return null;
        }

        var rows = await connection.Rows(
            """
            select l.revision, l.at, l.act, l.marks, l.key, l.request, l.body, s.number, s.sentence, s.by_person, s.at, s.picked, s.undone, s.dropped, s.name, s.wavered is not null
            from (
              select *, sum(octet_length(body)) over (order by revision) - octet_length(body) as ahead
              from (select * from log where scene = @scene and revision > @revision order by revision limit @most) latest) l
            left join steps s on s.scene = l.scene and s.number = l.step
            where l.ahead < @bytes
            order by l.revision
            """,
            Read,
            ("scene", scene),
            ("revision", revision),
            ("most", MostAtOnce),
            ("bytes", MostBytesAtOnce));
        return new(head[0].Revision, head[0].After, rows);
    }

    /// <summary>What was written after a revision up to another, whatever it was.</summary>
    public async Task<List<Write>> WritesBetween(long scene, long after, long upTo)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select writes from log where scene = @scene and revision > @after and revision <= @upTo",
            r => Packed.As<Write[]>(r.GetFieldValue<byte[]>(0)),
            ("scene", scene),
            ("after", after),
            ("upTo", upTo));
        return [.. rows.SelectMany(w => w)];
    }

    /// <summary>The call that used a key first.</summary>
    public async Task<KeyedCall?> CallWith(long scene, Guid key)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select revision, request from log where scene = @scene and key = @key",
            r => new KeyedCall(r.GetInt64(0), r.GetFieldValue<byte[]>(1)),
            ("scene", scene),
            ("key", key));
        return rows.FirstOrDefault();
    }

    /// <summary>The first answer to a call that a former version answered.</summary>
    public async Task<(byte[] Request, string Json)?> FormerAnswer(string scene, Guid key)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select request_hash, answer from former_answers where scene_id = @scene and key = @key",
            r => (r.GetFieldValue<byte[]>(0), r.GetString(1)),
            ("scene", scene),
            ("key", key));
        return rows.Count == 0 ? null : rows[0];
    }

    /// <summary>What a step did, and what it was about, in picking order; things have the written parts only.</summary>
    /// <exception cref="Core.Refusal">not-found.</exception>
    public async Task<(PartChange[] Written, IReadOnlyList<string> Picked)> StepOf(string id, long scene, long number)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select l.body, s.picked, f.change, f.edits
            from steps s
              left join log l on l.scene = s.scene and l.revision = s.revision
              left join former_steps f on s.revision is null and f.scene_id = @id and f.number = s.number
            where s.scene = @scene and s.number = @number
            """,
            r => r.IsDBNull(0)
                ? (FormerChange.ToParts(StoreJson.Read<FormerChange[]>(r.GetString(2))), PickedBy(StoreJson.Read<Edit[]>(r.GetString(3))))
                : (Packed.As<PartChange[]>(r.GetFieldValue<byte[]>(0)), r.GetFieldValue<string[]>(1)),
            ("id", id),
            ("scene", scene),
            ("number", number));
        return rows.Count == 0 ? throw SceneHistory.NoSuchStep() : rows[0];
    }

    internal static IReadOnlyList<string> PickedBy(IEnumerable<Edit> edits) => [.. edits.SelectMany(e => e.Picked).Distinct()];

    private static LogRow Read(NpgsqlDataReader r)
    {
        var act = (Act)r.GetInt16(2);
        var body = r.GetFieldValue<byte[]>(6);
        var written = act == Act.Described ? [] : Packed.As<PartChange[]>(body);
        var step = r.IsDBNull(7) ? null : new Step(r.GetInt64(7), r.GetString(8), r.GetString(9), r.GetFieldValue<DateTimeOffset>(10), [])
        {
            Undone = r.GetBoolean(12),
            Dropped = r.GetBoolean(13),
            Name = r.IsDBNull(14) ? null : r.GetString(14),
            Wavered = r.GetBoolean(15),
        };
        return new(
            r.GetInt64(0),
            r.GetFieldValue<DateTimeOffset>(1),
            act,
            step,
            r.IsDBNull(11) ? [] : r.GetFieldValue<string[]>(11),
            r.IsDBNull(3) ? [] : r.GetFieldValue<long[]>(3),
            r.IsDBNull(4) ? null : r.GetGuid(4),
            r.IsDBNull(5) ? null : r.GetFieldValue<byte[]>(5),
            written,
            act == Act.Described ? Packed.As<Described>(body) : null);
    }
}
