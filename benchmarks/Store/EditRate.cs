using System.Diagnostics;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;

namespace CalmPivot.Bench;

/// <summary>How many edits of one node a second so many callers make, each on a scene of its own, one after the other, as a page sends them.</summary>
internal static class EditRate
{
    private const double Warming = 2;

    public static async Task<double> Of(HttpClient http, int callers, double seconds)
    {
        var scenes = new List<string>();
        for (var i = 0; i < callers; i++)
        {
            scenes.Add(await Scenes.Make(http, 100));
        }

        var clock = Stopwatch.StartNew();
        var counts = await Task.WhenAll(scenes.Select(id => Task.Run(() => Calling(http, id, clock, seconds))));
        return counts.Sum() / seconds;
    }

    /// <returns>How many were answered after warming.</returns>
    private static async Task<int> Calling(HttpClient http, string scene, Stopwatch clock, double seconds)
    {
        long revision = 2;
        var counted = 0;
        while (clock.Elapsed.TotalSeconds < Warming + seconds)
        {
            var body = $$$"""{"base":{{{revision}}},"key":"{{{Guid.NewGuid()}}}","edits":[{"do":"move","nodes":["n7"],"by":[0.001,0,0],"space":{"kind":"world"}}]}""";
            using var request = new HttpRequestMessage(HttpMethod.Post, $"api/scenes/{scene}/edits")
            {
                Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body)) { Headers = { ContentType = new MediaTypeHeaderValue("application/json") } },
            };
            request.Headers.Add("Prefer", "return=minimal");
            using var response = await http.SendAsync(request);
            var bytes = await response.Content.ReadAsByteArrayAsync();
            response.EnsureSuccessStatusCode();
            using var answer = JsonDocument.Parse(bytes);
            revision = answer.RootElement.GetProperty("revision").GetInt64();
            counted += clock.Elapsed.TotalSeconds >= Warming && clock.Elapsed.TotalSeconds < Warming + seconds ? 1 : 0;
        }

        return counted;
    }
}
