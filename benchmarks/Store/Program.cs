using System.Globalization;
using CalmPivot.Bench;
using Npgsql;

// Measures the store for the bench: what an edit takes on the disk, how long a scene with a long history takes to open, and how many
// edits a second are made by so many callers. Usage: Store bytes | open | edits CALLERS SECONDS; the server and its database are said by
// CALM_PIVOT_URL and CALM_PIVOT_DB. Prints figures with blanks between them.
var server = new Uri(Environment.GetEnvironmentVariable("CALM_PIVOT_URL")!);
await using var source = NpgsqlDataSource.Create(Environment.GetEnvironmentVariable("CALM_PIVOT_DB")!);
using var http = new HttpClient(new SocketsHttpHandler { MaxConnectionsPerServer = 64 }) { BaseAddress = server };
http.DefaultRequestHeaders.Add("Cookie", $"calm-pivot-person={new string('b', 43)}");
var figures = args switch
{
    ["bytes"] => await StoredBytes.Of(http, source),
    ["open"] => await OpeningTimes.Of(http, source),
    ["edits", var callers, var seconds] => [await EditRate.Of(http, int.Parse(callers, CultureInfo.InvariantCulture), double.Parse(seconds, CultureInfo.InvariantCulture))],
    _ => throw new ArgumentException("bytes, open or edits"),
};
Console.WriteLine(string.Join(' ', figures.Select(f => f.ToString("F2", CultureInfo.InvariantCulture))));
