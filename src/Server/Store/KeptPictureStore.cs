using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A picture that was brought in for materials.</summary>
/// <param name="Bytes">How large its file is.</param>
public sealed record KeptPicture(string Hash, string Name, int Width, int Height, long Bytes, string MediaType);

/// <summary>Pictures that are kept in scenes for their materials.</summary>
public sealed class KeptPictureStore(NpgsqlDataSource source)
{
    public const int Most = 1_000;

    public async Task<List<KeptPicture>> List(string scene)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            """
            select p.hash, p.name, p.width, p.height, length(b.bytes)::bigint, b.media_type
            from kept_pictures p join blobs b using (hash) join scene_blobs s on s.scene_id = p.scene_id and s.hash = p.hash
            where p.scene_id = @scene order by p.at, p.hash
            """,
            r => new KeptPicture(r.GetString(0), r.GetString(1), r.GetInt32(2), r.GetInt32(3), r.GetInt64(4), r.GetString(5)),
            ("scene", scene));
    }

    /// <summary>Keeps a picture; one that is kept already gets the new name.</summary>
    /// <returns>False: the scene is full of pictures, or gone.</returns>
    public async Task<bool> Keep(string scene, Blob blob, string name, int width, int height)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await BlobStore.Write(connection, [blob]);
        var kept = await Keep(connection, scene, [(blob.Hash, name, width, height)]) > 0;
        if (kept)
        {
            await connection.Run("insert into scene_blobs (scene_id, hash) values (@scene, @hash) on conflict (scene_id, hash) do update set unused_since = null", ("scene", scene), ("hash", blob.Hash));
            await transaction.CommitAsync();
        }

        return kept;
    }

    /// <summary>Keeps pictures that the scene has already, as many as there is room for.</summary>
    public async Task Keep(string scene, IReadOnlyList<(string Hash, string Name, int Width, int Height)> pictures)
    {
        if (pictures.Count > 0)
        {
            await using var connection = await source.OpenConnectionAsync();
            await Keep(connection, scene, pictures);
        }
    }

    private static Task<int> Keep(NpgsqlConnection connection, string scene, IReadOnlyList<(string Hash, string Name, int Width, int Height)> pictures) => connection.Run(
        """
        insert into kept_pictures (scene_id, hash, name, width, height)
        select c.id, p.hash, p.name, p.width, p.height
        from scenes c, unnest(@hashes, @names, @widths, @heights) with ordinality as p (hash, name, width, height, nth)
        where c.id = @scene and c.removed_at is null
          and (select count(*) from kept_pictures where scene_id = @scene and not hash = any(@hashes)) + p.nth <= @most
        on conflict (scene_id, hash) do update set name = excluded.name
        """,
        ("scene", scene),
        ("hashes", pictures.Select(p => p.Hash).ToArray()),
        ("names", pictures.Select(p => p.Name).ToArray()),
        ("widths", pictures.Select(p => p.Width).ToArray()),
        ("heights", pictures.Select(p => p.Height).ToArray()),
        ("most", (long)Most));

    /// <summary>Keeps a picture no longer; materials that show it go on doing so.</summary>
    public async Task<bool> LetGo(string scene, string hash)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run("delete from kept_pictures where scene_id = @scene and hash = @hash", ("scene", scene), ("hash", hash)) > 0;
    }
}
