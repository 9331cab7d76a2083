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
    private const string NodesFromParameters = "select g.no, u.id, u.body, string_to_array(u.blobs, ' ') from g, unnest(@ids, @bodies, @uses) u (id, body, blobs)";

    private const string NodesFromTable = "select g.no, u.id, u.body, string_to_array(u.blobs, ' ') from g, coming u";

    private static readonly string Sql = Statement(NodesFromParameters);

    private static readonly string SqlAfterCopy = Statement(NodesFromTable);

    /// <param name="copied">The rows of nodes wait in the table "coming" already.</param>
    public static NpgsqlBatchCommand Of(Commit commit, bool copied = false)
    {
        var command = new NpgsqlBatchCommand(copied ? SqlAfterCopy : Sql);
        void Add(string name, NpgsqlDbType type, object? value) => command.Parameters.Add(new(name, type) { Value = value ?? DBNull.Value });
        var change = commit.Change;
        var next = commit.Revision + 1;
        static int InTree(Node? node) => node is not null && node.Kind.IsInTree() ? 1 : 0;
        Add("scene", NpgsqlDbType.Bigint, commit.Scene);
        Add("now", NpgsqlDbType.Bigint, commit.Revision);
        Add("next", NpgsqlDbType.Bigint, next);
        Add("added", NpgsqlDbType.Integer, change.Nodes.Sum(n => InTree(n.After) - InTree(n.Before)));
        Add("name", NpgsqlDbType.Text, commit.Described?.Name);
        Add("unit", NpgsqlDbType.Text, commit.Described?.Unit);
        Add("key", NpgsqlDbType.Uuid, commit.Key);
        Add("request", NpgsqlDbType.Bytea, commit.Request);
        Add("act", NpgsqlDbType.Smallint, (short)commit.Act);
        Add("at", NpgsqlDbType.TimestampTz, commit.Step is { } made && commit.Act == Act.Step ? made.At : DateTimeOffset.UtcNow);
        Add("step", NpgsqlDbType.Bigint, commit.Step?.Number);
        Add("marks", NpgsqlDbType.Array | NpgsqlDbType.Bigint, commit.Marks.Count == 0 ? null : commit.Marks.ToArray());
        var written = PartChange.Of(change);
        Add("writes", NpgsqlDbType.Bytea, Packed.Of(Array.ConvertAll(written, w => new Write(w.Id, w.Parts))));
        Add("body", NpgsqlDbType.Bytea, commit.Described is { } described ? Packed.Of(described) : Packed.Of(written));
        Add("used", NpgsqlDbType.Array | NpgsqlDbType.Text, Used(change));
        Add("removed", NpgsqlDbType.Array | NpgsqlDbType.Text, change.All.Where(n => n.After is null).Select(n => n.Id).ToArray());
        if (!copied)
        {
            var rows = commit.Rows.ConvertAll(NodeRow.Of);
            Add("ids", NpgsqlDbType.Array | NpgsqlDbType.Text, rows.ConvertAll(r => r.Id).ToArray());
            Add("bodies", NpgsqlDbType.Array | NpgsqlDbType.Bytea, rows.ConvertAll(r => r.Body).ToArray());
            Add("uses", NpgsqlDbType.Array | NpgsqlDbType.Text, rows.ConvertAll(r => r.Blobs).ToArray());
        }

        Add("made", NpgsqlDbType.Boolean, commit.Act == Act.Step);
        Add("by", NpgsqlDbType.Text, commit.Step?.By);
        Add("sentence", NpgsqlDbType.Text, commit.Step?.Sentence);
        Add("picked", NpgsqlDbType.Array | NpgsqlDbType.Text, commit.Picked.ToArray());
        Add("undone", NpgsqlDbType.Boolean, commit.Act == Act.Undo);
        var blobs = commit.Blobs.DistinctBy(b => b.Hash).OrderBy(b => b.Hash, StringComparer.Ordinal).ToList();
        Add("blobHashes", NpgsqlDbType.Array | NpgsqlDbType.Text, blobs.ConvertAll(b => b.Hash).ToArray());
        Add("blobTypes", NpgsqlDbType.Array | NpgsqlDbType.Text, blobs.ConvertAll(b => b.MediaType).ToArray());
        Add("blobBytes", NpgsqlDbType.Array | NpgsqlDbType.Bytea, blobs.ConvertAll(b => b.Bytes).ToArray());
        Add("linked", NpgsqlDbType.Array | NpgsqlDbType.Text, commit.Using.SelectMany(SceneStore.BlobsOf).Distinct().Order(StringComparer.Ordinal).ToArray());
        return command;
    }

    /// <summary>What came of it; the reader stands at its row.</summary>
    public static Committed Read(NpgsqlDataReader row) =>
        row.GetInt64(0) > 0 ? new(Outcome.Stored)
        : row.IsDBNull(1) ? new(Outcome.Behind)
        : new(Outcome.Repeated, new(row.GetInt64(1), row.GetFieldValue<byte[]>(2)));

    /// <summary>What the change takes or brings, so that it is not collected while the step can be taken back.</summary>
    private static string[]? Used(Change change)
    {
        var used = change.Nodes.SelectMany(n => new[] { n.Before, n.After }).OfType<Node>().SelectMany(SceneStore.BlobsOf).Distinct().ToArray();
        return used.Length == 0 ? null : used;
    }

    private static string Statement(string nodes) => $"""
        with k as (select revision, request from log where scene = @scene and key = @key limit 1),
        g as (
          update scenes set revision = @next, node_count = node_count + @added, updated_at = now(), name = coalesce(@name, name), unit = coalesce(@unit, unit)
          where no = @scene and revision = @now and removed_at is null and not exists (select from k)
          returning no, id),
        d as (delete from nodes n using g where n.scene = g.no and n.id = any(@removed)),
        n as (
          insert into nodes (scene, id, body, blobs) {nodes}
          on conflict (scene, id) do update set body = excluded.body, blobs = excluded.blobs),
        b as (
          insert into blobs (hash, media_type, bytes)
          select u.* from g, unnest(@blobHashes, @blobTypes, @blobBytes) u on conflict do nothing),
        sb as (
          insert into scene_blobs (scene_id, hash)
          select g.id, h.hash from g, (select unnest(@blobHashes) union select hash from blobs where hash = any(@linked)) h (hash)
          on conflict (scene_id, hash) do update set unused_since = null where scene_blobs.unused_since is not null),
        x as (
          update steps s set dropped = true from g
          where @made and s.scene = g.no and s.by_person = @by and s.undone and not s.dropped),
        m as (
          update steps s set undone = @undone, wavered = @next from g
          where s.scene = g.no and s.number = any(@marks)),
        s as (
          insert into steps (scene, number, revision, by_person, at, sentence, picked)
          select g.no, @step, @next, @by, @at, @sentence, @picked from g where @made),
        l as (
          insert into log (scene, revision, at, act, step, marks, key, request, writes, body, blobs)
          select g.no, @next, @at, @act, @step, @marks, @key, @request, @writes, @body, @used from g)
        select (select count(*) from g), (select revision from k), (select request from k)
        """;
}
