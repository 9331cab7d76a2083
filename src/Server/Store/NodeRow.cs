using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using Npgsql;
using NpgsqlTypes;

namespace CalmPivot.Server.Store;

/// <summary>A row a node or entity.</summary>
/// <param name="Blobs">The hashes of what it uses, with blanks between them; null: nothing.</param>
internal readonly record struct NodeRow(string Id, byte[] Body, string? Blobs)
{
    /// <summary>More nodes are sent by COPY instead of as parameters.</summary>
    public const int MostInParameters = 2_000;

    public static NodeRow Of(Entity entity) => new(entity.Id, Packed.Of(new EntityData(entity)), BlobsOf(entity));

    /// <summary>Writes rows into a table "coming" that goes with the transaction, one after the other, so that never all of them are packed at once.</summary>
    /// <param name="stored">Told how many of how many are stored.</param>
    public static async Task Copy(NpgsqlConnection connection, List<Entity> nodes, Func<int, int, Task>? stored = null, CancellationToken stopped = default)
    {
        connection.Patiently();
        await connection.Run("create temp table coming (id text, body bytea, blobs text) on commit drop");
        await using var writer = await connection.BeginBinaryImportAsync("copy coming (id, body, blobs) from stdin (format binary)", stopped);
        writer.Timeout = TimeSpan.FromSeconds(Transactions.Patience);
        for (var i = 0; i < nodes.Count; i++)
        {
            var row = Of(nodes[i]);
            await writer.StartRowAsync(stopped);
            await writer.WriteAsync(row.Id, NpgsqlDbType.Text, stopped);
            await writer.WriteAsync(row.Body, NpgsqlDbType.Bytea, stopped);
            if (row.Blobs is null)
            {
                await writer.WriteNullAsync(stopped);
            }
            else
            {
                await writer.WriteAsync(row.Blobs, NpgsqlDbType.Text, stopped);
            }

            if (stored is not null && i % 1_000 == 999)
            {
                await stored(i + 1, nodes.Count);
            }
        }

        await writer.CompleteAsync(stopped);
    }

    private static string? BlobsOf(Entity entity)
    {
        var used = string.Join(' ', SceneStore.BlobsOf(entity).Distinct());
        return used.Length == 0 ? null : used;
    }
}
