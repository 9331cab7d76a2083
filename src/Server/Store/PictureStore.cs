using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A picture of a scene, and the revision that it shows.</summary>
public sealed record ScenePicture(string MediaType, byte[] Bytes, long Revision);

/// <summary>One small picture a scene, for choosing among scenes, and one a shot, for its card.</summary>
public sealed class PictureStore(NpgsqlDataSource source)
{
    /// <summary>What stands for the scene itself where the id of a shot stands.</summary>
    private const string OfScene = "";

    public async Task<ScenePicture?> Read(string scene, string? shot = null)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select p.media_type, p.bytes, p.revision from scene_pictures p join scenes c on c.id = p.scene_id where p.scene_id = @scene and p.shot = @shot and c.removed_at is null",
            r => new ScenePicture(r.GetString(0), r.GetFieldValue<byte[]>(1), r.GetInt64(2)),
            ("scene", scene),
            ("shot", shot ?? OfScene));
        return rows.FirstOrDefault();
    }

    /// <summary>Keeps a picture, unless one of a later revision is there.</summary>
    /// <returns>False: there is no such scene.</returns>
    public async Task<bool> Write(string scene, ScenePicture picture, string? shot = null)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            """
            insert into scene_pictures (scene_id, shot, revision, media_type, bytes)
            select id, @shot, least(@revision, revision), @type, @bytes from scenes where id = @scene and removed_at is null
            on conflict (scene_id, shot) do update set revision = excluded.revision, media_type = excluded.media_type, bytes = excluded.bytes
            where scene_pictures.revision <= excluded.revision
            """,
            ("scene", scene),
            ("shot", shot ?? OfScene),
            ("revision", picture.Revision),
            ("type", picture.MediaType),
            ("bytes", picture.Bytes));
        var rows = await connection.Rows("select 1 from scenes where id = @scene and removed_at is null", r => r.GetInt32(0), ("scene", scene));
        return rows.Count > 0;
    }

    /// <summary>Which revisions the pictures of the shots of a scene show.</summary>
    public async Task<List<Api.ShotPictureEntry>> OfShots(string scene)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            "select shot, revision from scene_pictures where scene_id = @scene and shot <> '' order by shot",
            r => new Api.ShotPictureEntry(r.GetString(0), r.GetInt64(1)),
            ("scene", scene));
    }

    /// <summary>
    /// A copy of a scene looks like it. Its pictures are as old as those that they are copies of: of its first revision where those
    /// showed what was copied, else of none that it ever had, so that they are made again.
    /// </summary>
    /// <param name="copied">The revision that was copied.</param>
    public async Task Copy(string from, long copied, string to)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            """
            insert into scene_pictures (scene_id, shot, revision, media_type, bytes)
            select @to, shot, case when revision = @copied then 1 else 0 end, media_type, bytes from scene_pictures where scene_id = @from
            on conflict do nothing
            """,
            ("from", from),
            ("copied", copied),
            ("to", to));
    }
}
