using System.Data;
using System.Text.Json;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>An image that was made of a shot, a camera or a view.</summary>
/// <param name="Shot">Null: of no shot.</param>
/// <param name="Revision">What it shows of the scene.</param>
/// <param name="Seconds">How long it took.</param>
/// <param name="MadeOf">How it was made, so that it can be made again; as the page says it.</param>
/// <param name="Parts">Which images there are: picture, small, depth, mask.</param>
public sealed record Still(
    string Id, string Name, string? Shot, long Revision, int Width, int Height, int Passes, double Seconds, JsonElement MadeOf, DateTimeOffset At, long Bytes, IReadOnlyList<string> Parts);

/// <summary>A part of a still as a file.</summary>
public sealed record StillImage(string MediaType, byte[] Bytes);

/// <summary>A part of a still that is being read; letting go of it ends that.</summary>
public sealed class StillFile(string mediaType, int length, Stream content, IReadOnlyList<IAsyncDisposable> held) : IAsyncDisposable
{
    public string MediaType => mediaType;

    public int Length => length;

    public Stream Content => content;

    public async ValueTask DisposeAsync()
    {
        await content.DisposeAsync();
        foreach (var one in held)
        {
            await one.DisposeAsync();
        }
    }
}

/// <summary>The stills of scenes.</summary>
public sealed class StillStore(NpgsqlDataSource source)
{
    /// <summary>How many stills a scene keeps.</summary>
    public const int Most = 500;

    /// <summary>How large all of them may be together.</summary>
    public const long MostBytes = 4L << 30;

    private const string Kept = "(select coalesce(sum(length(i.bytes)), 0) from still_images i join stills s on s.id = i.still_id where s.scene_id = @scene)";

    public async Task<List<Still>> List(string scene)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            """
            select s.id, s.name, s.shot, s.revision, s.width, s.height, s.passes, s.seconds, s.made_of::text, s.at,
                   coalesce(sum(length(i.bytes)), 0)::bigint, coalesce(array_agg(i.part order by i.part) filter (where i.part is not null), '{}')
            from stills s left join still_images i on i.still_id = s.id where s.scene_id = @scene group by s.id order by s.at, s.id
            """,
            r => new Still(
                r.GetString(0), r.GetString(1), r.IsDBNull(2) ? null : r.GetString(2), r.GetInt64(3), r.GetInt32(4), r.GetInt32(5), r.GetInt32(6), r.GetDouble(7),
                JsonDocument.Parse(r.GetString(8)).RootElement, r.GetFieldValue<DateTimeOffset>(9), r.GetInt64(10), r.GetFieldValue<string[]>(11)),
            ("scene", scene));
    }

    /// <returns>False: the scene is full of stills, or gone.</returns>
    public async Task<bool> Keep(string scene, Still still, StillImage picture)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var kept = await connection.Run(
            $"""
            insert into stills (id, scene_id, name, shot, revision, width, height, passes, seconds, made_of)
            select @id, id, @name, @shot, @revision, @width, @height, @passes, @seconds, @made_of::jsonb from scenes where id = @scene and removed_at is null
              and (select count(*) from stills where scene_id = @scene) < @most
              and {Kept} + @more <= @most_bytes
            """,
            ("id", still.Id),
            ("scene", scene),
            ("name", still.Name),
            ("shot", (object?)still.Shot ?? DBNull.Value),
            ("revision", still.Revision),
            ("width", still.Width),
            ("height", still.Height),
            ("passes", still.Passes),
            ("seconds", still.Seconds),
            ("made_of", still.MadeOf.GetRawText()),
            ("most", Most),
            ("more", (long)picture.Bytes.Length),
            ("most_bytes", MostBytes)) > 0;
        if (kept)
        {
            await Write(connection, still.Id, "picture", picture);
            await transaction.CommitAsync();
        }

        return kept;
    }

    /// <returns>Null: the scene has no such still. False: it is full of stills.</returns>
    public async Task<bool?> Add(string scene, string still, string part, StillImage image)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var room = await connection.Rows(
            $"select {Kept} - coalesce((select length(bytes) from still_images where still_id = @still and part = @part), 0) + @more <= @most_bytes from stills where id = @still and scene_id = @scene for update",
            r => r.GetBoolean(0),
            ("still", still),
            ("scene", scene),
            ("part", part),
            ("more", (long)image.Bytes.Length),
            ("most_bytes", MostBytes));
        if (room is [true])
        {
            await Write(connection, still, part, image);
            await transaction.CommitAsync();
        }

        return room.Count == 0 ? null : room[0];
    }

    /// <summary>A part as it comes from the database: it may be large, and is never held whole. Null: there is none.</summary>
    public async Task<StillFile?> Read(string scene, string still, string part)
    {
        var connection = await source.OpenConnectionAsync();
        try
        {
            var command = connection.Sql(
                "select i.media_type, length(i.bytes), i.bytes from still_images i join stills s on s.id = i.still_id where s.id = @still and s.scene_id = @scene and i.part = @part",
                ("still", still),
                ("scene", scene),
                ("part", part));
            var reader = await command.ExecuteReaderAsync(CommandBehavior.SequentialAccess);
            if (await reader.ReadAsync())
            {
                return new(reader.GetString(0), reader.GetInt32(1), reader.GetStream(2), [reader, command, connection]);
            }

            await reader.DisposeAsync();
            await command.DisposeAsync();
        }
        catch
        {
            await connection.DisposeAsync();
            throw;
        }

        await connection.DisposeAsync();
        return null;
    }

    public async Task<bool> Remove(string scene, string still)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run("delete from stills where id = @still and scene_id = @scene", ("still", still), ("scene", scene)) > 0;
    }

    private static Task<int> Write(NpgsqlConnection connection, string still, string part, StillImage image) => connection.Run(
        """
        insert into still_images (still_id, part, media_type, bytes) values (@still, @part, @type, @bytes)
        on conflict (still_id, part) do update set media_type = excluded.media_type, bytes = excluded.bytes
        """,
        ("still", still),
        ("part", part),
        ("type", image.MediaType),
        ("bytes", image.Bytes));
}
