using System.Runtime.CompilerServices;
using Npgsql;
using NpgsqlTypes;

namespace CalmPivot.Server.Store;

/// <summary>Short forms for hand-written SQL.</summary>
internal static class Transactions
{
    /// <summary>
    /// So many seconds whatever takes its time may take: thousands of nodes, a migration. All else has the time of the connection (<see cref="Database.Seconds"/>): where
    /// the database hangs, nobody is to wait for good.
    /// </summary>
    public const int Patience = 600;

    private static readonly ConditionalWeakTable<NpgsqlConnection, object> Patient = [];

    /// <summary>What goes by this connection takes its time.</summary>
    public static NpgsqlConnection Patiently(this NpgsqlConnection connection)
    {
        Patient.AddOrUpdate(connection, Patient);
        return connection;
    }

    public static NpgsqlCommand Sql(this NpgsqlConnection connection, string sql, params (string Name, object? Value)[] parameters)
    {
        var command = new NpgsqlCommand(sql, connection);
        if (Patient.TryGetValue(connection, out _))
        {
            command.CommandTimeout = Patience;
        }

        foreach (var (name, value) in parameters)
        {
            command.Parameters.Add(value switch
            {
                Json json => new NpgsqlParameter(name, NpgsqlDbType.Json) { Value = json.Text },

                // Nothing, of a type that the statement could not tell by itself.
                NpgsqlDbType nothing => new NpgsqlParameter(name, nothing) { Value = DBNull.Value },
                _ => new NpgsqlParameter(name, value ?? DBNull.Value),
            });
        }

        return command;
    }

    public static async Task<int> Run(this NpgsqlConnection connection, string sql, params (string Name, object? Value)[] parameters)
    {
        await using var command = connection.Sql(sql, parameters);
        return await command.ExecuteNonQueryAsync();
    }

    public static async Task<List<T>> Rows<T>(
        this NpgsqlConnection connection, string sql, Func<NpgsqlDataReader, T> read, params (string Name, object? Value)[] parameters)
    {
        await using var command = connection.Sql(sql, parameters);
        await using var reader = await command.ExecuteReaderAsync();
        var rows = new List<T>();
        while (await reader.ReadAsync())
        {
            rows.Add(read(reader));
        }

        return rows;
    }

    /// <summary>Marks a parameter as JSON text.</summary>
    internal readonly record struct Json(string Text);
}
