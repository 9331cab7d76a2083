using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>Whoever stops long work is told what became of it, and that is so: it was stopped and nothing is there, or it was done.</summary>
[Collection(nameof(SteadyServer))]
public sealed class LongWorkLaws(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task What_is_said_of_stopped_imports_is_so_whenever_they_are_stopped(bool within)
    {
        var file = Parts(3_000);
        var random = new Random(7);
        var (stopped, done) = (0, 0);
        for (var i = 0; i < 8; i++)
        {
            var name = $"Stopped {within} {i} {Guid.NewGuid():N}";
            var id = within ? await _caller.NewScene() : null;
            var work = $"{Guid.NewGuid():N}";
            var asked = Import(within ? $"api/scenes/{id}/import?name={name}" : $"api/scenes/import?name={name}", file, work);

            // As soon as it has begun, at any time, and when it is done for sure.
            await (i == 7 ? (Task)asked : Task.Delay(random.Next(i * 60)));
            var ended = await Stop(_caller, work);
            while (i == 0 && ended == "unknown" && !asked.IsCompleted)
            {
                ended = await Stop(_caller, work);
            }

            var answer = await asked;
            if (ended == "unknown")
            {
                Assert.True(answer.IsSuccessStatusCode);
                continue;
            }

            Assert.Equal(ended == "done", answer.IsSuccessStatusCode);
            var there = within
                ? (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray().Count > 2
                : (await _caller.Get("api/scenes")).AsArray().Any(scene => (string?)scene!["name"] == name);
            Assert.Equal(ended == "done", there);
            if (ended == "done")
            {
                done++;
            }
            else
            {
                stopped++;
                Assert.Equal("stopped", ended);
                Assert.Equal((409, "stopped"), ((int)answer.StatusCode, (string?)(await answer.Content.ReadFromJsonAsync<JsonNode>())!["refusal"]));
            }

            // It stays so.
            Assert.Equal(ended, await Stop(_caller, work));
        }

        Assert.True(stopped > 0 && done > 0, $"{stopped} were stopped, {done} done.");
    }

    [Fact]
    public async Task Exports_are_stopped_as_well_and_only_by_who_asked()
    {
        var scene = JsonNode.Parse(await (await Import("api/scenes/import?name=Large", Parts(20_000), null)).Content.ReadAsStringAsync())!;
        var (work, stranger) = ($"{Guid.NewGuid():N}", server.NewCaller());
        using (stranger)
        {
            Assert.Equal("unknown", await Stop(stranger, work));
            var asked = Ask(new(HttpMethod.Get, $"api/scenes/{(string)scene["id"]!}/export"), work);
            for (string? ended = null; ended is null or "unknown";)
            {
                Assert.Equal("unknown", await Stop(stranger, work));
                ended = await Stop(_caller, work);
            }

            Assert.Equal(409, (int)(await asked).StatusCode);
            Assert.Equal("unknown", await Stop(stranger, work));
            Assert.Equal(400, (int)(await Ask(new(HttpMethod.Get, "api/scenes/orrery-room/export"), work)).StatusCode);
            Assert.Equal(400, (int)(await Ask(new(HttpMethod.Get, "api/scenes/orrery-room/export"), new string('w', 65))).StatusCode);
        }
    }

    private static async Task<string> Stop(Caller caller, string work) =>
        (string)(await (await caller.Send(HttpMethod.Delete, $"api/me/work/{work}")).Content.ReadFromJsonAsync<JsonNode>())!["ended"]!;

    private Task<HttpResponseMessage> Import(string path, byte[] file, string? work)
    {
        var content = new ByteArrayContent(file);
        content.Headers.ContentType = new MediaTypeHeaderValue("model/gltf+json");
        return Ask(new(HttpMethod.Post, path) { Content = content }, work);
    }

    private Task<HttpResponseMessage> Ask(HttpRequestMessage call, string? work)
    {
        if (work is not null)
        {
            call.Headers.Add("Work", work);
        }

        return _caller.Http.SendAsync(call);
    }

    /// <summary>A file of so many triangles, each an object of its own.</summary>
    private static byte[] Parts(int count)
    {
        var json = JsonNode.Parse(ExchangeCallsTests.Triangle())!;
        json["nodes"] = new JsonArray([.. Enumerable.Range(0, count).Select(i => new JsonObject { ["name"] = $"Part {i}", ["mesh"] = 0 })]);
        json["scenes"]![0]!["nodes"] = new JsonArray([.. Enumerable.Range(0, count).Select(i => JsonValue.Create(i))]);
        return Encoding.UTF8.GetBytes(json.ToJsonString());
    }
}
