using CalmPivot.Core.History;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>The steps of scenes: the latest ones come with their scene, older ones by page.</summary>
public sealed class StepStore(NpgsqlDataSource source)
{
    private const string WithWrites = """
        select s.number, s.sentence, s.by_person, s.at, s.undone, s.dropped, s.name, s.wavered is not null, l.writes, f.writes
        from steps s
          left join log l on l.scene = s.scene and l.revision = s.revision
          left join former_steps f on s.revision is null and f.scene_id = @id and f.number = s.number
        """;

    /// <summary>Steps before a number, the latest of them, in order; without what they wrote.</summary>
    public async Task<List<Step>> Before(long scene, long before, int most)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select number, sentence, by_person, at, undone, dropped, name, wavered is not null from steps
            where scene = @scene and number < @before order by number desc limit @most
            """,
            r => Read(r, []),
            ("scene", scene),
            ("before", before),
            ("most", most));
        rows.Reverse();
        return rows;
    }

    /// <summary>Steps with what they wrote, from a number up to before another.</summary>
    public async Task<List<Step>> Between(string id, long scene, long from, long before)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            WithWrites + " where s.scene = @scene and s.number >= @from and s.number < @before order by s.number",
            WithItsWrites,
            ("id", id),
            ("scene", scene),
            ("from", from),
            ("before", before));
    }

    internal static async Task<List<Step>> LatestOf(NpgsqlConnection connection, string id, long scene, int most)
    {
        var rows = await connection.Rows(
            WithWrites + " where s.scene = @scene order by s.number desc limit @most",
            WithItsWrites,
            ("id", id),
            ("scene", scene),
            ("most", most));
        rows.Reverse();
        return rows;
    }

    /// <summary>
    /// From which of the steps before a number on an undo or redo needs them: from the person's own that it takes back or does again,
    /// and from the first, where one of those has been taken back or done again since the steps at hand were made.
    /// </summary>
    /// <returns>Null: none of them is needed.</returns>
    public async Task<long?> Needed(long scene, long before, string by, bool undo, long? to, bool ownAtHand)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select
              case
                when @undo and @to is not null then (select min(number) from steps where scene = @scene and number < @before and number > @to and by_person = @by and not undone)
                when @undo and not @ownAtHand then (select max(number) from steps where scene = @scene and number < @before and by_person = @by and not undone)
                when not @undo then (select min(number) from steps where scene = @scene and number < @before and by_person = @by and undone and not dropped)
              end,
              exists (
                select from steps w where w.scene = @scene and w.number < @before
                and w.wavered >= coalesce((select revision from steps where scene = @scene and number >= @before and revision is not null order by number limit 1), 0))
            """,
            r => r.GetBoolean(1) ? 0 : r.IsDBNull(0) ? (long?)null : r.GetInt64(0),
            ("scene", scene),
            ("before", before),
            ("by", by),
            ("undo", undo),
            ("to", to is { } wanted ? wanted : NpgsqlTypes.NpgsqlDbType.Bigint),
            ("ownAtHand", ownAtHand));
        return rows[0];
    }

    /// <returns>False: there is no such step.</returns>
    public async Task<bool> Name(long scene, long number, string? name)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run(
            "update steps set name = @name where scene = @scene and number = @number",
            ("scene", scene),
            ("number", number),
            ("name", name)) > 0;
    }

    private static Step WithItsWrites(NpgsqlDataReader r) =>
        Read(r, !r.IsDBNull(8) ? Packed.As<Write[]>(r.GetFieldValue<byte[]>(8)) : r.IsDBNull(9) ? [] : StoreJson.Read<Write[]>(r.GetString(9)));

    private static Step Read(NpgsqlDataReader r, IReadOnlyList<Write> writes) => new(r.GetInt64(0), r.GetString(1), r.GetString(2), r.GetFieldValue<DateTimeOffset>(3), writes)
    {
        Undone = r.GetBoolean(4),
        Dropped = r.GetBoolean(5),
        Name = r.IsDBNull(6) ? null : r.GetString(6),
        Wavered = r.GetBoolean(7),
    };
}
