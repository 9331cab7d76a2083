using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>What a scene may name by hash is what it has, of the kind that is meant; a hash is no means to what others have.</summary>
[Collection(nameof(SteadyServer))]
public sealed class OwnBlobsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Fact]
    public async Task Pictures_and_geometry_of_other_scenes_cannot_be_named_in_any_way()
    {
        var (theirs, mine) = (await _caller.NewScene(), await _caller.NewScene());
        var picture = await Bring(theirs, Pictures.Png(24, 18, (byte)Random.Shared.Next(256)));
        var geometry = await Mesh(theirs);
        object Pictured(string hash) => new { textures = new[] { new { channel = "BaseColor", image = hash } } };
        Assert.Equal(HttpStatusCode.OK, (await Edit(theirs, new { @do = "material", id = "m", name = "M", like = Pictured(picture), nodes = new[] { "a" } })).StatusCode);
        var copied = await _caller.Get($"api/scenes/{theirs}");
        foreach (var thing in copied["nodes"]!.AsArray().Concat(copied["materials"]!.AsArray()))
        {
            // What an answer says beside the thing itself.
            thing!.AsObject().Remove("index");
        }

        object Pasted(Func<JsonNode, bool> which) => new
        {
            @do = "paste",
            copied = new
            {
                calmPivot = 1,
                nodes = copied["nodes"]!.AsArray().Where(node => which(node!)).Take(1),
                worlds = new[] { new[] { 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1 } },
                materials = copied["materials"]!.AsArray().Where(material => (string?)material!["id"] == "m"),
            },
        };
        object[] edits =
        [
            new { @do = "material", name = "Ghost", like = Pictured(picture) },
            new { @do = "setSurroundings", style = "picture", picture },
            Pasted(node => (string?)node["id"] == "a"),
            Pasted(node => (string?)node["geometry"] == geometry),
            new { @do = "create", node = new { id = "g", name = "G", kind = "mesh", geometry } },
        ];
        var before = (await _caller.Get($"api/scenes/{mine}")).ToJsonString();
        foreach (var edit in edits)
        {
            var answer = await Edit(mine, edit);
            var text = await answer.Content.ReadAsStringAsync();
            Assert.True(answer.StatusCode == HttpStatusCode.NotFound, $"{System.Text.Json.JsonSerializer.Serialize(edit)}\n{text}");
            Assert.Equal("not-found", (string?)JsonNode.Parse(text)!["refusal"]);
            Assert.Equal(HttpStatusCode.OK, (await Edit(theirs, edit)).StatusCode);
        }

        Assert.Equal(before, (await _caller.Get($"api/scenes/{mine}")).ToJsonString());
        foreach (var (kind, hash) in new[] { ("pictures", picture), ("geometry", geometry) })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await _caller.Http.GetAsync($"api/scenes/{mine}/{kind}/{hash}")).StatusCode);
        }
    }

    [Fact]
    public async Task Each_kind_is_served_by_its_own_address_and_stands_for_nothing_else()
    {
        var scene = await _caller.NewScene();
        var picture = await Bring(scene, Pictures.Png(24, 18));
        var geometry = await Mesh(scene);
        foreach (var (path, status) in new[] { ($"pictures/{picture}", 200), ($"geometry/{geometry}", 200), ($"geometry/{geometry}/triangles", 200), ($"pictures/{geometry}", 404), ($"geometry/{picture}", 404), ($"geometry/{picture}/triangles", 404) })
        {
            Assert.Equal((path, status), (path, (int)(await _caller.Http.GetAsync($"api/scenes/{scene}/{path}")).StatusCode));
        }

        Assert.Equal(HttpStatusCode.NotFound, (await Edit(scene, new { @do = "material", name = "Odd", like = new { textures = new[] { new { channel = "BaseColor", image = geometry } } } })).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await Edit(scene, new { @do = "create", node = new { id = "g", name = "G", kind = "mesh", geometry = picture } })).StatusCode);
    }

    [Fact]
    public async Task A_picture_that_some_scene_has_comes_into_another_as_it_is()
    {
        // Written anew each time, a JPEG would become another picture.
        var (one, other) = (await _caller.NewScene(), await _caller.NewScene());
        var hash = await Bring(one, Pictures.Jpeg(64, 48));
        var bytes = await _caller.Http.GetByteArrayAsync($"api/scenes/{one}/pictures/{hash}");
        Assert.Equal(hash, await Bring(other, bytes));
        Assert.Equal(bytes, await _caller.Http.GetByteArrayAsync($"api/scenes/{other}/pictures/{hash}"));
        Assert.NotEqual(hash, await Bring(other, bytes, side: 16));
    }

    [Fact]
    public async Task Pictures_of_a_file_that_no_page_could_show_are_left_out()
    {
        var picture = Pictures.Png(9, 9);
        var huge = (byte[])picture.Clone();
        (huge[18], huge[22]) = (0x75, 0x75);
        string Uri(byte[] png) => $"data:image/png;base64,{Convert.ToBase64String(png)}";
        var json = JsonNode.Parse(ExchangeCallsTests.Triangle())!;
        json["images"] = new JsonArray(new JsonObject { ["uri"] = Uri(picture) }, new JsonObject { ["uri"] = Uri(huge) });
        json["textures"] = JsonNode.Parse("""[{"source":0},{"source":1}]""");
        json["materials"] = JsonNode.Parse("""[{"pbrMetallicRoughness":{"baseColorTexture":{"index":0}},"emissiveTexture":{"index":1}}]""");
        json["meshes"]![0]!["primitives"]![0]!["material"] = 0;
        using var content = new ByteArrayContent(Encoding.UTF8.GetBytes(json.ToJsonString()));
        content.Headers.ContentType = new MediaTypeHeaderValue("model/gltf+json");
        var answer = await _caller.Http.PostAsync("api/scenes/import?name=Huge", content);
        var scene = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.Contains(scene["notes"]!.AsArray(), note => ((string)note!).Contains("8192 pixels", StringComparison.Ordinal));
        var use = Assert.Single(Assert.Single(scene["materials"]!.AsArray())!["textures"]!.AsArray())!;
        Assert.Equal("BaseColor", (string?)use["channel"]);
        Assert.Equal(HttpStatusCode.OK, (await _caller.Http.GetAsync($"api/scenes/{scene["id"]}/pictures/{use["image"]}")).StatusCode);
    }

    private Task<HttpResponseMessage> Edit(string scene, object edit) => _caller.Send(HttpMethod.Post, $"api/scenes/{scene}/edits", new { @base = 1_000_000, edits = new[] { edit } });

    private async Task<string> Bring(string scene, byte[] picture, int? side = null)
    {
        using var content = new ByteArrayContent(picture);
        var answer = await _caller.Http.PostAsync($"api/scenes/{scene}/pictures?name=It{(side is null ? "" : $"&side={side}")}", content);
        Assert.Equal(HttpStatusCode.Created, answer.StatusCode);
        return (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["hash"]!;
    }

    /// <returns>The geometry of a mesh that was brought into a scene.</returns>
    private async Task<string> Mesh(string scene)
    {
        using var content = new ByteArrayContent(Encoding.UTF8.GetBytes(ExchangeCallsTests.Triangle(1 + (float)Random.Shared.NextDouble())));
        content.Headers.ContentType = new MediaTypeHeaderValue("model/gltf+json");
        var answer = JsonNode.Parse(await (await _caller.Http.PostAsync($"api/scenes/{scene}/import?name=T", content)).Content.ReadAsStringAsync())!;
        return answer["changed"]!.AsArray().Select(n => (string?)n!["geometry"]).OfType<string>().First();
    }
}
