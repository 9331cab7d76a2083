using System.Reflection;
using DbUp;
using DbUp.Engine.Output;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>The PostgreSQL database: its connections, and its schema as numbered SQL files.</summary>
public static class Database
{
    public static NpgsqlDataSource Open(string connectionString) => NpgsqlDataSource.Create(connectionString);

    /// <summary>Brings the schema up to date, each migration in a transaction of its own.</summary>
    /// <exception cref="InvalidOperationException">A migration failed; the database is as it was before that one.</exception>
    public static void Migrate(string connectionString)
    {
        var result = DeployChanges.To
            .PostgresqlDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => name.EndsWith(".sql", StringComparison.Ordinal))
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
        {
            throw new InvalidOperationException("The database could not be brought up to date.", result.Error);
        }
    }
}
