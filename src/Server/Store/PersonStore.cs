using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>
/// The keys that the cookies of persons are signed with, so that all servers of a database know them and they outlive each; and the persons that are known from
/// before cookies were signed.
/// </summary>
public sealed class PersonStore(NpgsqlDataSource source) : IXmlRepository
{
    /// <summary>The calls that a page makes while its first is still being answered come with the old cookie, too.</summary>
    private const string Overlap = "1 minute";

    /// <summary>Takes a person over who is known by an unsigned cookie; each once.</summary>
    /// <returns>Whether there is such a person, who was not taken over before.</returns>
    public async Task<bool> TakeOver(string person)
    {
        await using var connection = await source.OpenConnectionAsync();
        return await connection.Run(
            $"""
            update unsigned_persons set taken_over_at = coalesce(taken_over_at, now())
            where person = @person and (taken_over_at is null or taken_over_at > now() - interval '{Overlap}')
            """,
            ("person", person)) > 0;
    }

    public IReadOnlyCollection<XElement> GetAllElements()
    {
        using var connection = source.OpenConnection();
        using var command = connection.Sql("select xml from signing_keys order by made_at");
        using var reader = command.ExecuteReader();
        var keys = new List<XElement>();
        while (reader.Read())
        {
            keys.Add(XElement.Parse(reader.GetString(0)));
        }

        return keys;
    }

    public void StoreElement(XElement element, string friendlyName)
    {
        ArgumentNullException.ThrowIfNull(element);
        using var connection = source.OpenConnection();
        using var command = connection.Sql(
            "insert into signing_keys (name, xml) values (@name, @xml) on conflict (name) do update set xml = excluded.xml",
            ("name", friendlyName),
            ("xml", element.ToString(SaveOptions.DisableFormatting)));
        command.ExecuteNonQuery();
    }
}
