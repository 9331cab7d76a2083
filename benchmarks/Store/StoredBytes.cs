using Npgsql;

namespace CalmPivot.Bench;

/// <summary>What moving one node, moving ten thousand at once, and one value of one shot take in all rows that are written: their values as stored, and 28 bytes a row for its head.</summary>
internal static class StoredBytes
{
    public static async Task<double[]> Of(HttpClient http, NpgsqlDataSource source) => [await Moving(http, source, 1), await Moving(http, source, 10_000), await Cheating(http, source)];

    private static readonly string[] Moved = ["n1"];

    private static readonly double[] Way = [0.25, 0, 0];

    /// <summary>One node moved along one axis in one shot only.</summary>
    private static async Task<double> Cheating(HttpClient http, NpgsqlDataSource source)
    {
        var id = await Scenes.Make(http, 100);
        await Scenes.Send(http, HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000_000, edits = new[] { new { @do = "shot", shot = new { id = "dome", name = "Dome" } } } });
        await Scenes.Send(
            http,
            HttpMethod.Post,
            $"api/scenes/{id}/edits",
            new { @base = 1_000_000, key = Guid.NewGuid(), shot = "dome", scope = "shot", edits = new[] { new { @do = "move", nodes = Moved, by = Way, space = new { kind = "parent" } } } });
        return await Written(source, id);
    }

    private static async Task<double> Moving(HttpClient http, NpgsqlDataSource source, int count)
    {
        var id = await Scenes.Make(http, 10_000);
        var nodes = Enumerable.Range(0, count).Select(i => $"n{i}").ToArray();
        await Scenes.Send(http, HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000_000, key = Guid.NewGuid(), edits = new[] { new { @do = "move", nodes, by = Scenes.Way, space = new { kind = "world" } } } });
        return await Written(source, id);
    }

    /// <summary>All rows that the last change of a scene wrote.</summary>
    private static async Task<double> Written(NpgsqlDataSource source, string id)
    {
        var sum = 0.0;
        var scene = $"(select no from scenes where id = '{id}')";
        var last = $"(select revision from scenes where id = '{id}')";
        sum += await Sum(source, "scenes", $"id = '{id}'");
        sum += await Sum(source, "nodes", $"scene = {scene} and xmin = (select xmin from log where scene = {scene} and revision = {last})");
        sum += await Sum(source, "steps", $"scene = {scene} and revision = {last}");
        sum += await Sum(source, "log", $"scene = {scene} and revision = {last}");
        return sum;
    }

    private static async Task<double> Sum(NpgsqlDataSource source, string table, string where)
    {
        await using var columns = source.CreateCommand($"select string_agg(format('coalesce(pg_column_size(%I), 0)', column_name), ' + ') from information_schema.columns where table_schema = 'public' and table_name = '{table}'");
        await using var sum = source.CreateCommand($"select coalesce(sum({await columns.ExecuteScalarAsync()} + 28), 0)::float8 from {table} where {where}");
        return (double)(await sum.ExecuteScalarAsync())!;
    }
}
