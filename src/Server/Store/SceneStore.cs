using System.Text.Json;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Scenes;
using Npgsql;
using Json = CalmPivot.Server.Store.Transactions.Json;

namespace CalmPivot.Server.Store;

/// <summary>A line of the list of scenes.</summary>
/// <param name="Mine">Whether the caller made its last step; null: it has none yet.</param>
/// <param name="Picture">The revision that its picture shows; null: there is none.</param>
public sealed record SceneSummary(string Id, string Name, long Revision, int NodeCount, DateTimeOffset UpdatedAt, string Unit, bool? Mine, long? Picture);

/// <summary>A scene as loaded: the document, its history, and when each node or entity was last written.</summary>
public sealed record LoadedScene(SceneDocument Document, SceneHistory History, Dictionary<string, long> NodeRevisions);

/// <summary>Scenes in PostgreSQL. A change writes the nodes it changed and one row of history, never the whole scene.</summary>
public sealed class SceneStore(NpgsqlDataSource source, BlobStore blobs)
{
    /// <summary>Whether the database can be reached and written.</summary>
    public async Task<bool> IsAlive()
    {
        try
        {
            await using var connection = await source.OpenConnectionAsync();
            return await connection.Run("update pulse set at = now()") == 1;
        }
        catch (NpgsqlException)
        {
            return false;
        }
    }

