using System.Collections.Concurrent;
using System.Text.RegularExpressions;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using Npgsql;
using NpgsqlTypes;

namespace CalmPivot.Server.Store;

/// <summary>
/// A commit as one statement, so that it takes one way to the database and back. All its parts read from the guard, which finds no
/// row when the scene is at another revision or the key was used: then nothing is written.
/// </summary>
internal static class CommitStatement
{
    /// <summary>What a commit has of all that can be written. Each set of these is a statement of its own, which the database plans once.</summary>
    [Flags]
    private enum With
    {
        Nothing = 0,
        Key = 1,
        Nodes = 2,
        Copied = 4,
        Removed = 8,
        Blobs = 16,
        Step = 32,
        Dropping = 64,
        Marks = 128,
        Described = 256,
        Told = 512,
    }

    private static readonly ConcurrentDictionary<With, string> Statements = new();

    /// <param name="copied">The rows of nodes wait in the table "coming" already.</param>
    /// <param name="server">As whom other servers are told of it in the same moment; null: there are none.</param>
    public static NpgsqlBatchCommand Of(Commit commit, bool copied = false, string? server = null)
    {
        var change = commit.Change;
        var rows = copied ? [] : commit.Rows.ConvertAll(NodeRow.Of);
        var removed = change.All.Where(n => n.After is null).Select(n => n.Id).ToArray();
        var linked = commit.Using.SelectMany(SceneStore.BlobsOf).Distinct().Order(StringComparer.Ordinal).ToArray();
        var with = (commit.Key is null ? 0 : With.Key)
            | (copied ? With.Copied : rows.Count > 0 ? With.Nodes : 0)
            | (removed.Length > 0 ? With.Removed : 0)
            | (linked.Length + commit.Blobs.Count > 0 ? With.Blobs : 0)
            | (commit.Act == Act.Step ? With.Step : 0)
            | (commit.DropsRedo ? With.Dropping : 0)
            | (commit.Marks.Count > 0 ? With.Marks : 0)
            | (commit.Described is null ? 0 : With.Described)
            | (server is null ? 0 : With.Told);
        var command = new NpgsqlBatchCommand();
        var names = new List<string>();
        void Add<T>(string name, NpgsqlDbType type, T value)
        {
            names.Add(name);
            command.Parameters.Add(new NpgsqlParameter<T> { NpgsqlDbType = type, TypedValue = value });
        }

        void Maybe(string name, NpgsqlDbType type, object? value)
        {
            names.Add(name);
            command.Parameters.Add(new() { NpgsqlDbType = type, Value = value ?? DBNull.Value });
        }

        static int InTree(Node? node) => node is not null && node.Kind.IsInTree() ? 1 : 0;
        Add("scene", NpgsqlDbType.Bigint, commit.Scene);
        Add("now", NpgsqlDbType.Bigint, commit.Revision);
        Add("added", NpgsqlDbType.Integer, change.Nodes.Sum(n => InTree(n.After) - InTree(n.Before)));
        Add("act", NpgsqlDbType.Smallint, (short)commit.Act);
        Add("at", NpgsqlDbType.TimestampTz, commit.Act == Act.Step ? commit.Step!.At : DateTimeOffset.UtcNow);
        Maybe("step", NpgsqlDbType.Bigint, commit.Step?.Number);
        Maybe("marks", NpgsqlDbType.Array | NpgsqlDbType.Bigint, commit.Marks.Count == 0 ? null : commit.Marks.ToArray());
        Maybe("key", NpgsqlDbType.Uuid, commit.Key);
        Maybe("request", NpgsqlDbType.Bytea, commit.Request);
        var written = PartChange.Of(change);
        Add("writes", NpgsqlDbType.Bytea, Packed.Of(Array.ConvertAll(written, w => new Write(w.Id, w.Parts))));
        Add("body", NpgsqlDbType.Bytea, commit.Described is { } described ? Packed.Of(described) : Packed.Of(written));
        Maybe("used", NpgsqlDbType.Array | NpgsqlDbType.Text, Used(change));
        if ((with & With.Described) != 0)
        {
            Add("name", NpgsqlDbType.Text, commit.Described!.Name);
            Add("unit", NpgsqlDbType.Text, commit.Described.Unit);
        }

        if ((with & With.Told) != 0)
        {
            Add("server", NpgsqlDbType.Text, server!);
        }

        if ((with & With.Nodes) != 0)
        {
            Add("ids", NpgsqlDbType.Array | NpgsqlDbType.Text, rows.ConvertAll(r => r.Id).ToArray());
            Add("bodies", NpgsqlDbType.Array | NpgsqlDbType.Bytea, rows.ConvertAll(r => r.Body).ToArray());
            Add("uses", NpgsqlDbType.Array | NpgsqlDbType.Text, rows.ConvertAll(r => r.Blobs).ToArray());
        }

        if ((with & With.Removed) != 0)
        {
            Add("removed", NpgsqlDbType.Array | NpgsqlDbType.Text, removed);
        }

        if ((with & (With.Step | With.Dropping)) != 0)
        {
            Add("by", NpgsqlDbType.Text, commit.Step!.By);
        }

        if ((with & With.Step) != 0)
        {
            Add("sentence", NpgsqlDbType.Text, commit.Step!.Sentence);
            Add("picked", NpgsqlDbType.Array | NpgsqlDbType.Text, commit.Picked.ToArray());
        }

        if ((with & With.Blobs) != 0)
        {
            var blobs = commit.Blobs.DistinctBy(b => b.Hash).OrderBy(b => b.Hash, StringComparer.Ordinal).ToList();
            Add("blobHashes", NpgsqlDbType.Array | NpgsqlDbType.Text, blobs.ConvertAll(b => b.Hash).ToArray());
            Add("blobTypes", NpgsqlDbType.Array | NpgsqlDbType.Text, blobs.ConvertAll(b => b.MediaType).ToArray());
            Add("blobBytes", NpgsqlDbType.Array | NpgsqlDbType.Bytea, blobs.ConvertAll(b => b.Bytes).ToArray());
            Add("linked", NpgsqlDbType.Array | NpgsqlDbType.Text, linked);
        }

        command.CommandText = Statements.GetOrAdd(with, (what, those) => Numbered(Statement(what), those), names);
        return command;
    }

