using System.Diagnostics;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>
/// Calls that nobody means well, over the wire: none gives a failure of the server, and what one of them leaves can be read,
/// evaluated and sent out. Random ones for some seconds, with a seed that a failure names.
/// </summary>
[Collection(nameof(SteadyServer))]
public sealed class HostileCallsTests(RunningServer server) : IDisposable
{
    private static readonly TimeSpan Long = TimeSpan.FromSeconds(12);

    private static readonly string[] Odd =
    [
        "null", "[null]", "0", "-1", "1e999", "-1e999", "1e-46", "1e308", "2147483648", "9007199254740993", "true", "\"\"", "\" \"", "\"\\u0000\"", "\"\\ud83d\"", "\"a\\u0000b\"",
        "[]", "{}", "[[]]", "[1e999,0,0]", "[1e15,1e15,1e15]", "[1,2]", "\"x\"", "3", "\"../../etc\"", "[\"a\",\"a\"]", "[\"none\"]", "{\"kind\":\"own\"}", "{\"kind\":7}", "[0,0,0]",
    ];

    private static readonly string[] Edits =
    [
        """{"do":"move","nodes":["a"],"by":[1,0,0],"space":{"kind":"world"}}""",
        """{"do":"rotate","nodes":["a","b"],"by":15,"axis":"y","space":{"kind":"own"},"about":{"kind":"bounds"}}""",
        """{"do":"scale","nodes":["a"],"by":[2,1,1],"space":{"kind":"own"},"about":{"kind":"own"},"keepVolume":{"given":["x"]}}""",
        """{"do":"create","node":{"name":"x","kind":"shape","shape":{"type":"ball","radius":1}}}""",
        """{"do":"create","node":{"name":"x","kind":"camera","camera":{"near":0.1,"far":100,"fov":40}}}""",
        """{"do":"create","node":{"name":"x","kind":"light","light":{"type":"spot","intensity":10,"range":5,"outerCone":30}}}""",
        """{"do":"create","node":{"name":"x","kind":"shape","material":{"color":"#112233","textures":[{"channel":"Normal","image":"ab"}]}}}""",
        """{"do":"place","node":"a","placement":{"position":[0,0,0],"rotation":[0,0,0],"scale":[1,1,1],"order":"XYZ"}}""",
        """{"do":"set","nodes":["a"],"channel":"position","values":[1,null,2]}""",
        """{"do":"movePivot","nodes":["a"],"to":{"anchor":[0,1,0]}}""",
        """{"do":"movePivot","nodes":["a"],"spin":{"by":10,"axis":"z","space":{"kind":"own"}}}""",
        """{"do":"putUnder","nodes":["b"],"parent":"a","index":0}""",
        """{"do":"duplicate","nodes":["a"],"count":2,"by":[{"do":"move","by":[1,0,0],"space":{"kind":"world"}}],"ids":[["c1"],["c2"]]}""",
        """{"do":"join","nodes":["a","b"]}""",
        """{"do":"separate","nodes":["a"]}""",
        """{"do":"group","nodes":["a","b"],"name":"G","at":"lead"}""",
        """{"do":"collection","name":"C","nodes":["a"],"rule":{"name":"*","under":"a"}}""",
        """{"do":"label","nodes":["a"],"color":"#112233","note":"n"}""",
        """{"do":"align","nodes":["a"],"to":"b","axes":{"x":{"from":"min","to":"max"}},"space":{"kind":"world"}}""",
        """{"do":"spread","nodes":["a","b"],"along":"x","space":{"kind":"world"}}""",
        """{"do":"drop","nodes":["a"],"along":[0,-1,0]}""",
        """{"do":"steer","node":"a","view":[1,0,0,0,0,1,0,0,0,0,1,0,1,2,3,1]}""",
        """{"do":"setShape","node":"a","shape":{"type":"box","size":[1,1,1]}}""",
        """{"do":"setNormals","nodes":["a"],"how":"smooth","angle":30}""",
        """{"do":"rename","node":"a","name":"New"}""",
        """{"do":"renameMany","nodes":["a","b"],"name":"N","from":1,"digits":2}""",
        """{"do":"paste","copied":{"calmPivot":1,"nodes":[{"id":"z","name":"Z","kind":"group","placement":{"position":[0,0,0],"rotation":[0,0,0],"order":"XYZ","scale":[1,1,1],"shear":[0,0,0],"pivot":[0,0,0],"pivotTurn":[0,0,0],"takes":{}}}],"worlds":[[1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]]}}""",
    ];

    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task No_call_makes_the_server_fail_and_what_is_accepted_can_be_evaluated_and_sent_out()
    {
        var seed = Random.Shared.Next();
        var random = new Random(seed);
        var clock = Stopwatch.StartNew();
        var (calls, accepted) = (0, 0);
        while (clock.Elapsed < Long)
        {
            // Somebody else for each scene, so that nobody asks too often.
            using var caller = server.NewCaller();
            await caller.Get("api/me/settings");
            var id = await caller.NewScene();
            for (var i = 0; i < 25; i++)
            {
                var edit = JsonNode.Parse(Edits[random.Next(Edits.Length)])!.ToJsonString();
                for (var spoil = random.Next(3); spoil > 0; spoil--)
                {
                    edit = Spoiled(edit, random);
                }

                var body = random.Next(12) switch
                {
                    0 => $$"""{"base":1000,"edits":{{Odd[random.Next(Odd.Length)]}}}""",
                    1 => $$"""{"base":{{Odd[random.Next(Odd.Length)]}},"edits":[{{edit}}]}""",
                    2 => $$"""{"base":1000,"key":{{Odd[random.Next(Odd.Length)]}},"edits":[{{edit}}]}""",
                    _ => $$"""{"base":1000,"edits":[{{edit}}]}""",
                };
                calls++;
                accepted += await Call(caller, $"api/scenes/{id}/edits", body, seed) ? 1 : 0;
                await Call(caller, $"api/scenes/{id}/{(random.Next(2) == 0 ? "undo" : "redo")}", """{"base":1000}""", seed);
            }

            foreach (var path in new[] { "", "/evaluated", "/document", "/export?format=glb", "/export?format=gltf", "/steps" })
            {
                var read = await caller.Http.GetAsync($"api/scenes/{id}{path}");
                Assert.True(read.IsSuccessStatusCode, $"seed {seed}: {path} gives {(int)read.StatusCode}");
            }
        }

        Assert.InRange(accepted, calls / 20, calls);
    }