    /// <param name="person">Who asks.</param>
    public async Task<List<SceneSummary>> List(string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            """
            select s.id, s.name, s.revision, s.node_count, s.updated_at, s.unit,
              (select by_person = @person from steps where scene_id = s.id order by number desc limit 1),
              p.revision
            from scenes s left join scene_pictures p on p.scene_id = s.id
            order by s.updated_at desc, s.id
            """,
            r => new SceneSummary(
                r.GetString(0),
                r.GetString(1),
                r.GetInt64(2),
                r.GetInt32(3),
                r.GetFieldValue<DateTimeOffset>(4),
                r.GetString(5),
                r.IsDBNull(6) ? null : r.GetBoolean(6),
                r.IsDBNull(7) ? null : r.GetInt64(7)),
            ("person", person));
    }

    public async Task<LoadedScene?> Load(string id)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        var head = await connection.Rows(
            "select name, unit, revision, form from scenes where id = @id",
            r => (Name: r.GetString(0), Unit: r.GetString(1), Revision: r.GetInt64(2), Form: r.GetInt32(3)),
            ("id", id));
        if (head.Count == 0)
        {
            return null;
        }

        var rows = await connection.Rows(
            "select body, revision from nodes where scene_id = @id",
            r => (StoreJson.Read<EntityData>(r.GetString(0)).Entity, Revision: r.GetInt64(1)),
            ("id", id));
        var steps = await connection.Rows(
            "select number, sentence, by_person, at, writes, undone, dropped, name, wavered from steps where scene_id = @id order by number",
            r => new Step(
                r.GetInt64(0),
                r.GetString(1),
                r.GetString(2),
                r.GetFieldValue<DateTimeOffset>(3),
                StoreJson.Read<Write[]>(r.GetString(4)))
            {
                Undone = r.GetBoolean(5),
                Dropped = r.GetBoolean(6),
                Name = r.IsDBNull(7) ? null : r.GetString(7),
                Wavered = r.GetBoolean(8),
            },
            ("id", id));
        var (name, unit, revision, form) = head[0];
        if (form < Form.Present)
        {
            try
            {
                await Form.Upgrade(connection, id, revision, [.. rows.Select(r => r.Entity)]);
                await transaction.CommitAsync();
            }
            catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.SerializationFailure)
            {
                // Another server brings it to the present form at this moment; what was read is understood all the same.
            }
        }

        var document = new SceneDocument(id, name, unit, revision, rows.Select(r => r.Entity), blobs.Of(id));
        return new(document, new SceneHistory(steps), rows.ToDictionary(r => r.Entity.Id, r => r.Revision));
    }

    /// <summary>What a step did, and which nodes it was about.</summary>
    public async Task<(Change Change, IReadOnlyList<string> Picked)> StepOf(string scene, long number)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select change, edits from steps where scene_id = @scene and number = @number",
            r => (
                StoredChange.ToChange(StoreJson.Read<StoredChange[]>(r.GetString(0))),
                PickedBy(StoreJson.Read<Edit[]>(r.GetString(1)))),
            ("scene", scene),
            ("number", number));
        return rows.Single();
    }

    /// <summary>What a step did to some nodes.</summary>
    public async Task<Change> ChangeOf(string scene, long number, string[] nodes)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            """
            select c from steps, json_array_elements(change) c
            where scene_id = @scene and number = @number and coalesce(c -> 'before' ->> 'id', c -> 'after' ->> 'id') = any(@nodes)
            """,
            r => StoreJson.Read<StoredChange>(r.GetString(0)),
            ("scene", scene),
            ("number", number),
            ("nodes", nodes));
        return StoredChange.ToChange([.. rows]);
    }

    internal static IReadOnlyList<string> PickedBy(IEnumerable<Edit> edits) => [.. edits.SelectMany(e => e.Picked).Distinct()];

    /// <summary>Stores a new scene with its nodes.</summary>
    /// <param name="stored">Told how many of how many nodes are stored.</param>
    public async Task Create(SceneDocument scene, IReadOnlyList<Blob> withBlobs, Func<int, int, Task>? stored = null, CancellationToken stopped = default)
    {
        await using var connection = await source.OpenConnectionAsync(stopped);
        await using var transaction = await connection.BeginTransactionAsync(stopped);
        await connection.Run(
            "insert into scenes (id, name, unit, revision, node_count, form) values (@id, @name, @unit, @revision, @count, @form)",
            ("id", scene.Id),
            ("name", scene.Name),
            ("unit", scene.Unit),
            ("revision", scene.Revision),
            ("count", scene.Nodes.Count(n => n.Kind.IsInTree())),
            ("form", Form.Present));
        await BlobStore.Write(connection, scene.Id, withBlobs);
        await LinkBlobs(connection, scene.Id, scene.Nodes);
        await NodeRows.Write(connection, scene.Id, scene.Revision, [.. scene.Nodes, .. scene.Entities], stored, stopped);
        await transaction.CommitAsync(stopped);
    }

    public async Task<bool> Delete(string id)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var deleted = await connection.Run("delete from scenes where id = @id", ("id", id)) > 0;
        await connection.Run("delete from blobs where not exists (select from scene_blobs s where s.hash = blobs.hash)");
        await transaction.CommitAsync();
        return deleted;
    }

    /// <summary>Stores a scene's name and unit, and counts its revision on.</summary>
    /// <exception cref="BehindException">It is at another revision than the caller has seen.</exception>
    public async Task Describe(string id, string name, string unit, long seen)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Run(
            "update scenes set name = @name, unit = @unit, revision = revision + 1, updated_at = now() where id = @id and revision = @seen",
            ("id", id),
            ("name", name),
            ("unit", unit),
            ("seen", seen));
        if (rows != 1)
        {
            throw new BehindException();
        }
    }

    public async Task NameStep(string scene, long number, string? name)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            "update steps set name = @name where scene_id = @scene and number = @number",
            ("scene", scene),
            ("number", number),
            ("name", name is null ? DBNull.Value : name));
    }

    /// <summary>Forgets answers that nobody will ask for again: a page that left calls behind delivers them when it is next opened.</summary>
    public async Task ForgetOldAnswers()
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run("delete from answers where at < now() - interval '90 days'");
    }

    public async Task<KeyedAnswer?> AnswerTo(string scene, Guid key)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows(
            "select request_hash, answer from answers where scene_id = @scene and key = @key",
            r => new KeyedAnswer(key, r.GetFieldValue<byte[]>(0), r.GetString(1)),
            ("scene", scene),
            ("key", key));
        return rows.FirstOrDefault();
    }

    /// <summary>Writes a change, its step and its answer, all or nothing.</summary>
    /// <exception cref="BehindException">Nothing was stored: the scene is at another revision.</exception>
    /// <exception cref="NotKnownException">The database was lost while it stored this: it may have, or not.</exception>
    /// <exception cref="NpgsqlException">Nothing was stored.</exception>
    public async Task Write(Commit commit)
    {
        var (scene, change) = (commit.Scene, commit.Change);
        var next = scene.Revision + 1;
        var after = change.All.Select(n => n.After).OfType<Entity>().ToList();
        var removed = change.All.Where(n => n.After is null).Select(n => n.Id).ToArray();
        static int InTree(Node? node) => node is not null && node.Kind.IsInTree() ? 1 : 0;
        var added = change.Nodes.Sum(n => InTree(n.After) - InTree(n.Before));
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var rows = await connection.Run(
            "update scenes set revision = @next, node_count = node_count + @added, updated_at = now() where id = @id and revision = @now",
            ("id", scene.Id),
            ("now", scene.Revision),
            ("next", next),
            ("added", added));
        if (rows != 1)
        {
            throw new BehindException();
        }

        await BlobStore.Write(connection, scene.Id, commit.Blobs);
        await LinkBlobs(connection, scene.Id, change.Nodes.Where(n => n.After is not null && (n.Before is null || n.After.Geometry != n.Before.Geometry)).Select(n => n.After!));
        if (removed.Length > 0)
        {
            await connection.Run("delete from nodes where scene_id = @scene and id = any(@ids)", ("scene", scene.Id), ("ids", removed));
        }

        await NodeRows.Write(connection, scene.Id, next, after, commit.Stored, commit.Stopped);
        await WriteHistory(connection, commit);
        try
        {
            await transaction.CommitAsync();
        }
        catch (NpgsqlException e) when (e is not PostgresException)
        {
            throw new NotKnownException(e);
        }
    }

    private static async Task WriteHistory(NpgsqlConnection connection, Commit commit)
    {
        var id = commit.Scene.Id;
        if (commit.Step is { } step)
        {
            await connection.Run(
                """
                insert into steps (scene_id, number, by_person, at, sentence, edits, writes, change)
                values (@scene, @number, @by, @at, @sentence, @edits, @writes, @change)
                """,
                ("scene", id),
                ("number", step.Step.Number),
                ("by", step.Step.By),
                ("at", step.Step.At),
                ("sentence", step.Step.Sentence),
                ("edits", new Json(StoreJson.Write<Edit[]>([.. step.Edits]))),
                ("writes", new Json(StoreJson.Write<Write[]>([.. step.Step.Writes]))),
                ("change", new Json(StoreJson.Write(StoredChange.From(commit.Change)))));
            if (step.Drops.Count > 0)
            {
                await connection.Run(
                    "update steps set dropped = true where scene_id = @scene and number = any(@numbers)",
                    ("scene", id),
                    ("numbers", step.Drops.ToArray()));
            }
        }

        foreach (var (number, undone) in commit.Undone)
        {
            await connection.Run(
                "update steps set undone = @undone, wavered = wavered or @undone where scene_id = @scene and number = @number",
                ("scene", id),
                ("number", number),
                ("undone", undone));
        }

        if (commit.Answer is { } answer)
        {
            await connection.Run(
                "insert into answers (scene_id, key, request_hash, answer) values (@scene, @key, @hash, @answer)",
                ("scene", id),
                ("key", answer.Key),
                ("hash", answer.RequestHash),
                ("answer", new Json(answer.Json)));
        }
    }

    /// <summary>The first of some nodes whose geometry or pictures the scene no longer has.</summary>
    public async Task<Node?> Missing(string scene, IReadOnlyList<Node> nodes)
    {
        var wanted = nodes.SelectMany(BlobsOf).Distinct().ToArray();
        if (wanted.Length == 0)
        {
            return null;
        }

        await using var connection = await source.OpenConnectionAsync();
        var present = await connection.Rows(
            "select hash from scene_blobs where scene_id = @scene and hash = any(@hashes)",
            r => r.GetString(0),
            ("scene", scene),
            ("hashes", wanted));
        var known = present.ToHashSet();
        return nodes.FirstOrDefault(n => BlobsOf(n).Any(h => !known.Contains(h)));
    }

    internal static IEnumerable<string> BlobsOf(Node node) =>
        node.Materials.SelectMany(m => m.Textures.Select(t => t.Image)).Concat(node.Geometry is { } hash ? [hash] : []);

    private static async Task LinkBlobs(NpgsqlConnection connection, string scene, IEnumerable<Node> nodes)
    {
        var hashes = nodes.SelectMany(BlobsOf).Distinct().ToArray();
        if (hashes.Length > 0)
        {
            await connection.Run(
                """
                insert into scene_blobs (scene_id, hash)
                select @scene, hash from blobs where hash = any(@hashes) on conflict do nothing
                """,
                ("scene", scene),
                ("hashes", hashes));
        }
    }
}
