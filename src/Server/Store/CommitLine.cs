using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>
/// Where commits wait for the database. Those that wait at the same moment travel together, in one transaction and one way there and
/// back; each is of another scene, since a scene has one at a time. Where one of them fails, each goes by itself.
/// </summary>
public sealed class CommitLine(NpgsqlDataSource source, Company? company = null)
{
    private const int MostTogether = 16;

    /// <summary>So that the next set out while those before are being written to the disk.</summary>
    private const int MostUnderWay = 2;

    private readonly Queue<Waiting> _waiting = new();
    private int _underWay;

    /// <summary>Writes a commit.</summary>
    /// <exception cref="NotKnownException">The database was lost while it stored this: it may have, or not.</exception>
    /// <exception cref="NpgsqlException">Nothing was stored.</exception>
    public async Task<Committed> Write(Commit commit)
    {
        ArgumentNullException.ThrowIfNull(commit);
        if (commit.Change.Nodes.Count > NodeRow.MostInParameters || commit.Blobs.Sum(b => (long)b.Bytes.Length) > BlobStore.MostInTheAir)
        {
            return await WriteLarge(commit);
        }

        var waiting = new Waiting(commit, Statement(commit));
        lock (_waiting)
        {
            _waiting.Enqueue(waiting);
        }

        await Carry();
        return await waiting.Done.Task;
    }

    /// <summary>Takes along what waits, where not enough are under way. Who comes goes by itself; what came meanwhile is not waited for.</summary>
    private async Task Carry()
    {
        if (Next() is not { } together)
        {
            return;
        }

        await Send(together);
        lock (_waiting)
        {
            _underWay--;
            if (_waiting.Count == 0)
            {
                return;
            }
        }

        _ = Task.Run(Carry);
    }

    /// <summary>Other servers hear of it in the moment in which it is stored.</summary>
    private NpgsqlBatchCommand Statement(Commit commit, bool copied = false) => CommitStatement.Of(commit, copied, company is { Alone: false } ? company.Name : null);

    private List<Waiting>? Next()
    {
        lock (_waiting)
        {
            if (_waiting.Count == 0 || _underWay == MostUnderWay)
            {
                return null;
            }

            _underWay++;
            var together = new List<Waiting>();
            while (together.Count < MostTogether && _waiting.TryDequeue(out var next))
            {
                together.Add(next);
            }

            // In one order everywhere, so that two servers never wait for each other.
            together.Sort((a, b) => a.Commit.Scene.CompareTo(b.Commit.Scene));
            return together;
        }
    }

    private async Task Send(List<Waiting> together)
    {
        try
        {
            var outcomes = await Execute(together.ConvertAll(w => w.Statement));
            for (var i = 0; i < together.Count; i++)
            {
                together[i].Done.TrySetResult(outcomes[i]);
            }
        }
        catch (PostgresException) when (together.Count > 1)
        {
            // One of them is to blame; the others are not to suffer for it.
            foreach (var one in together)
            {
                await Send([new(one.Commit, Statement(one.Commit), one.Done)]);
            }
        }
        catch (Exception e)
        {
            together.ForEach(w => w.Done.TrySetException(e));
        }
    }

    private async Task<List<Committed>> Execute(List<NpgsqlBatchCommand> statements)
    {
        await using var connection = await source.OpenConnectionAsync();
        await using var batch = new NpgsqlBatch(connection);
        statements.ForEach(batch.BatchCommands.Add);
        try
        {
            var outcomes = new List<Committed>(statements.Count);
            await using var reader = await batch.ExecuteReaderAsync();
            do
            {
                await reader.ReadAsync();
                outcomes.Add(CommitStatement.Read(reader));
            }
            while (await reader.NextResultAsync());

            // Only now has the database said that it is committed.
            await reader.CloseAsync();
            return outcomes;
        }
        catch (NpgsqlException e) when (e is not PostgresException || e.SqlState is PostgresErrorCodes.AdminShutdown or PostgresErrorCodes.CrashShutdown)
        {
            throw new NotKnownException(e);
        }
    }

    /// <summary>Thousands of nodes, or blobs of many megabytes: over the wire one after the other, then the same statement.</summary>
    private async Task<Committed> WriteLarge(Commit commit)
    {
        await using var connection = await source.OpenConnectionAsync(commit.Stopped);
        await using var transaction = await connection.BeginTransactionAsync(commit.Stopped);
        await NodeRow.Copy(connection, commit.Rows, commit.Stored, commit.Stopped);
        await BlobStore.Write(connection, commit.Blobs, commit.Stopped);
        await using var batch = new NpgsqlBatch(connection) { Timeout = Transactions.Patience };
        batch.BatchCommands.Add(Statement(commit with { Blobs = [.. commit.Blobs.Select(b => b with { Bytes = [] })] }, copied: true));
        Committed outcome;
        await using (var reader = await batch.ExecuteReaderAsync(commit.Stopped))
        {
            await reader.ReadAsync();
            outcome = CommitStatement.Read(reader);
        }

        if (outcome.Outcome == Outcome.Stored)
        {
            try
            {
                await transaction.CommitAsync();
            }
            catch (NpgsqlException e) when (e is not PostgresException)
            {
                throw new NotKnownException(e);
            }
        }

        return outcome;
    }

    private sealed record Waiting(Commit Commit, NpgsqlBatchCommand Statement, TaskCompletionSource<Committed> Done)
    {
        public Waiting(Commit commit, NpgsqlBatchCommand statement)
            : this(commit, statement, new(TaskCreationOptions.RunContinuationsAsynchronously))
        {
        }
    }
}
