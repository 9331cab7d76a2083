using System.Diagnostics;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Bench;

/// <summary>Milliseconds that a scene of 2 000 nodes takes to open, with 100 000 steps and with 100, turn by turn.</summary>
internal static class OpeningTimes
{
    public static async Task<double[]> Of(HttpClient http, NpgsqlDataSource source)
    {
        string[] scenes = [await Scenes.Make(http, 2_000), await Scenes.Make(http, 2_000)];
        await Lengthen(http, source, scenes[0], 100_000);
        await Lengthen(http, source, scenes[1], 100);
        var store = new SceneStore(source, new BlobStore(source));
        var times = scenes.Select(_ => new List<double>()).ToArray();
        for (var round = 0; round < 40; round++)
        {
            for (var i = 0; i < 2; i++)
            {
                var clock = Stopwatch.StartNew();
                SceneBinary.Write((await store.Load(scenes[i]))!.Document);
                times[i].Add(clock.Elapsed.TotalMilliseconds);
            }
        }

        return [.. times.Select(t => t.Skip(15).Order().ElementAt(12))];
    }

    /// <summary>Gives a scene so many steps: some are made, the rest are rows like theirs.</summary>
    private static async Task Lengthen(HttpClient http, NpgsqlDataSource source, string id, int steps)
    {
        for (var i = 0; i < 20; i++)
        {
            await Scenes.Send(http, HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000_000, key = Guid.NewGuid(), edits = new[] { new { @do = "move", nodes = new[] { $"n{i}" }, by = Scenes.Way, space = new { kind = "world" } } } });
        }

        await using var more = source.CreateCommand($"""
            with c as (select no, revision from scenes where id = '{id}'),
            k as (select generate_series(1, {steps} - 21) as k),
            s as (
              insert into steps (scene, number, revision, by_person, at, sentence, picked)
              select s.scene, 21 + k, c.revision + k, s.by_person, s.at, s.sentence, s.picked
              from k, c, steps s where s.scene = c.no and s.number = 2 + k % 20),
            l as (
              insert into log (scene, revision, at, act, step, key, request, writes, body)
              select l.scene, c.revision + k, l.at, l.act, 21 + k, gen_random_uuid(), l.request, l.writes, l.body
              from k, c, log l where l.scene = c.no and l.revision = 3 + k % 20)
            update scenes set revision = c.revision + {steps} - 21 from c where scenes.no = c.no;
            """);
        more.CommandTimeout = 0;
        await more.ExecuteNonQueryAsync();
        await using var tidy = source.CreateCommand("vacuum analyze");
        tidy.CommandTimeout = 0;
        await tidy.ExecuteNonQueryAsync();
    }
}
