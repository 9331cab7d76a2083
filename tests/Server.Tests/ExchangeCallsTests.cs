using System.IO.Compression;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

[Collection(nameof(SteadyServer))]
public sealed class ExchangeCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task The_demo_goes_out_and_comes_back_standing_where_it_stood()
    {
        var glb = await _caller.Http.GetByteArrayAsync("api/scenes/orrery-room/export?format=glb");
        var (status, scene) = await Import(glb, "model/gltf-binary");
        Assert.Equal(201, status);
        var back = await _caller.Get($"api/scenes/{(string)scene["id"]!}/evaluated");
        var original = await _caller.Get("api/scenes/orrery-room/evaluated");
        var (there, here) = (original["nodes"]!.AsArray(), back["nodes"]!.AsArray());
        Assert.Equal(there.Count, here.Count);
        for (var i = 0; i < there.Count; i++)
        {
            Assert.Equal(there[i]!["world"]!.ToJsonString(), here[i]!["world"]!.ToJsonString());
            Assert.Equal(there[i]!["pivot"]!.ToJsonString(), here[i]!["pivot"]!.ToJsonString());
        }
    }

    [Fact]
    public async Task Text_with_its_data_inside_comes_in_too_and_into_a_scene_as_one_step()
    {
        var gltf = await _caller.Http.GetByteArrayAsync("api/scenes/orrery-room/export?format=gltf");
        var id = await _caller.NewScene();
        using var content = Content(gltf, "model/gltf+json");
        var response = await _caller.Http.PostAsync($"api/scenes/{id}/import?under=a&name=Orrery", content);
        Assert.True(response.IsSuccessStatusCode, await response.Content.ReadAsStringAsync());
        var scene = await _caller.Get($"api/scenes/{id}");
        var room = (await _caller.Get("api/scenes/orrery-room"))["nodes"]!.AsArray().Count;
        Assert.Equal(2 + room, scene["nodes"]!.AsArray().Count);
        Assert.Contains(scene["nodes"]!.AsArray(), n => (string?)n!["name"] == "Orrery" && (string?)n["parent"] == "a");
        await _caller.Post($"api/scenes/{id}/undo", new { @base = 3 });
        Assert.Equal(2, (await _caller.Get($"api/scenes/{id}"))["nodes"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_file_comes_into_a_scene_where_it_is_wanted()
    {
        var id = await _caller.NewScene();
        await _caller.Edit(id, 2, new { @do = "mark", id = "m", name = "Corner", at = new { point = new[] { 1, 2, 3 }, y = new[] { 1, 0, 0 } } });
        async Task<(int, string)> Into(string words)
        {
            using var content = Content(Encoding.UTF8.GetBytes(Triangle()), "model/gltf+json");
            var response = await _caller.Http.PostAsync($"api/scenes/{id}/import?{words}", content);
            return ((int)response.StatusCode, await response.Content.ReadAsStringAsync());
        }

        async Task<double[]> Offset(string text)
        {
            var made = (string)JsonNode.Parse(text)!["changed"]![0]!["id"]!;
            var all = await _caller.Get($"api/scenes/{id}/evaluated");
            var world = all["nodes"]!.AsArray().Single(n => (string?)n!["id"] == made)!["world"]!.AsArray();
            return [.. world.Select(v => (double)v!).Skip(12).Take(3)];
        }

        var (_, alone) = await Into("name=T");
        var zero = await Offset(alone);
        var (status, at) = await Into("name=T&at=5,6,-7");
        Assert.Equal(200, status);
        Assert.All(zero.Zip([5, 6, -7], await Offset(at)), one => Assert.Equal(one.First + one.Second, one.Third, tolerance: 1e-9));
        var (_, under) = await Into("name=T&under=a&at=5,6,-7");
        Assert.All(zero.Zip([5, 6, -7], await Offset(under)), one => Assert.Equal(one.First + one.Second, one.Third, tolerance: 1e-9));
        var (_, mark) = await Into("name=T&mark=m");
        Assert.Equal(3, (await Offset(mark)).Length);
        Assert.Equal(400, (await Into("name=T&at=5,6")).Item1);
        Assert.Equal(400, (await Into("name=T&at=a,b,c")).Item1);
        Assert.Equal(400, (await Into("name=T&under=m")).Item1);
        Assert.Equal(404, (await Into("name=T&mark=gone")).Item1);
    }

    [Fact]
    public async Task Meshes_of_others_are_stored_served_and_measured()
    {
        var (_, scene) = await Import(Encoding.UTF8.GetBytes(Triangle()), "model/gltf+json");
        var node = Assert.Single(scene["nodes"]!.AsArray())!;
        Assert.Equal("mesh", (string?)node["kind"]);
        var id = (string)scene["id"]!;
        var geometry = await _caller.Http.GetAsync($"api/scenes/{id}/geometry/{(string)node["geometry"]!}");
        Assert.Contains("immutable", geometry.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        Assert.Equal("CPG1"u8.ToArray(), (await geometry.Content.ReadAsByteArrayAsync())[..4]);
        var edited = await _caller.Edit(id, 1, new { @do = "movePivot", nodes = new[] { (string)node["id"]! }, to = new { anchor = new[] { 1, 1, 0 } } });
        Assert.Equal([2.0, 1, 0], edited["changed"]![0]!["placement"]!["pivot"]!.AsArray().Select(v => (double)v!));
    }

    [Fact]
    public async Task An_archive_may_bring_its_files_along()
    {
        var json = JsonNode.Parse(Triangle())!;
        var data = Convert.FromBase64String(((string)json["buffers"]![0]!["uri"]!).Split(',')[1]);
        json["buffers"]![0]!["uri"] = "points.bin";
        var (status, scene) = await Import(Zip(("model/scene.gltf", Encoding.UTF8.GetBytes(json.ToJsonString())), ("model/points.bin", data)), "application/zip");
        Assert.Equal(201, status);
        Assert.Single(scene["nodes"]!.AsArray());
    }

    [Theory]
    [InlineData("../../../../etc/passwd")]
    [InlineData("/etc/passwd")]
    [InlineData("file:///etc/passwd")]
    [InlineData("http://127.0.0.1/points.bin")]
    [InlineData("points.bin")]
    public async Task Files_outside_the_upload_are_never_read(string uri)
    {
        var json = JsonNode.Parse(Triangle())!;
        json["buffers"]![0]!["uri"] = uri;
        var before = await Count();
        foreach (var (bytes, type) in new[] { (Encoding.UTF8.GetBytes(json.ToJsonString()), "model/gltf+json"), (Zip(("s.gltf", Encoding.UTF8.GetBytes(json.ToJsonString()))), "application/zip") })
        {
            var (status, problem) = await Import(bytes, type);
            Assert.Contains((string?)problem["refusal"], new[] { "unsupported-file", "broken-file" });
            Assert.Contains(status, new[] { 415, 422 });
        }

        Assert.Equal(before, await Count());
    }

    [Fact]
    public async Task Slow_uploads_and_claims_that_nothing_follows_keep_nobody_waiting()
    {
        var slow = new List<System.Net.Sockets.TcpClient>();
        for (var i = 0; i < 5; i++)
        {
            var connection = new System.Net.Sockets.TcpClient();
            await connection.ConnectAsync(server.Address.Host, server.Address.Port);
            var path = i < 3 ? "import?name=Slow" : "orrery-room/stills?revision=1";
            await connection.GetStream().WriteAsync(Encoding.ASCII.GetBytes($"POST /api/scenes/{path} HTTP/1.1\r\nHost: {server.Address.Authority}\r\nContent-Type: application/octet-stream\r\nContent-Length: 260000000\r\n\r\nbegin"));
            slow.Add(connection);
        }

        await Task.Delay(200);
        var (status, _) = await Import(Encoding.UTF8.GetBytes(Triangle()), "model/gltf+json").WaitAsync(TimeSpan.FromSeconds(4));
        Assert.Equal(201, status);
        slow.ForEach(connection => connection.Dispose());
    }

    [Fact]
    public async Task Damaged_files_are_refused_and_nothing_is_stored()
    {
        var glb = await _caller.Http.GetByteArrayAsync("api/scenes/orrery-room/export");
        var before = await Count();
        var random = new Random(5);
        var cases = new List<byte[]> { Array.Empty<byte>(), "hello"u8.ToArray(), glb[..100], glb[..(glb.Length / 2)], "{}"u8.ToArray(), "{\"asset\":{\"version\":\"1.0\"}}"u8.ToArray(), "PK\u0003\u0004rubbish"u8.ToArray() };
        for (var i = 0; i < 20; i++)
        {
            var spoiled = (byte[])glb.Clone();
            for (var k = 0; k < 30; k++)
            {
                spoiled[random.Next(12, 4000)] = (byte)random.Next(256);
            }

            cases.Add(spoiled);
        }

        foreach (var bytes in cases)
        {
            var (status, problem) = await Import(bytes, "model/gltf-binary");
            Assert.InRange(status, 400, 499);
            Assert.NotNull((string?)problem["refusal"]);
        }

        Assert.Equal(before, await Count());
    }

    [Fact]
    public async Task Chains_that_are_too_deep_and_trees_that_contradict_themselves_are_refused_at_once()
    {
        string Chain(int depth, string last) =>
            """{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":["""
            + string.Join(',', Enumerable.Range(0, depth).Select(i => i < depth - 1 ? $"{{\"children\":[{i + 1}]}}" : last)) + "]}";
        var (status, problem) = await Import(Encoding.UTF8.GetBytes(Chain(20_000, "{}")), "model/gltf+json");
        Assert.Equal((413, "too-large"), (status, (string?)problem["refusal"]));
        (status, _) = await Import(Encoding.UTF8.GetBytes(Chain(5, "{\"children\":[0]}")), "model/gltf+json");
        Assert.InRange(status, 413, 422);
        (status, _) = await Import(Encoding.UTF8.GetBytes(Chain(900, "{}")), "model/gltf+json");
        Assert.Equal(201, status);
    }

    [Fact]
    public async Task Lists_that_claim_more_than_there_is_are_refused()
    {
        var json = JsonNode.Parse(Triangle())!;
        json["accessors"]![0]!["count"] = 2_000_000_000;
        var (status, _) = await Import(Encoding.UTF8.GetBytes(json.ToJsonString()), "model/gltf+json");
        Assert.InRange(status, 413, 422);
    }

    [Fact]
    public async Task What_cannot_be_kept_is_named()
    {
        var json = JsonNode.Parse(Triangle())!;
        json["animations"] = JsonNode.Parse("""[{"channels":[{"sampler":0,"target":{"node":0,"path":"translation"}}],"samplers":[{"input":1,"output":0}]}]""");
        json["accessors"]!.AsArray().Add(JsonNode.Parse("""{"bufferView":0,"componentType":5126,"count":3,"type":"SCALAR","min":[0],"max":[2]}"""));
        var (status, scene) = await Import(Encoding.UTF8.GetBytes(json.ToJsonString()), "model/gltf+json");
        Assert.Equal(201, status);
        Assert.Contains(scene["notes"]!.AsArray(), n => ((string)n!).StartsWith("Animations", StringComparison.Ordinal));
    }

    /// <param name="width">Along X.</param>
    internal static string Triangle(float width = 2)
    {
        float[] points = [0, 0, 0, width, 0, 0, 0, 1, 0];
        var data = Convert.ToBase64String(points.SelectMany(BitConverter.GetBytes).ToArray());
        return $$$"""
            {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"Sail","mesh":0}],
            "meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
            "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[{{{width.ToString(System.Globalization.CultureInfo.InvariantCulture)}}},1,0]}],
            "bufferViews":[{"buffer":0,"byteLength":36}],"buffers":[{"byteLength":36,"uri":"data:application/octet-stream;base64,{{{data}}}"}]}
            """;
    }

    private static byte[] Zip(params (string Name, byte[] Bytes)[] files)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, bytes) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }
        }

        return stream.ToArray();
    }

    internal static ByteArrayContent Content(byte[] bytes, string type)
    {
        var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue(type);
        return content;
    }

    private async Task<(int Status, JsonNode Answer)> Import(byte[] bytes, string type)
    {
        using var content = Content(bytes, type);
        var response = await _caller.Http.PostAsync("api/scenes/import?name=Imported", content);
        return ((int)response.StatusCode, JsonNode.Parse(await response.Content.ReadAsStringAsync())!);
    }

    private async Task<int> Count() => (await _caller.Get("api/scenes")).AsArray().Count;
}
