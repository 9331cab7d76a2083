using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A selection that was given a name; its last node was the lead.</summary>
public sealed record NamedSelection(string Name, string[] Nodes);

/// <summary>Named selections of scenes. Nodes that are gone stay named, since an undo may bring them back.</summary>
public sealed class SelectionStore(NpgsqlDataSource source)
{
    public async Task<List<NamedSelection>> List(string scene)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            "select name, nodes from selections where scene_id = @scene order by name",
            r => new NamedSelection(r.GetString(0), r.GetFieldValue<string[]>(1)),
            ("scene", scene));
    }

    public async Task Write(string scene, NamedSelection selection)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            """
            insert into selections (scene_id, name, nodes) values (@scene, @name, @nodes)
            on conflict (scene_id, name) do update set nodes = excluded.nodes
            """,
            ("scene", scene),
            ("name", selection.Name),
            ("nodes", selection.Nodes));
    }

    public async Task<bool> Remove(string scene, string name)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run("delete from selections where scene_id = @scene and name = @name", ("scene", scene), ("name", name)) > 0;
    }
}
