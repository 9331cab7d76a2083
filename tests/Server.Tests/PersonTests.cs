using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Server.Tests;

/// <summary>A person is who the server has signed a cookie for; what is made up is nobody, and new ones are limited by address.</summary>
[Collection(nameof(OneServer))]
public sealed class PersonTests(RunningServer server)
{
    [Fact]
    public async Task Made_up_cookies_make_nobody_new_and_get_round_no_limit()
    {
        using var strict = await server.Another(("Limits__Scenes", "4"), ("Limits__Persons", "2"));
        var made = 0;
        var persons = new HashSet<string>();
        for (var i = 0; i < 40; i++)
        {
            var answer = await Call(strict.Address, HttpMethod.Post, "api/scenes", MadeUp(), new { name = "Made up" });
            made += answer.StatusCode == HttpStatusCode.Created ? 1 : 0;
            Assert.True(answer.StatusCode is HttpStatusCode.Created or HttpStatusCode.TooManyRequests, $"{answer.StatusCode}");
            if (CookieOf(await Call(strict.Address, HttpMethod.Get, "api/me/settings", MadeUp())) is { } given)
            {
                persons.Add(given);
            }
        }

        // Some come back in the seconds that this takes.
        Assert.InRange(made, 4, 12);
        Assert.InRange(persons.Count, 0, 6);
    }

    [Fact]
    public async Task Whoever_is_beyond_the_limit_can_work_all_the_same_and_those_who_are_known_stay_who_they_are()
    {
        using var strict = await server.Another(("Limits__Persons", "1"));
        using var known = strict.NewCaller();
        var id = await known.NewScene();
        await known.Send(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 1_000, edits = new[] { Caller.Move("a", 1) } });
        for (var i = 0; i < 5; i++)
        {
            await Call(strict.Address, HttpMethod.Get, "api/me/settings", null);
        }

        var nameless = await Call(strict.Address, HttpMethod.Post, $"api/scenes/{id}/edits", null, new { @base = 1_000, edits = new[] { Caller.Move("b", 1) } });
        Assert.Equal(HttpStatusCode.OK, nameless.StatusCode);
        Assert.Null(CookieOf(nameless));
        Assert.Equal(HttpStatusCode.OK, (await known.Send(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 1_000 })).StatusCode);
        Assert.Equal(0, await known.XOf(id, "a"));
        Assert.Equal(1, await known.XOf(id, "b"));
    }

    [Fact]
    public async Task A_cookie_of_one_server_is_known_at_the_next_and_a_changed_one_nowhere()
    {
        var mine = CookieOf(await Call(server.Address, HttpMethod.Put, "api/me/settings", null, new { theme = "night" }))!;
        using var other = await server.Another();
        Assert.Equal("night", (string?)(await Settings(other.Address, mine))["theme"]);
        for (var at = 0; at < mine.Length - 1; at += 17)
        {
            var changed = mine[..at] + (mine[at] == 'A' ? 'B' : 'A') + mine[(at + 1)..];
            Assert.Null((string?)(await Settings(other.Address, changed))["theme"]);
        }
    }

    [Fact]
    public async Task Who_was_known_before_cookies_were_signed_is_taken_over_once()
    {
        var (former, stranger) = (MadeUp(), MadeUp());
        var name = Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(former)))[..16];

        await server.Run($"insert into settings (person, body) values ('{name}', '{{\"theme\":\"night\"}}'); insert into unsigned_persons (person) values ('{name}')");

        // The calls that a page makes at once come with the old one all.
        var at = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Call(server.Address, HttpMethod.Get, "api/me/settings", former)));
        foreach (var answer in at)
        {
            Assert.Equal("night", (string?)(await answer.Content.ReadFromJsonAsync<JsonNode>())!["theme"]);
            Assert.Equal("night", (string?)(await Settings(server.Address, CookieOf(answer)!))["theme"]);
        }

        Assert.Null((string?)(await Settings(server.Address, stranger))["theme"]);
        await server.Run($"update unsigned_persons set taken_over_at = now() - interval '2 minutes' where person = '{name}'");
        Assert.Null((string?)(await Settings(server.Address, former))["theme"]);
        Assert.Equal("night", (string?)(await Settings(server.Address, CookieOf(at[0])!))["theme"]);
    }

    [Fact]
    public async Task The_bin_is_emptied_by_who_filled_it()
    {
        using var one = server.NewCaller();
        using var other = server.NewCaller();
        async Task<string> Removed(Caller by)
        {
            var id = await by.NewScene();
            Assert.Equal(HttpStatusCode.NoContent, (await by.Send(HttpMethod.Delete, $"api/scenes/{id}")).StatusCode);
            return id;
        }

        async Task<bool?> Mine(Caller caller, string id) =>
            (bool?)(await caller.Get("api/bin")).AsArray().FirstOrDefault(scene => (string?)scene!["id"] == id)?["mine"];

        var (mine, theirs) = (await Removed(one), await Removed(other));
        Assert.Equal((true, false), (await Mine(one, mine), await Mine(one, theirs)));
        var refused = await one.Send(HttpMethod.Delete, $"api/bin/{theirs}");
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains("was not put into the bin by you", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await one.Send(HttpMethod.Delete, "api/bin");
        Assert.Equal((null, false), (await Mine(one, mine), await Mine(one, theirs)));

        // Of what was there before, nobody is known: nobody removes it for good.
        await server.Run($"update scenes set removed_by = null where id = '{theirs}'");
        Assert.Equal((false, false), (await Mine(one, theirs), await Mine(other, theirs)));
        Assert.Equal(HttpStatusCode.Conflict, (await other.Send(HttpMethod.Delete, $"api/bin/{theirs}")).StatusCode);

        // Anybody can bring it back, and whoever removes it then may do so for good.
        Assert.Equal(HttpStatusCode.OK, (await one.Send(HttpMethod.Post, $"api/bin/{theirs}")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await one.Send(HttpMethod.Delete, $"api/scenes/{theirs}")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await one.Send(HttpMethod.Delete, $"api/bin/{theirs}")).StatusCode);
    }

    private static string MadeUp() => Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).TrimEnd('=').Replace('+', '-').Replace('/', '_');

    private static async Task<JsonNode> Settings(Uri at, string cookie) =>
        (await (await Call(at, HttpMethod.Get, "api/me/settings", cookie)).Content.ReadFromJsonAsync<JsonNode>())!;

    private static string? CookieOf(HttpResponseMessage answer) => answer.Headers.TryGetValues("Set-Cookie", out var set) ? set.First().Split(';')[0].Split('=', 2)[1] : null;

    private static async Task<HttpResponseMessage> Call(Uri at, HttpMethod method, string path, string? cookie, object? body = null)
    {
        using var client = new HttpClient(new HttpClientHandler { UseCookies = false }) { BaseAddress = at };
        var call = new HttpRequestMessage(method, path) { Content = body is null ? null : JsonContent.Create(body) };
        if (cookie is not null)
        {
            call.Headers.Add("Cookie", $"calm-pivot-person={cookie}");
        }

        return await client.SendAsync(call);
    }
}
