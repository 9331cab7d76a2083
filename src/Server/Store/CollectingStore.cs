using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>Finds and clears what nobody can ask for any more. Whatever is in use is left, also while others store.</summary>
public sealed class CollectingStore(NpgsqlDataSource source, SceneStore scenes)
{
    private static readonly TimeSpan InBin = TimeSpan.FromDays(30);

    /// <returns>How many scenes are gone for good.</returns>
    public Task<int> EmptyBin() => scenes.Empty(InBin);

    /// <returns>How many keys are known no longer.</returns>
    public async Task<int> ForgetKeys()
    {
        await using var connection = await source.OpenConnectionAsync();
        connection.Patiently();
        await connection.Run("delete from former_answers where at < now() - @kept", ("kept", LogStore.KeysKept));
        return await connection.Run("update log set key = null, request = null where key is not null and at < now() - @kept", ("kept", LogStore.KeysKept));
    }

    /// <summary>Trims the steps of scenes that keep them for some days only, with the log up to them. The last one stays: it is counted on from.</summary>
    /// <returns>The scenes that have lost some.</returns>
    public async Task<List<string>> TrimSteps()
    {
        await using var connection = await source.OpenConnectionAsync();
        connection.Patiently();
        return await connection.Rows(
            """
            with old as (
              select s.scene, max(s.number) as number, max(s.revision) as revision
              from steps s join scenes c on c.no = s.scene
              where c.keep_days is not null and s.at < now() - make_interval(days => c.keep_days)
                and s.number < (select max(number) from steps last where last.scene = s.scene)
              group by s.scene),
            g as (
              update scenes c set log_after = greatest(c.log_after, coalesce(old.revision, 0)) from old where c.no = old.scene
              returning c.no, c.id, old.number, old.revision),
            s as (delete from steps using g where steps.scene = g.no and steps.number <= g.number),
            f as (delete from former_steps using g where former_steps.scene_id = g.id and former_steps.number <= g.number),
            l as (delete from log using g where log.scene = g.no and log.revision <= g.revision)
            select id from g
            """,
            r => r.GetString(0));
    }

    /// <summary>
    /// Collects geometry and pictures that no node and no step that can be taken back or done again has used for some time; before that
    /// they are only noted.
    /// </summary>
    /// <returns>How many are gone.</returns>
    public async Task<int> CollectBlobs(TimeSpan unusedFor)
    {
        await using var connection = await source.OpenConnectionAsync();
        connection.Patiently();
        await connection.Run(
            """
            with used (scene_id, hash) as (
              select c.id, u from nodes n join scenes c on c.no = n.scene, unnest(n.blobs) u where n.blobs is not null
              union
              select c.id, u from log l join scenes c on c.no = l.scene join steps s on s.scene = l.scene and s.number = l.step, unnest(l.blobs) u
              where l.blobs is not null and l.act = 0 and not s.dropped
              union
              select k.scene_id, k.hash from kept_pictures k
              union
              -- What former steps use is not told apart: all of their scene.
              select b.scene_id, b.hash from scene_blobs b join scenes c on c.id = b.scene_id
              where c.form < 3 or exists (select from former_steps f where f.scene_id = b.scene_id))
            update scene_blobs b set unused_since = case when found.used then null else now() end
            from (
              select sb.scene_id, sb.hash, used.hash is not null as used
              from scene_blobs sb left join used on used.scene_id = sb.scene_id and used.hash = sb.hash) found
            where found.scene_id = b.scene_id and found.hash = b.hash and (b.unused_since is null) <> found.used
            """);
        await connection.Run(
            "delete from scene_pictures p using scenes c where p.scene_id = c.id and p.shot <> '' and c.form >= 3 and not exists (select from nodes n where n.scene = c.no and n.id = p.shot)");
        await connection.Run("delete from scene_blobs where unused_since <= now() - @unused", ("unused", unusedFor));
        return await ClearBlobs(connection);
    }

    /// <summary>Clears what no scene has any more.</summary>
    internal static Task<int> ClearBlobs(NpgsqlConnection connection) => connection.Run(
        """
        delete from blobs where hash in (
          select hash from blobs b where not exists (select from scene_blobs s where s.hash = b.hash) for update skip locked)
        """);
}
