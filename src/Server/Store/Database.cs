using System.Reflection;
using DbUp;
using DbUp.Engine.Output;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>The PostgreSQL database: its connections, and its schema as numbered SQL files.</summary>
public static class Database
{
    /// <summary>
    /// What is asked for again and again is prepared and planned by the database once for each connection: everything is found by its
    /// key, so that no plan depends on the values. Nothing is left in a connection that the next user could trip over.
    /// </summary>
    public static NpgsqlDataSource Open(string connectionString)
    {
        var said = new NpgsqlConnectionStringBuilder(connectionString);
        var how = new NpgsqlConnectionStringBuilder(connectionString) { MaxAutoPrepare = 60, AutoPrepareMinUsages = 2, NoResetOnClose = true };
        how.CommandTimeout = said.ContainsKey("Command Timeout") ? said.CommandTimeout : Seconds;
        how.Options = $"{how.Options} -c plan_cache_mode=force_generic_plan".Trim();
        return NpgsqlDataSource.Create(how);
    }

    /// <summary>
    /// A connection that nobody else uses, on which is waited for what others say. It asks every few seconds whether the database is still there.
    /// </summary>
    public static NpgsqlConnection Listening(string connectionString) =>
        new(new NpgsqlConnectionStringBuilder(connectionString) { Pooling = false, KeepAlive = 5, CommandTimeout = Seconds, ApplicationName = "Calm Pivot listens" }.ConnectionString);

    /// <summary>A statement that takes longer is given up, unless the connection says otherwise.</summary>
    public const int Seconds = 20;

    /// <summary>Any number that nobody else uses for a lock of theirs.</summary>
    private const long Lock = 0x43504956;

    /// <summary>Does something that only one server at a time may do to this database; others wait.</summary>
    /// <exception cref="NpgsqlException">The database cannot be reached.</exception>
    public static async Task Alone(string connectionString, Func<Task> act)
    {
        ArgumentNullException.ThrowIfNull(act);
        await using var connection = new NpgsqlConnection(connectionString);
        await connection.OpenAsync();
        connection.Patiently();
        await connection.Run("select pg_advisory_lock(@lock)", ("lock", Lock));
        try
        {
            await act();
        }
        finally
        {
            await connection.Run("select pg_advisory_unlock(@lock)", ("lock", Lock));
        }
    }

    /// <summary>Brings the schema up to date, each migration in a transaction of its own.</summary>
    /// <exception cref="InvalidOperationException">A migration failed; the database is as it was before that one.</exception>
    public static void Migrate(string connectionString)
    {
        var result = DeployChanges.To
            .PostgresqlDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => name.EndsWith(".sql", StringComparison.Ordinal))
            .WithTransactionPerScript()
            .WithExecutionTimeout(TimeSpan.FromHours(1))
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
        {
            throw new InvalidOperationException("The database could not be brought up to date.", result.Error);
        }
    }
}
