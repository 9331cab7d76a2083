using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>What scenes look like in the list of all scenes, and who changed them last.</summary>
[Collection(nameof(SteadyServer))]
public sealed class PictureCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    private static byte[] Png(byte shade = 0) => Pictures.Png(16, 10, shade);

    private async Task<HttpStatusCode> Put(string scene, long revision, byte[] bytes)
    {
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue("image/png");
        return (await _caller.Http.PutAsync(new Uri($"api/scenes/{scene}/picture?revision={revision}", UriKind.Relative), content)).StatusCode;
    }

    private async Task<JsonNode> Line(string scene) => (await _caller.Get("api/scenes")).AsArray().Single(s => (string)s!["id"]! == scene)!;

    [Fact]
    public async Task A_picture_is_kept_with_the_revision_that_it_shows()
    {
        var id = await _caller.NewScene();
        Assert.Equal(HttpStatusCode.NotFound, (await _caller.Http.GetAsync($"api/scenes/{id}/picture")).StatusCode);
        Assert.Null((await Line(id))["picture"]);
        Assert.Equal(HttpStatusCode.NoContent, await Put(id, 2, Png(1)));
        Assert.Equal(2, (long)(await Line(id))["picture"]!);
        var read = await _caller.Http.GetAsync($"api/scenes/{id}/picture?revision=2");
        Assert.Equal("image/png", read.Content.Headers.ContentType!.MediaType);
        Assert.Equal(Png(1), await read.Content.ReadAsByteArrayAsync());

        // One that comes late shows an earlier revision; one of the future does not exist.
        Assert.Equal(HttpStatusCode.NoContent, await Put(id, 1, Png(9)));
        Assert.Equal(Png(1), await _caller.Http.GetByteArrayAsync($"api/scenes/{id}/picture"));
        Assert.Equal(HttpStatusCode.NoContent, await Put(id, 99, Png(2)));
        Assert.Equal((long)(await Line(id))["revision"]!, (long)(await Line(id))["picture"]!);
        Assert.Equal(Png(2), await _caller.Http.GetByteArrayAsync($"api/scenes/{id}/picture"));
    }

    [Fact]
    public async Task A_copy_looks_like_what_it_is_a_copy_of_and_a_picture_goes_with_its_scene()
    {
        var id = await _caller.NewScene();
        await Put(id, 2, Png(7));
        var copy = (string)(await _caller.Post("api/scenes", new { name = "Again", like = id }))["id"]!;
        Assert.Equal(Png(7), await _caller.Http.GetByteArrayAsync($"api/scenes/{copy}/picture"));
        await _caller.Http.DeleteAsync($"api/scenes/{copy}");
        Assert.Equal(HttpStatusCode.NotFound, (await _caller.Http.GetAsync($"api/scenes/{copy}/picture")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, await Put(copy, 1, Png(1)));
    }

    [Fact]
    public async Task A_copied_picture_is_as_old_as_the_one_that_it_is_a_copy_of()
    {
        var id = await _caller.NewScene();
        await Put(id, 2, Png(7));
        await _caller.Edit(id, 2, new { @do = "shot", shot = new { id = "one", number = "010", name = "One", frames = 48 } });
        async Task PutShot(long revision, byte[] bytes)
        {
            using var content = new ByteArrayContent(bytes);
            content.Headers.ContentType = new MediaTypeHeaderValue("image/png");
            Assert.Equal(HttpStatusCode.NoContent, (await _caller.Http.PutAsync(new Uri($"api/scenes/{id}/shots/one/picture?revision={revision}", UriKind.Relative), content)).StatusCode);
        }

        // The scene's picture is older than the scene, the shot's is not; then the scene goes on, and both are.
        await PutShot(3, Png(8));
        var copy = await Copied(id);
        Assert.Equal((0, 1), (copy.Scene, copy.Shot));
        await _caller.Edit(id, 3, Caller.Move("a", 1));
        copy = await Copied(id);
        Assert.Equal((0, 0), (copy.Scene, copy.Shot));

        // A copy of the copy is no newer, and one that is made of it is kept.
        var again = await Copied(copy.Id);
        Assert.Equal((0, 0), (again.Scene, again.Shot));
        Assert.Equal(HttpStatusCode.NoContent, await Put(again.Id, 1, Png(9)));
        Assert.Equal(1, (long)(await Line(again.Id))["picture"]!);
        Assert.Equal(Png(9), await _caller.Http.GetByteArrayAsync($"api/scenes/{again.Id}/picture"));
    }

    private async Task<(string Id, long Scene, long Shot)> Copied(string scene)
    {
        var id = (string)(await _caller.Post("api/scenes", new { name = "Again", like = scene }))["id"]!;
        var shots = (await _caller.Get($"api/scenes/{id}/shots/pictures")).AsArray();
        return (id, (long)(await Line(id))["picture"]!, (long)Assert.Single(shots)!["revision"]!);
    }

    [Fact]
    public async Task What_is_no_small_picture_is_refused()
    {
        var id = await _caller.NewScene();
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, await Put(id, 1, "<svg onload='x'/>"u8.ToArray()));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, await Put(id, 1, []));
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, await Put(id, 1, [.. Png(), .. new byte[300 * 1024]]));
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, await Put(id, 1, Pictures.Png(1_600, 1_600)));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await Put(id, 1, [.. Png(), .. "<html></html>"u8]));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, await Put(id, 1, [0xFF, 0xD8, 0xFF, .. "<html></html>"u8]));
        Assert.Equal(HttpStatusCode.BadRequest, await Put(id, -1, Png()));
        Assert.Null((await Line(id))["picture"]);
    }

    [Fact]
    public async Task Who_changed_a_scene_last_is_told_to_each_in_their_own_words()
    {
        var id = await _caller.NewScene();
        Assert.True((bool?)(await Line(id))["mine"]);
        using var other = server.NewCaller();
        var theirs = (await other.Get("api/scenes")).AsArray().Single(s => (string)s!["id"]! == id)!;
        Assert.False((bool?)theirs["mine"]);
        Assert.DoesNotContain("person", theirs.ToJsonString(), StringComparison.OrdinalIgnoreCase);
    }
}
