using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using SkiaSharp;

namespace CalmPivot.Server.Tests;

/// <summary>Stills over the API: kept with what is known of them, read, looked at for what they are, removed with their scene.</summary>
[Collection(nameof(SteadyServer))]
public sealed class StillTests(RunningServer server)
{
    [Fact]
    public async Task A_still_is_kept_with_what_lies_beside_it_and_removed()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Stills", like = "orrery-room" }))["id"]!;
        var picture = Png(32, 18);
        var id = await Keep(caller, scene, picture, $"revision=1&shot=shot-03&passes=64&seconds=2.5&madeOf={Uri.EscapeDataString("{\"width\":32}")}");
        Assert.Equal(HttpStatusCode.NoContent, (await Put(caller, scene, id, "depth", Png(32, 18))).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await Put(caller, scene, id, "small", Png(16, 9))).StatusCode);

        var still = Assert.Single((await caller.Get($"api/scenes/{scene}/stills")).AsArray())!;
        Assert.Equal(("shot-03", 1, 32, 18, 64, 2.5, 32), ((string)still["shot"]!, (int)still["revision"]!, (int)still["width"]!, (int)still["height"]!, (int)still["passes"]!, (double)still["seconds"]!, (int)still["madeOf"]!["width"]!));
        Assert.Equal(["depth", "picture", "small"], still["parts"]!.AsArray().Select(p => (string)p!));
        Assert.Equal(picture, await caller.Http.GetByteArrayAsync($"api/scenes/{scene}/stills/{id}"));

        Assert.Equal(HttpStatusCode.NoContent, (await caller.Http.DeleteAsync($"api/scenes/{scene}/stills/{id}")).StatusCode);
        Assert.Empty((await caller.Get($"api/scenes/{scene}/stills")).AsArray());
        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.GetAsync($"api/scenes/{scene}/stills/{id}/depth")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.DeleteAsync($"api/scenes/{scene}/stills/{id}")).StatusCode);
    }

    [Fact]
    public async Task A_large_still_comes_back_to_the_letter_also_to_several_at_once()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Stills" }))["id"]!;
        var large = Noise(2_000, 1_600);
        var id = await Keep(caller, scene, large, "revision=1");
        var read = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => caller.Http.GetByteArrayAsync($"api/scenes/{scene}/stills/{id}")));
        Assert.All(read, bytes => Assert.True(bytes.AsSpan().SequenceEqual(large)));

        // One that goes away in the middle holds nothing.
        for (var i = 0; i < 40; i++)
        {
            using var response = await caller.Http.GetAsync($"api/scenes/{scene}/stills/{id}", HttpCompletionOption.ResponseHeadersRead);
            Assert.Equal(large.Length, response.Content.Headers.ContentLength);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.GetAsync($"api/scenes/{scene}/stills/{id}/mask")).StatusCode);
        Assert.Single((await caller.Get($"api/scenes/{scene}/stills")).AsArray());
    }

    [Theory]
    [InlineData("revision=1&shot=nobody", "not-found")]
    [InlineData("revision=-1", "not-understood")]
    [InlineData("revision=1&passes=0", "not-understood")]
    [InlineData("revision=1&seconds=NaN", "not-understood")]
    [InlineData("revision=1&madeOf=7", "not-understood")]
    public async Task What_is_said_of_a_still_has_to_make_sense(string words, string refusal)
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Stills" }))["id"]!;
        await Refused(await Post(caller, scene, Png(4, 4), words), refusal);
        Assert.Empty((await caller.Get($"api/scenes/{scene}/stills")).AsArray());
    }

    [Fact]
    public async Task Only_images_of_a_fitting_size_are_stills()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Stills" }))["id"]!;
        await Refused(await Post(caller, scene, "no image at all, but long enough to be one"u8.ToArray(), "revision=1"), "unsupported-file");
        var huge = Png(4, 4);
        huge[18] = 0x7F;
        await Refused(await Post(caller, scene, huge, "revision=1"), "too-large");
        var id = await Keep(caller, scene, Png(4, 4), "revision=1");
        await Refused(await Put(caller, scene, id, "another", Png(4, 4)), "not-understood");
        await Refused(await Put(caller, scene, id, "picture", Png(4, 4)), "not-understood");
        await Refused(await Put(caller, scene, id, "mask", [1, 2, 3]), "unsupported-file");
        await Refused(await Put(caller, scene, "nobody", "mask", Png(4, 4)), "not-found");
        await Refused(await Post(caller, "nowhere", Png(4, 4), "revision=1"), "not-found");

        // Another scene has nothing of it.
        var other = (string)(await caller.Post("api/scenes", new { name = "Other" }))["id"]!;
        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.GetAsync($"api/scenes/{other}/stills/{id}")).StatusCode);
    }

    [Fact]
    public async Task Surroundings_want_a_picture_that_was_brought_in_and_are_told_with_the_scene()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Light" }))["id"]!;
        Task<HttpResponseMessage> Edit(object edit) => caller.Http.PostAsync($"api/scenes/{scene}/edits", JsonContent(new { @base = 1, edits = new[] { edit } }));
        await Refused(await Edit(new { @do = "setSurroundings", picture = new string('a', 64) }), "not-found");
        await Refused(await Edit(new { @do = "setSurroundings", strength = -1 }), "not-understood");
        Assert.Equal(HttpStatusCode.OK, (await Edit(new { @do = "setSurroundings", style = "even", color = "#102030", exposure = 1.5 })).StatusCode);
        var told = (await caller.Get($"api/scenes/{scene}"))["surroundings"]!;
        Assert.Equal(("even", "#102030", 1.5), ((string)told["style"]!, (string)told["color"]!, (double)told["exposure"]!));
    }

    private static System.Net.Http.Json.JsonContent JsonContent(object value) => System.Net.Http.Json.JsonContent.Create(value);

    private static byte[] Png(int width, int height) => Pictures.Png(width, height);

    /// <summary>A picture that nothing makes smaller: about 12 MB.</summary>
    private static byte[] Noise(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque);
        RandomNumberGenerator.Fill(bitmap.GetPixelSpan());
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    private static async Task<string> Keep(Caller caller, string scene, byte[] image, string words)
    {
        var response = await Post(caller, scene, image, words);
        Assert.Equal(HttpStatusCode.Created, response.StatusCode);
        return (string)JsonNode.Parse(await response.Content.ReadAsStringAsync())!["id"]!;
    }

    private static Task<HttpResponseMessage> Post(Caller caller, string scene, byte[] image, string words) => caller.Http.PostAsync($"api/scenes/{scene}/stills?{words}", Content(image));

    private static Task<HttpResponseMessage> Put(Caller caller, string scene, string still, string part, byte[] image) => caller.Http.PutAsync($"api/scenes/{scene}/stills/{still}/{part}", Content(image));

    private static ByteArrayContent Content(byte[] image)
    {
        var content = new ByteArrayContent(image);
        content.Headers.ContentType = new MediaTypeHeaderValue("image/png");
        return content;
    }

    private static async Task Refused(HttpResponseMessage response, string refusal)
    {
        var problem = JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
        Assert.Equal(refusal, (string)problem["refusal"]!);
        Assert.EndsWith(".", (string)problem["detail"]!, StringComparison.Ordinal);
    }
}
