using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>A line of the list of scenes.</summary>
/// <param name="Mine">Whether the caller made its last step; null: it has none yet.</param>
/// <param name="Picture">The revision that its picture shows; null: there is none.</param>
/// <param name="KeepSteps">For so many days its steps are kept; null: for good.</param>
public sealed record SceneSummary(string Id, string Name, long Revision, int NodeCount, DateTimeOffset UpdatedAt, string Unit, bool? Mine, long? Picture, int? KeepSteps);

/// <summary>A scene in the bin.</summary>
/// <param name="Mine">Whether it was removed by who asks, who alone may remove it for good.</param>
public sealed record RemovedScene(string Id, string Name, int NodeCount, DateTimeOffset RemovedAt, bool Mine);

/// <summary>A scene as loaded: the number of its rows, the document, its latest steps, and how long steps are kept.</summary>
/// <param name="LogAfter">The log holds what came after this revision.</param>
/// <param name="FormerKeys">The keys of calls that a former version answered.</param>
/// <param name="LatestSteps">So many steps are kept in memory, at least.</param>
public sealed record LoadedScene(long Number, SceneDocument Document, SceneHistory History, long LogAfter, int? KeepDays, HashSet<Guid> FormerKeys, int LatestSteps);

/// <summary>Scenes in PostgreSQL: listed, opened, made, put into the bin and brought back. What changes in one goes through <see cref="CommitLine"/>.</summary>
public sealed class SceneStore(NpgsqlDataSource source, BlobStore blobs)
{
    /// <summary>So many of the latest steps are read when a scene is opened; older ones when they are needed.</summary>
    public int LatestSteps { get; init; } = 300;

