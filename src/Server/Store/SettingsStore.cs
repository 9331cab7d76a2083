using Npgsql;
using Json = CalmPivot.Server.Store.Transactions.Json;

namespace CalmPivot.Server.Store;

/// <summary>What a person has set, as one JSON object that the page understands.</summary>
public sealed class SettingsStore(NpgsqlDataSource source)
{
    public async Task<string> Read(string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        var rows = await connection.Rows("select body from settings where person = @person", r => r.GetString(0), ("person", person));
        return rows.FirstOrDefault() ?? "{}";
    }

    public async Task Write(string person, string body)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Run(
            """
            insert into settings (person, body) values (@person, @body)
            on conflict (person) do update set body = excluded.body, updated_at = now()
            """,
            ("person", person),
            ("body", new Json(body)));
    }
}