    /// <summary>With the parameters by number, as the database takes them: names would be looked for in the text each time.</summary>
    private static string Numbered(string sql, List<string> names) => Regex.Replace(sql, "@([a-zA-Z]+)", name => $"${names.IndexOf(name.Groups[1].Value) + 1}");

    /// <summary>What came of it; the reader stands at its row.</summary>
    public static Committed Read(NpgsqlDataReader row) =>
        row.GetInt64(0) > 0 ? new(Outcome.Stored)
        : row.IsDBNull(1) ? new(Outcome.Behind)
        : new(Outcome.Repeated, new(row.GetInt64(1), row.GetFieldValue<byte[]>(2)));

    /// <summary>What the change takes or brings, so that it is not collected while the step can be taken back.</summary>
    private static string[]? Used(Change change)
    {
        var used = change.All.SelectMany(n => new[] { n.Before, n.After }).OfType<Entity>().SelectMany(SceneStore.BlobsOf).Distinct().ToArray();
        return used.Length == 0 ? null : used;
    }

    /// <summary>Everything is found by whole keys, joined to what is sent: a plan for few rows is then one for many, too.</summary>
    private static string Statement(With with)
    {
        bool Has(With what) => (with & what) != 0;
        List<string> parts =
        [
            $"""
            g as (
              update scenes set revision = @now + 1, node_count = node_count + @added, updated_at = now(){(Has(With.Described) ? ", name = @name, unit = @unit" : "")}
              where no = @scene and revision = @now and removed_at is null{(Has(With.Key) ? " and not exists (select from k)" : "")}
              returning no, id)
            """,
        ];
        if (Has(With.Key))
        {
            parts.Insert(0, "k as (select revision, request from log where scene = @scene and key = @key limit 1)");
        }

        if (Has(With.Removed))
        {
            parts.Add("d as (delete from nodes n using g, unnest(@removed) r where n.scene = @scene and n.id = r)");
        }

        if (Has(With.Nodes | With.Copied))
        {
            parts.Add($"""
                n as (
                  insert into nodes (scene, id, body, blobs)
                  select g.no, u.id, u.body, string_to_array(u.blobs, ' ') from g, {(Has(With.Copied) ? "coming u" : "unnest(@ids, @bodies, @uses) u (id, body, blobs)")}
                  on conflict (scene, id) do update set body = excluded.body, blobs = excluded.blobs)
                """);
        }

        if (Has(With.Blobs))
        {
            parts.Add("""
                b as (
                  insert into blobs (hash, media_type, bytes)
                  select u.* from g, unnest(@blobHashes, @blobTypes, @blobBytes) u on conflict do nothing),
                sb as (
                  insert into scene_blobs (scene_id, hash)
                  select g.id, h.hash from g, (select unnest(@blobHashes) union select b.hash from unnest(@linked) l join blobs b on b.hash = l) h (hash)
                  on conflict (scene_id, hash) do update set unused_since = null where scene_blobs.unused_since is not null)
                """);
        }

        if (Has(With.Dropping))
        {
            parts.Add("x as (update steps s set dropped = true from g where s.scene = @scene and s.by_person = @by and s.undone and not s.dropped)");
        }

        if (Has(With.Marks))
        {
            parts.Add("m as (update steps s set undone = @act = 1, wavered = @now + 1 from g, unnest(@marks) m where s.scene = @scene and s.number = m)");
        }

        if (Has(With.Step))
        {
            parts.Add("""
                s as (
                  insert into steps (scene, number, revision, by_person, at, sentence, picked)
                  select g.no, @step, @now + 1, @by, @at, @sentence, @picked from g)
                """);
        }

        parts.Add("""
            l as (
              insert into log (scene, revision, at, act, step, marks, key, request, writes, body, blobs)
              select g.no, @now + 1, @at, @act, @step, @marks, @key, @request, @writes, @body, @used from g)
            """);
        var first = Has(With.Key) ? "(select revision from k), (select request from k)" : "null::bigint, null::bytea";
        var told = Has(With.Told) ? $", (select count(pg_notify('{Company.Steps}', @server || ' ' || g.id || ' ' || @now + 1)) from g)" : "";
        return $"with {string.Join(",\n", parts)}\nselect (select count(*) from g), {first}{told}";
    }
}
