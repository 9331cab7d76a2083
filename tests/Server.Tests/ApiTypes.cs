using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>What the page is told of the API is what the server says of itself.</summary>
[Collection(nameof(OneServer))]
public sealed class ApiTypes(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();


    private static readonly JsonSerializerOptions Neat = new() { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public void Dispose() => _caller.Dispose();

    private static string Place([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "..", "..", "web", "schema", "api.json");

    [Fact]
    public async Task The_page_is_told_of_the_api_as_it_is()
    {
        var document = (await _caller.Get("openapi/v1.json")).AsObject();
        document.Remove("servers");
        var written = document.ToJsonString(Neat) + "\n";
        if (Environment.GetEnvironmentVariable("CALM_PIVOT_WRITE_TYPES") is { Length: > 0 })
        {
            await File.WriteAllTextAsync(Place(), written);
        }

        Assert.True(written == await File.ReadAllTextAsync(Place()), "The API has changed: run scripts/types.sh.");
    }

    [Fact]
    public async Task Every_edit_asks_for_its_word_and_nothing_that_is_read_off_it()
    {
        var schemas = (await _caller.Get("openapi/v1.json"))["components"]!["schemas"]!.AsObject();
        foreach (var (kinds, word) in new[] { ("Edit", "do"), ("Space", "kind"), ("About", "kind") })
        {
            var of = schemas[kinds]!["anyOf"]!.AsArray().Select(k => schemas[((string)k!["$ref"]!).Split('/')[^1]]!.AsObject()).ToList();
            Assert.True(of.Count > 5);
            Assert.All(of, schema =>
            {
                Assert.Contains(schema["required"]!.AsArray(), r => (string)r! == word);
                Assert.Single(schema["properties"]![word]!["enum"]!.AsArray());
                Assert.Null(schema["properties"]!["picked"]);
            });
        }

        Assert.Equal(3, (int)schemas["Vec3"]!["minItems"]!);

        // What has a name is written out once, and referred to from then on.
        Assert.Single(schemas, s => s.Value!["properties"]?["pivotTurn"] is not null && s.Value["properties"]!["takes"]!.ToJsonString().Contains("Takes\"", StringComparison.Ordinal));
        Assert.Equal("#/components/schemas/Placement", (string)schemas["NodeData"]!["properties"]!["placement"]!["$ref"]!);
        Assert.Equal("#/components/schemas/NodeData", (string)schemas["SceneAnswer"]!["properties"]!["nodes"]!["items"]!["$ref"]!);
    }
}
