using System.Runtime.InteropServices;
using System.Security.Cryptography;
using CalmPivot.Core;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>How many stored geometries and pictures of a scene no node uses, and their size.</summary>
public sealed record UnusedBlobs(int Count, long Bytes);

/// <summary>Geometry and pictures by their hash; each is found through a scene that has it.</summary>
public sealed class BlobStore(NpgsqlDataSource source)
{
    internal const long MostInTheAir = 16L * 1024 * 1024;
    private const int MostAtOnce = 1_000;

    public const string GeometryType = "application/vnd.calm-pivot.geometry";

    public static Blob Of(string mediaType, byte[] bytes) => new(Convert.ToHexStringLower(SHA256.HashData(bytes)), mediaType, bytes);

    /// <summary>The geometry of a scene, for computing with.</summary>
    public IGeometries Of(string scene) => new SceneGeometries(source, scene);

    /// <summary>A blob that belongs to a scene.</summary>
    public async Task<Blob?> Read(string scene, string hash)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select b.media_type, b.bytes from blobs b join scene_blobs s using (hash) join scenes c on c.id = s.scene_id
            where s.scene_id = @scene and b.hash = @hash and c.removed_at is null
            """,
            r => new Blob(hash, r.GetString(0), r.GetFieldValue<byte[]>(1)),
            ("scene", scene),
            ("hash", hash));
        return rows.FirstOrDefault();
    }

    /// <summary>Of which type a picture is that some scene has; null: none has it.</summary>
    public async Task<string?> TypeOf(string picture)
    {
        await using var connection = await source.OpenConnectionAsync();
        return (await connection.Rows("select media_type from blobs where hash = @hash and media_type like 'image/%'", r => r.GetString(0), ("hash", picture))).FirstOrDefault();
    }

    /// <summary>How large some blobs of a scene are together.</summary>
    public async Task<long> Bytes(string scene, string[] hashes)
    {
        await using var connection = await source.OpenConnectionAsync();
        return (await connection.Rows(
            "select coalesce(sum(length(b.bytes)), 0)::bigint from blobs b join scene_blobs s using (hash) where s.scene_id = @scene and s.hash = any(@hashes)",
            r => r.GetInt64(0),
            ("scene", scene),
            ("hashes", hashes)))[0];
    }

    /// <summary>The order of the triangles of a geometry by which they are found fast, four bytes each; built when it is asked for first.</summary>
    /// <returns>Null: the scene has no such geometry.</returns>
    public async Task<byte[]?> Triangles(string scene, string hash)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select b.triangles from blobs b join scene_blobs s using (hash) join scenes c on c.id = s.scene_id
            where s.scene_id = @scene and b.hash = @hash and b.media_type = @type and c.removed_at is null
            """,
            r => r.IsDBNull(0) ? null : r.GetFieldValue<byte[]>(0),
            ("scene", scene),
            ("hash", hash),
            ("type", GeometryType));
        if (rows is not [var stored] || stored is not null)
        {
            return rows.FirstOrDefault();
        }

        var geometry = GeometryBinary.Read((await Read(scene, hash))!.Bytes);
        if (geometry.TriangleCount > TriangleIndex.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"This geometry has {geometry.TriangleCount} triangles; those of more than {TriangleIndex.Most} are not kept in order.");
        }

        var order = MemoryMarshal.AsBytes(geometry.Triangles.Order).ToArray();
        await connection.Run("update blobs set triangles = @order where hash = @hash", ("order", order), ("hash", hash));
        return order;
    }

    /// <summary>Counts what a scene has stored beside what is used, and clears it when asked. Pictures that it keeps for materials stay.</summary>
    public async Task<UnusedBlobs> Unused(string scene, string[] used, bool clear)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var rows = await connection.Rows(
            """
            select count(*), coalesce(sum(length(b.bytes)), 0)
            from scene_blobs s join blobs b using (hash) where s.scene_id = @scene and s.hash <> all(@used)
              and not exists (select from kept_pictures k where k.scene_id = s.scene_id and k.hash = s.hash)
            """,
            r => new UnusedBlobs((int)r.GetInt64(0), r.GetInt64(1)),
            ("scene", scene),
            ("used", used));
        if (clear)
        {
            await connection.Run("delete from scene_blobs s where scene_id = @scene and hash <> all(@used) and not exists (select from kept_pictures k where k.scene_id = s.scene_id and k.hash = s.hash)", ("scene", scene), ("used", used));
            await CollectingStore.ClearBlobs(connection);
        }

        await transaction.CommitAsync();
        return rows[0];
    }

    /// <summary>Stores blobs; a scene that uses them is to be linked with them in the same transaction.</summary>
    internal static async Task Write(NpgsqlConnection connection, IReadOnlyList<Blob> blobs, CancellationToken stopped = default)
    {
        // Many at once, but never so many that they are all in the air at the same time. In one order everywhere, so that two
        // who store the same do not wait for each other.
        var next = new List<Blob>();
        var size = 0L;
        foreach (var blob in blobs.DistinctBy(b => b.Hash).OrderBy(b => b.Hash, StringComparer.Ordinal))
        {
            stopped.ThrowIfCancellationRequested();
            next.Add(blob);
            size += blob.Bytes.Length;
            if (size > MostInTheAir || next.Count >= MostAtOnce)
            {
                await WriteSome(connection, next);
                next.Clear();
                size = 0;
            }
        }

        await WriteSome(connection, next);
    }

    private static Task WriteSome(NpgsqlConnection connection, List<Blob> blobs) => blobs.Count == 0 ? Task.CompletedTask : connection.Run(
        "insert into blobs (hash, media_type, bytes) select * from unnest(@hashes, @types, @bytes) on conflict do nothing",
        ("hashes", blobs.Select(b => b.Hash).ToArray()),
        ("types", blobs.Select(b => b.MediaType).ToArray()),
        ("bytes", blobs.Select(b => b.Bytes).ToArray()));
}
