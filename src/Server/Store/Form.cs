using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>
/// The form that a scene's rows are in. Rows of a former form are understood when they are read (<see cref="EntityData"/>) and
/// brought to the present one when their scene is loaded; steps of former forms are understood whenever they are read.
/// <list type="number">
/// <item>Collections were nodes with a place that meant nothing.</item>
/// <item>Collections are entities of their own.</item>
/// <item>Rows are packed, and what changes is a row of the log.</item>
/// <item>Materials are entities; before, each node held the surfaces themselves (<see cref="FormerMaterials"/>).</item>
/// </list>
/// </summary>
internal static class Form
{
    public const int Present = 4;

    /// <summary>Brings a scene to the present form. Revisions stay; what was catching up with it begins anew.</summary>
    /// <returns>The scene as it is.</returns>
    public static async Task<List<Entity>> Upgrade(NpgsqlConnection connection, string id, long scene, int form)
    {
        connection.Patiently();
        var former = form < 3 ? await connection.Rows("select body from former_nodes where scene_id = @id", r => r.GetString(0), ("id", id)) : null;
        var all = former is not null ? await MoveOver(connection, id, scene, former) : await SceneStore.EntitiesOf(connection, scene);
        var materials = await FormerMaterials.Of(connection, id, scene, former);
        var grown = FormerMaterials.With(all, materials, out var written);
        await connection.Run("update scenes set form = @form, log_after = revision where no = @scene", ("form", Present), ("scene", scene));
        foreach (var row in written.Select(NodeRow.Of))
        {
            await connection.Run(
                "insert into nodes (scene, id, body, blobs) values (@scene, @id, @body, string_to_array(@blobs, ' ')) on conflict (scene, id) do update set body = excluded.body",
                ("scene", scene),
                ("id", row.Id),
                ("body", row.Body),
                ("blobs", row.Blobs is null ? NpgsqlTypes.NpgsqlDbType.Text : row.Blobs));
        }

        return grown;
    }

    /// <summary>Moves a scene's nodes over and lists its steps; what these did stays where it is.</summary>
    private static async Task<List<Entity>> MoveOver(NpgsqlConnection connection, string id, long scene, List<string> former)
    {
        var all = former.ConvertAll(json => StoreJson.Read<EntityData>(json).Entity);
        await NodeRow.Copy(connection, all);
        await connection.Run("insert into nodes (scene, id, body, blobs) select @scene, id, body, string_to_array(blobs, ' ') from coming", ("scene", scene));
        await connection.Run("drop table coming");
        await connection.Run("delete from former_nodes where scene_id = @id", ("id", id));
        await connection.Run(
            """
            insert into steps (scene, number, by_person, at, sentence, name, undone, dropped, wavered)
            select @scene, number, by_person, at, sentence, f.name, undone, dropped, case when wavered then s.revision end
            from former_steps f join scenes s on s.id = f.scene_id where f.scene_id = @id
            """,
            ("scene", scene),
            ("id", id));
        return all;
    }
}
