using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace CalmPivot.Bench;

/// <summary>Scenes of boxes, as people make them: with names, places and some turned.</summary>
internal static class Scenes
{
    /// <summary>By which things are moved.</summary>
    public static readonly double[] Way = [0.25, 0.1, 0];

    /// <returns>The id; the scene is at revision 2, or 1 more for each five thousand.</returns>
    public static async Task<string> Make(HttpClient http, int count)
    {
        var made = await Send(http, HttpMethod.Post, "api/scenes", new { name = $"Bench {count}" });
        var id = (string)made["id"]!;
        var random = new Random(count);
        var edits = Enumerable.Range(0, count).Select(i => new
        {
            @do = "create",
            node = new
            {
                id = $"n{i}",
                name = $"Part {i}",
                kind = "shape",
                placement = new
                {
                    position = new[] { random.NextDouble() * 10, random.NextDouble() * 3, random.NextDouble() * 10 },
                    rotation = new[] { 0, i % 3 == 0 ? random.Next(90) : 0, 0 },
                    pivot = new[] { 0, -0.5, 0 },
                },
            },
        }).ToArray();
        for (var i = 0; i < count; i += 5_000)
        {
            await Send(http, HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000_000, edits = edits[i..Math.Min(count, i + 5_000)] });
        }

        return id;
    }

    public static async Task<JsonNode> Send(HttpClient http, HttpMethod method, string path, object body)
    {
        using var response = await http.SendAsync(new(method, path) { Content = JsonContent.Create(body) });
        var text = await response.Content.ReadAsStringAsync();
        return response.IsSuccessStatusCode ? JsonNode.Parse(text)! : throw new InvalidOperationException(text);
    }
}
