using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using Npgsql;
using NpgsqlTypes;

namespace CalmPivot.Server.Store;

/// <summary>A row a node or entity: written by its id, whether it is new or was there.</summary>
internal static class NodeRows
{
    /// <summary>More nodes are sent by COPY instead of as parameters.</summary>
    private const int MostInParameters = 2_000;

    /// <param name="stored">Told how many of how many are stored.</param>
    public static async Task Write(
        NpgsqlConnection connection, string scene, long revision, List<Entity> nodes, Func<int, int, Task>? stored = null, CancellationToken stopped = default)
    {
        if (nodes.Count == 0)
        {
            return;
        }

        if (nodes.Count > MostInParameters)
        {
            await Copy(connection, scene, revision, nodes, stored, stopped);
            return;
        }

        await connection.Run(
            """
            insert into nodes (scene_id, id, revision, body)
            select @scene, id, @revision, body::json from unnest(@ids, @bodies) as n (id, body)
            on conflict (scene_id, id) do update set revision = excluded.revision, body = excluded.body
            """,
            ("scene", scene),
            ("revision", revision),
            ("ids", nodes.Select(n => n.Id).ToArray()),
            ("bodies", nodes.Select(n => StoreJson.Write(new EntityData(n))).ToArray()));
    }

    /// <summary>Writes rows anew that are there, at the revision that they have.</summary>
    public static Task Rewrite(NpgsqlConnection connection, string scene, List<Entity> rows) => connection.Run(
        "update nodes set body = n.body::json from unnest(@ids, @bodies) as n (id, body) where nodes.scene_id = @scene and nodes.id = n.id",
        ("scene", scene),
        ("ids", rows.Select(n => n.Id).ToArray()),
        ("bodies", rows.Select(n => StoreJson.Write(new EntityData(n))).ToArray()));

    /// <summary>Many nodes, one after the other over the wire, so that never all of them are texts at once.</summary>
    private static async Task Copy(
        NpgsqlConnection connection, string scene, long revision, List<Entity> nodes, Func<int, int, Task>? stored, CancellationToken stopped)
    {
        await connection.Run("create temp table coming (id text, body json) on commit drop");
        await using (var writer = await connection.BeginBinaryImportAsync("copy coming (id, body) from stdin (format binary)", stopped))
        {
            writer.Timeout = TimeSpan.Zero;
            for (var i = 0; i < nodes.Count; i++)
            {
                await writer.StartRowAsync(stopped);
                await writer.WriteAsync(nodes[i].Id, NpgsqlDbType.Text, stopped);
                await writer.WriteAsync(StoreJson.Write(new EntityData(nodes[i])), NpgsqlDbType.Json, stopped);
                if (stored is not null && i % 1_000 == 999)
                {
                    await stored(i + 1, nodes.Count);
                }
            }

            await writer.CompleteAsync(stopped);
        }

        await connection.Run(
            """
            insert into nodes (scene_id, id, revision, body)
            select @scene, id, @revision, body from coming
            on conflict (scene_id, id) do update set revision = excluded.revision, body = excluded.body
            """,
            ("scene", scene),
            ("revision", revision));
        await connection.Run("drop table coming");
    }
}
