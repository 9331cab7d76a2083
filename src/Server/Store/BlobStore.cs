using System.Collections.Concurrent;
using System.Security.Cryptography;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>How many stored geometries and pictures of a scene no node uses, and their size.</summary>
public sealed record UnusedBlobs(int Count, long Bytes);

/// <summary>Geometry and pictures by their hash. Geometry that edits ask for is kept in memory, since it never changes.</summary>
public sealed class BlobStore(NpgsqlDataSource source) : IGeometries
{
    public const string GeometryType = "application/vnd.calm-pivot.geometry";

    private readonly ConcurrentDictionary<string, Geometry> _geometries = new();

    public static Blob Of(string mediaType, byte[] bytes) => new(Convert.ToHexStringLower(SHA256.HashData(bytes)), mediaType, bytes);

    public Geometry? Find(string hash)
    {
        if (_geometries.TryGetValue(hash, out var known))
        {
            return known;
        }

        // Edits are computed synchronously; the rare first look at a mesh waits for the database.
        using var connection = source.OpenConnection();
        using var command = connection.Sql("select bytes from blobs where hash = @hash and media_type = @type", ("hash", hash), ("type", GeometryType));
        return command.ExecuteScalar() is byte[] bytes ? _geometries[hash] = GeometryBinary.Read(bytes) : null;
    }

    public void Keep(string hash, Geometry geometry) => _geometries[hash] = geometry;

    /// <summary>A blob that belongs to a scene.</summary>
    public async Task<Blob?> Read(string scene, string hash)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select b.media_type, b.bytes from blobs b join scene_blobs s using (hash) where s.scene_id = @scene and b.hash = @hash",
            r => new Blob(hash, r.GetString(0), r.GetFieldValue<byte[]>(1)),
            ("scene", scene),
            ("hash", hash));
        return rows.FirstOrDefault();
    }

    /// <summary>Counts what a scene has stored beside what is used, and clears it when asked.</summary>
    public async Task<UnusedBlobs> Unused(string scene, string[] used, bool clear)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var rows = await connection.Rows(
            """
            select count(*), coalesce(sum(length(b.bytes)), 0)
            from scene_blobs s join blobs b using (hash) where s.scene_id = @scene and s.hash <> all(@used)
            """,
            r => new UnusedBlobs((int)r.GetInt64(0), r.GetInt64(1)),
            ("scene", scene),
            ("used", used));
        if (clear)
        {
            await connection.Run("delete from scene_blobs where scene_id = @scene and hash <> all(@used)", ("scene", scene), ("used", used));
            await connection.Run("delete from blobs where not exists (select from scene_blobs s where s.hash = blobs.hash)");
        }

        await transaction.CommitAsync();
        return rows[0];
    }

    internal static async Task Write(NpgsqlConnection connection, string scene, IReadOnlyList<Blob> blobs)
    {
        foreach (var blob in blobs)
        {
            await connection.Run(
                "insert into blobs (hash, media_type, bytes) values (@hash, @type, @bytes) on conflict do nothing",
                ("hash", blob.Hash),
                ("type", blob.MediaType),
                ("bytes", blob.Bytes));
            await connection.Run(
                "insert into scene_blobs (scene_id, hash) values (@scene, @hash) on conflict do nothing",
                ("scene", scene),
                ("hash", blob.Hash));
        }
    }
}