    [Theory]
    [InlineData("PATCH", "", """{"name":"\u0000"}""")]
    [InlineData("PATCH", "", """{"name":"\ud83d"}""")]
    [InlineData("PATCH", "", """{"unit":null,"name":null}""")]
    [InlineData("PATCH", "/steps/1", """{"name":"\u0000"}""")]
    [InlineData("PATCH", "/steps/99999999999", """{"name":"x"}""")]
    [InlineData("PUT", "/selections", """{"name":"x","nodes":[null]}""")]
    [InlineData("PUT", "/selections", """{"name":"\u0000","nodes":["a"]}""")]
    [InlineData("DELETE", "/selections?name=%00", "")]
    [InlineData("POST", "/import?under=%00", "glTF")]
    [InlineData("POST", "/import?at=1e999,0,0", "glTF")]
    [InlineData("POST", "/undo", """{"base":1,"to":-9223372036854775808}""")]
    [InlineData("GET", "/geometry/%00", "")]
    [InlineData("GET", "/steps/9223372036854775807", "")]
    public async Task Odd_calls_are_answered_with_what_is_wrong(string method, string path, string body)
    {
        var id = await _caller.NewScene();
        var request = new HttpRequestMessage(new(method), $"api/scenes/{id}{path}");
        request.Content = body.Length == 0 ? null : new StringContent(body, Encoding.UTF8, "application/json");
        var answer = await _caller.Http.SendAsync(request);
        Assert.True((int)answer.StatusCode < 500, $"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
    }

    [Theory]
    [InlineData("""{"theme":"\u0000"}""")]
    [InlineData("""{"theme":"\ud83d"}""")]
    [InlineData("""{"a":{"b":[1e999]}}""")]
    public async Task Settings_that_cannot_be_stored_are_refused(string body)
    {
        var answer = await _caller.Http.PutAsync("api/me/settings", new StringContent(body, Encoding.UTF8, "application/json"));
        Assert.True((int)answer.StatusCode < 500, $"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
        Assert.Equal(HttpStatusCode.OK, (await _caller.Http.GetAsync("api/me/settings")).StatusCode);
    }

    private static async Task<bool> Call(Caller caller, string path, string body, int seed)
    {
        var answer = await caller.Http.PostAsync(path, new StringContent(body, Encoding.UTF8, "application/json"));
        Assert.True((int)answer.StatusCode < 500, $"seed {seed}: {(int)answer.StatusCode} for {body}\n{await answer.Content.ReadAsStringAsync()}");
        return answer.IsSuccessStatusCode;
    }

    /// <summary>Puts something odd in the place of one value of a text.</summary>
    private static string Spoiled(string json, Random random)
    {
        // By the text, since a parsed number could not be 1e999.
        var ends = Enumerable.Range(0, json.Length).Where(i => json[i] == ':').ToList();
        if (ends.Count < 2)
        {
            return json;
        }

        var at = ends[1 + random.Next(ends.Count - 1)] + 1;
        var (depth, end, quoted) = (0, at, false);
        for (; end < json.Length; end++)
        {
            var c = json[end];
            quoted ^= c == '"' && json[end - 1] != '\\';
            if (!quoted && depth == 0 && c is ',' or '}' or ']' && !quoted && depth == 0)
            {
                break;
            }

            depth += quoted ? 0 : c is '[' or '{' ? 1 : c is ']' or '}' ? -1 : 0;
        }

        return json[..at] + Odd[random.Next(Odd.Length)] + json[end..];
    }
}
