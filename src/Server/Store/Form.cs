using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>
/// The form that a scene's rows are in. Rows of a former form are understood when they are read (<see cref="EntityData"/>) and
/// brought to the present one when their scene is loaded; steps of former forms are understood whenever they are read.
/// <list type="number">
/// <item>Collections were nodes with a place that meant nothing.</item>
/// <item>Collections are entities of their own.</item>
/// </list>
/// </summary>
internal static class Form
{
    public const int Present = 2;

    /// <summary>Writes anew what is written otherwise in the present form; revisions stay.</summary>
    public static async Task Upgrade(NpgsqlConnection connection, string scene, long revision, List<Entity> all)
    {
        await NodeRows.Rewrite(connection, scene, [.. all.OfType<Collection>()]);
        await connection.Run("update scenes set form = @form where id = @scene and revision = @revision", ("form", Present), ("scene", scene), ("revision", revision));
    }
}