    /// <param name="person">Who asks.</param>
    public async Task<List<SceneSummary>> List(string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            """
            select s.id, s.name, s.revision, s.node_count, s.updated_at, s.unit,
              case when s.form < 3 then (select by_person = @person from former_steps where scene_id = s.id order by number desc limit 1)
              else (select by_person = @person from steps where scene = s.no order by number desc limit 1) end,
              p.revision, s.keep_days
            from scenes s left join scene_pictures p on p.scene_id = s.id and p.shot = ''
            where s.removed_at is null
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
                r.IsDBNull(7) ? null : r.GetInt64(7),
                r.IsDBNull(8) ? null : r.GetInt32(8)),
            ("person", person));
    }

    /// <returns>Null: there is none, or it is in the bin.</returns>
    public async Task<LoadedScene?> Load(string id)
    {
        while (true)
        {
            try
            {
                return await LoadOnce(id);
            }
            catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.SerializationFailure)
            {
                // Another server brings it to the present form at this moment.
            }
        }
    }

    private async Task<LoadedScene?> LoadOnce(string id)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        var heads = await connection.Rows(
            "select no, name, unit, revision, form, log_after, keep_days from scenes where id = @id and removed_at is null",
            r => (
                Number: r.GetInt64(0),
                Name: r.GetString(1),
                Unit: r.GetString(2),
                Revision: r.GetInt64(3),
                Form: r.GetInt32(4),
                After: r.GetInt64(5),
                Keep: r.IsDBNull(6) ? (int?)null : r.GetInt32(6)),
            ("id", id));
        if (heads is not [var head])
        {
            return null;
        }

        var former = head.Form < Form.Present;
        var rows = former
            ? await Form.Upgrade(connection, id, head.Number, head.Form)
            : await EntitiesOf(connection, head.Number);
        var steps = await StepStore.LatestOf(connection, id, head.Number, LatestSteps + 1);
        var older = steps.Count > LatestSteps;
        var keys = await connection.Rows("select key from former_answers where scene_id = @id", r => r.GetGuid(0), ("id", id));
        await transaction.CommitAsync();
        var document = new SceneDocument(id, head.Name, head.Unit, head.Revision, rows, blobs.Of(id));
        return new(head.Number, document, new SceneHistory(older ? steps.Skip(1) : steps, older), former ? head.Revision : head.After, head.Keep, [.. keys], LatestSteps);
    }

    /// <summary>The revisions that scenes stand at; of one that is gone or in the bin nothing.</summary>
    public async Task<Dictionary<string, long>> Revisions(IReadOnlyCollection<string> ids, CancellationToken stopped = default)
    {
        await using var connection = await source.OpenConnectionAsync(stopped);
        await using var command = connection.Sql("select id, revision from scenes where id = any(@ids) and removed_at is null", ("ids", ids.ToArray()));
        await using var reader = await command.ExecuteReaderAsync(stopped);
        var revisions = new Dictionary<string, long>();
        while (await reader.ReadAsync(stopped))
        {
            revisions[reader.GetString(0)] = reader.GetInt64(1);
        }

        return revisions;
    }

    internal static Task<List<Entity>> EntitiesOf(NpgsqlConnection connection, long scene) =>
        connection.Rows("select body from nodes where scene = @scene", r => Packed.As<EntityData>(r.GetFieldValue<byte[]>(0)).Entity, ("scene", scene));

    /// <summary>Stores a new scene with its nodes.</summary>
    /// <param name="stored">Told how many of how many nodes are stored.</param>
    public async Task Create(SceneDocument scene, IReadOnlyList<Blob> withBlobs, Func<int, int, Task>? stored = null, CancellationToken stopped = default)
    {
        ArgumentNullException.ThrowIfNull(scene);
        await using var connection = await source.OpenConnectionAsync(stopped);
        await using var transaction = await connection.BeginTransactionAsync(stopped);
        var numbers = await connection.Rows(
            "insert into scenes (id, name, unit, revision, node_count, form, log_after) values (@id, @name, @unit, @revision, @count, @form, @revision) returning no",
            r => r.GetInt64(0),
            ("id", scene.Id),
            ("name", scene.Name),
            ("unit", scene.Unit),
            ("revision", scene.Revision),
            ("count", scene.Nodes.Count(n => n.Kind.IsInTree())),
            ("form", Form.Present));
        await BlobStore.Write(connection, withBlobs, stopped);
        await connection.Run(
            "insert into scene_blobs (scene_id, hash) select @scene, hash from blobs where hash = any(@hashes) on conflict do nothing",
            ("scene", scene.Id),
            ("hashes", withBlobs.Select(b => b.Hash).Concat(scene.Everything.SelectMany(BlobsOf)).Distinct().ToArray()));
        await NodeRow.Copy(connection, [.. scene.Everything], stored, stopped);
        await connection.Run("insert into nodes (scene, id, body, blobs) select @scene, id, body, string_to_array(blobs, ' ') from coming", ("scene", numbers[0]));

        // From here on it is not stopped any more: whoever is told that it was must be right.
        stopped.ThrowIfCancellationRequested();
        await transaction.CommitAsync(CancellationToken.None);
    }

    /// <summary>Puts a scene into the bin.</summary>
    public async Task<bool> Remove(string id, string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run("update scenes set removed_at = now(), removed_by = @person where id = @id and removed_at is null", ("id", id), ("person", person)) > 0;
    }

    /// <summary>What lies in the bin, the latest first.</summary>
    /// <param name="person">Who asks.</param>
    public async Task<List<RemovedScene>> Bin(string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Rows(
            "select id, name, node_count, removed_at, removed_by is not distinct from @person from scenes where removed_at is not null order by removed_at desc, id",
            r => new RemovedScene(r.GetString(0), r.GetString(1), r.GetInt32(2), r.GetFieldValue<DateTimeOffset>(3), r.GetBoolean(4)),
            ("person", person));
    }

    /// <summary>Brings a scene back from the bin.</summary>
    public async Task<bool> BringBack(string id)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run("update scenes set removed_at = null, removed_by = null, updated_at = now() where id = @id and removed_at is not null", ("id", id)) > 0;
    }

    /// <summary>Removes for good what a person has put into the bin: one scene, or all.</summary>
    /// <returns>How many these were.</returns>
    public async Task<int> Empty(string person, string? id = null)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Patiently().Run(
            "delete from scenes where removed_at is not null and removed_by = @person and (@id is null or id = @id)",
            ("person", person),
            ("id", id is null ? NpgsqlTypes.NpgsqlDbType.Text : id));
    }

    /// <summary>Removes for good what has lain in the bin for some time, whoever put it there.</summary>
    /// <returns>How many these were.</returns>
    public async Task<int> Empty(TimeSpan after)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Patiently().Run("delete from scenes where removed_at <= now() - @after", ("after", after));
    }

    /// <summary>For how many days a scene's steps are kept; null: for good.</summary>
    public async Task Keep(long scene, int? days)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run("update scenes set keep_days = @days where no = @scene", ("scene", scene), ("days", days is null ? NpgsqlTypes.NpgsqlDbType.Integer : days));
    }

    /// <summary>
    /// The first of some things that uses geometry or a picture that their scene does not have: what another scene has counts for nothing, nor what is of the other kind.
    /// </summary>
    /// <param name="coming">What is stored with them.</param>
    public async Task<Entity?> Missing(string scene, IReadOnlyList<Entity> some, IReadOnlyList<Blob> coming)
    {
        if (FirstWithout(some, coming) is null)
        {
            return null;
        }

        await using var connection = await source.OpenConnectionAsync();
        var there = await connection.Rows(
            "select b.hash, b.media_type from scene_blobs s join blobs b using (hash) where s.scene_id = @scene and s.hash = any(@hashes)",
            r => new Blob(r.GetString(0), r.GetString(1), []),
            ("scene", scene),
            ("hashes", some.SelectMany(BlobsOf).Distinct().ToArray()));
        return FirstWithout(some, [.. coming, .. there]);
    }

    /// <summary>The first of some things that uses geometry or a picture that is not among those that are there.</summary>
    internal static Entity? FirstWithout(IReadOnlyList<Entity> some, IReadOnlyList<Blob> there)
    {
        var known = there.Select(blob => (blob.Hash, blob.MediaType == BlobStore.GeometryType)).ToHashSet();
        return some.FirstOrDefault(thing => BlobsOf(thing).Any(hash => !known.Contains((hash, thing is Node))));
    }

    /// <summary>The geometry or the pictures that something uses.</summary>
    internal static IEnumerable<string> BlobsOf(Entity entity) => entity switch
    {
        Node { Geometry: { } hash } => [hash],
        Material material => material.Surface.Textures.Select(t => t.Image),
        Surroundings { Picture: { } hash } => [hash],
        Cheat { Channel: CheatChannel.OfSurroundings } cheat when Surroundings.Of(cheat)?.Picture is { } hash => [hash],
        _ => [],
    };
}
