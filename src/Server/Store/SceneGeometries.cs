using System.Collections.Concurrent;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>The geometry that one scene uses, and that of no other. It never changes, so what edits asked for is kept in memory.</summary>
internal sealed class SceneGeometries(NpgsqlDataSource source, string scene) : IGeometries
{
    private readonly ConcurrentDictionary<string, Geometry> _known = new();

    public Geometry? Find(string hash)
    {
        if (_known.TryGetValue(hash, out var known))
        {
            return known;
        }

        // Edits are computed synchronously; the rare first look at a mesh waits for the database.
        using var connection = source.OpenConnection();
        using var command = connection.Sql(
            "select b.bytes from blobs b join scene_blobs s using (hash) where s.scene_id = @scene and b.hash = @hash and b.media_type = @type",
            ("scene", scene),
            ("hash", hash),
            ("type", BlobStore.GeometryType));
        return command.ExecuteScalar() is byte[] bytes ? _known[hash] = GeometryBinary.Read(bytes) : null;
    }

    public void Keep(string hash, Geometry geometry) => _known[hash] = geometry;
}
