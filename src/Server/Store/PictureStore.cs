using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A picture of a scene, and the revision that it shows.</summary>
public sealed record ScenePicture(string MediaType, byte[] Bytes, long Revision);

/// <summary>One small picture a scene, for choosing among scenes.</summary>
public sealed class PictureStore(NpgsqlDataSource source)
{
    public async Task<ScenePicture?> Read(string scene)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select p.media_type, p.bytes, p.revision from scene_pictures p join scenes c on c.id = p.scene_id where p.scene_id = @scene and c.removed_at is null",
            r => new ScenePicture(r.GetString(0), r.GetFieldValue<byte[]>(1), r.GetInt64(2)),
            ("scene", scene));
        return rows.FirstOrDefault();
    }

    /// <summary>Keeps a picture, unless one of a later revision is there.</summary>
    /// <returns>False: there is no such scene.</returns>
    public async Task<bool> Write(string scene, ScenePicture picture)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            """
            insert into scene_pictures (scene_id, revision, media_type, bytes)
            select id, least(@revision, revision), @type, @bytes from scenes where id = @scene and removed_at is null
            on conflict (scene_id) do update set revision = excluded.revision, media_type = excluded.media_type, bytes = excluded.bytes
            where scene_pictures.revision <= excluded.revision
            """,
            ("scene", scene),
            ("revision", picture.Revision),
            ("type", picture.MediaType),
            ("bytes", picture.Bytes));
        var rows = await connection.Rows("select 1 from scenes where id = @scene and removed_at is null", r => r.GetInt32(0), ("scene", scene));
        return rows.Count > 0;
    }

    /// <summary>A copy of a scene looks like it.</summary>
    public async Task Copy(string from, string to)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            "insert into scene_pictures (scene_id, revision, media_type, bytes) select @to, 1, media_type, bytes from scene_pictures where scene_id = @from on conflict do nothing",
            ("from", from),
            ("to", to));
    }
}
