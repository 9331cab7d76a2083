using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;

namespace CalmPivot.Server.Tests;

[Collection(nameof(OneServer))]
public sealed class EditCallsTests(RunningServer server) : IDisposable
{
    private readonly Caller _ada = server.NewCaller();
    private readonly Caller _ben = server.NewCaller();

    public void Dispose()
    {
        _ada.Dispose();
        _ben.Dispose();
    }

    [Fact]
    public async Task An_edit_answers_with_revision_step_and_what_changed()
    {
        var id = await _ada.NewScene();
        var answer = await _ada.Edit(id, 2, Caller.Move("a", 1));
        Assert.Equal(3, (long)answer["revision"]!);
        Assert.Equal("Moved A +1 m along the world's X", (string?)answer["step"]!["sentence"]);
        var changed = Assert.Single(answer["changed"]!.AsArray())!;
        Assert.Equal("a", (string?)changed["id"]);
        Assert.Equal(1, (double)changed["placement"]!["position"]![0]!);
        Assert.Empty(answer["removed"]!.AsArray());
        Assert.Equal(1, await _ben.XOf(id, "a"));
    }

    [Fact]
    public async Task A_minimal_answer_is_short_and_the_same_call_gives_it_in_full()
    {
        var id = await _ada.NewScene();
        var body = new { @base = 2, key = Guid.NewGuid(), edits = new[] { Caller.Move("a", 1) } };
        var request = new HttpRequestMessage(HttpMethod.Post, $"api/scenes/{id}/edits") { Content = JsonContent.Create(body) };
        request.Headers.Add("Prefer", "return=minimal");
        var response = await _ada.Http.SendAsync(request);
        Assert.Equal("return=minimal", response.Headers.GetValues("Preference-Applied").Single());
        var answer = (await response.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Null(answer["changed"]);
        Assert.Equal(3, (long)answer["revision"]!);
        Assert.Equal("Moved A +1 m along the world's X", (string?)answer["step"]!["sentence"]);
        var full = await _ada.Post($"api/scenes/{id}/edits", body);
        Assert.Equal((string?)full["digest"], (string?)answer["digest"]);
        Assert.Equal("a", (string?)full["changed"]![0]!["id"]);
    }

    [Fact]
    public async Task A_call_sent_again_with_its_key_gets_its_first_answer_and_is_not_done_twice()
    {
        var id = await _ada.NewScene();
        var body = new { @base = 2, key = Guid.NewGuid(), edits = new[] { Caller.Move("a", 1) } };
        var first = await _ada.Post($"api/scenes/{id}/edits", body);
        var second = await _ada.Post($"api/scenes/{id}/edits", body);
        Assert.Equal(first.ToJsonString(), second.ToJsonString());
        Assert.Equal(1, await _ada.XOf(id, "a"));
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 3, key = body.key, edits = new[] { Caller.Move("a", 2) } }, 409, "key-reused");
    }

    [Fact]
    public async Task A_stale_caller_is_refused_only_where_the_node_itself_has_changed()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Caller.Move("a", 1));
        await _ben.Edit(id, 2, Caller.Move("b", 1));
        var problem = await _ben.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { Caller.Move("a", 5) } }, 409, "changed-meanwhile");
        Assert.Contains("“A”", (string)problem["detail"]!, StringComparison.Ordinal);
        Assert.Equal(1, await _ada.XOf(id, "a"));
    }

    [Fact]
    public async Task Undo_and_redo_are_each_persons_own()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Caller.Move("a", 1));
        await _ben.Edit(id, 3, Caller.Move("b", 1));
        await _ada.Post($"api/scenes/{id}/undo", new { @base = 4 });
        Assert.Equal((0, 1), (await _ada.XOf(id, "a"), await _ada.XOf(id, "b")));
        await _ada.Post($"api/scenes/{id}/redo", new { @base = 5 });
        Assert.Equal(1, await _ada.XOf(id, "a"));
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/redo", new { @base = 6 }, 409, "nothing-to-undo");
        await _ben.Edit(id, 6, Caller.Move("a", 1));
        await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/undo", new { @base = 7 }, 409, "changed-meanwhile");
    }

    [Fact]
    public async Task An_edit_that_changes_nothing_makes_no_step_and_drops_no_redo()
    {
        var id = await _ada.NewScene();
        var made = new { @base = 2, key = Guid.NewGuid(), edits = new[] { new { @do = "place", node = "a", placement = new { position = new[] { 1, 0, 0 } } } } };
        var first = await _ada.Post($"api/scenes/{id}/edits", made);
        await _ada.Edit(id, 3, Caller.Move("b", 1));
        await _ada.Post($"api/scenes/{id}/undo", new { @base = 4 });

        var again = made with { @base = 5, key = Guid.NewGuid() };
        var problem = await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", again, 409, "nothing-to-change");
        Assert.Equal("Nothing to change: it is so already.", (string?)problem["detail"]);
        Assert.Equal((5, 3), ((long)(await _ada.Get($"api/scenes/{id}"))["revision"]!, (await _ada.Get($"api/scenes/{id}/steps")).AsArray().Count));

        // What was made is answered again, though it would change nothing any more.
        Assert.Equal(first.ToJsonString(), (await _ada.Post($"api/scenes/{id}/edits", made)).ToJsonString());
        await _ada.Post($"api/scenes/{id}/redo", new { @base = 5 });
        Assert.Equal(1, await _ada.XOf(id, "b"));
    }

    [Fact]
    public async Task Undo_goes_back_to_a_step_in_one_go()
    {
        var id = await _ada.NewScene();
        for (var i = 0; i < 5; i++)
        {
            await _ada.Edit(id, 2 + i, Caller.Move("a", 1));
        }

        await _ada.Post($"api/scenes/{id}/undo", new { @base = 7, to = 3 });
        Assert.Equal(2, await _ada.XOf(id, "a"));
        var steps = (await _ada.Get($"api/scenes/{id}/steps")).AsArray();
        Assert.Equal([false, false, false, true, true, true], steps.Select(s => (bool)s!["undone"]!));
        await _ada.Post($"api/scenes/{id}/redo", new { @base = 8, to = 6 });
        Assert.Equal(5, await _ada.XOf(id, "a"));
    }

    [Fact]
    public async Task History_outlives_the_server()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Caller.Move("a", 1));
        server.Kill();
        await server.Start();
        Assert.Equal(1, await _ada.XOf(id, "a"));
        await _ada.Post($"api/scenes/{id}/undo", new { @base = 3 });
        Assert.Equal(0, await _ada.XOf(id, "a"));
    }

    [Fact]
    public async Task When_the_server_is_killed_no_answered_edit_is_lost_and_none_is_half_there()
    {
        var id = await _ada.NewScene();
        for (var round = 0; round < 3; round++)
        {
            var answered = await _ada.XOf(id, "a");
            var seen = (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!;
            var killing = Task.Delay(120 + 90 * round).ContinueWith(_ => server.Kill(), TaskScheduler.Default);
            try
            {
                // Both nodes move in each edit, so that half an edit would show.
                while (true)
                {
                    var answer = await _ada.Edit(id, seen, Caller.Move("a", 1), Caller.Move("b", 1));
                    seen = (long)answer["revision"]!;
                    answered++;
                }
            }
            catch (HttpRequestException)
            {
                // The server is gone.
            }

            await killing;
            await server.Start();
            var (a, b) = (await _ada.XOf(id, "a"), await _ada.XOf(id, "b"));
            Assert.Equal(a, b);
            Assert.InRange(a, answered, answered + 1);
            Assert.Equal(a, await server.Query<long>($"select count(*) from steps s join scenes c on c.no = s.scene where c.id = '{id}' and number > 1"));
        }
    }

    [Fact]
    public async Task An_edit_writes_its_nodes_and_one_row_of_history()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Caller.Move("a", 1));
        var scene = await server.Query<long>($"select no from scenes where id = '{id}'");
        Assert.Equal(1, await server.Query<long>($"select count(*) from nodes n, log l where n.scene = {scene} and l.scene = {scene} and l.revision = 3 and n.xmin = l.xmin"));
        Assert.Equal(2, await server.Query<long>($"select count(*) from steps where scene = {scene}"));
        Assert.Equal(2, await server.Query<long>($"select count(*) from log where scene = {scene}"));
        Assert.Equal(2, await server.Query<int>($"select node_count from scenes where id = '{id}'"));
    }

    [Fact]
    public async Task Pages_on_the_scene_hear_of_every_step()
    {
        var id = await _ada.NewScene();
        await using var hub = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var heard = new TaskCompletionSource<JsonNode>();
        hub.On<JsonNode>("stepped", step => heard.TrySetResult(step));
        await hub.StartAsync();
        await hub.InvokeAsync("Join", id);
        await _ada.Edit(id, 2, Caller.Move("a", 1));
        var step = await heard.Task.WaitAsync(TimeSpan.FromSeconds(10));
        Assert.Equal(3, (long)step["revision"]!);
        Assert.Equal("a", (string?)step["changed"]![0]!["id"]);
    }

    [Fact]
    public async Task A_page_is_not_told_what_it_has_been_answered()
    {
        var id = await _ada.NewScene();
        await using var own = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        await using var other = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var (heardByOwn, heardByOther) = (new List<long>(), new List<long>());
        var both = new TaskCompletionSource();
        own.On<JsonNode>("stepped", step => heardByOwn.Add((long)step["revision"]!));
        other.On<JsonNode>("stepped", step =>
        {
            heardByOther.Add((long)step["revision"]!);
            if (heardByOther.Count == 2)
            {
                both.TrySetResult();
            }
        });
        foreach (var hub in new[] { own, other })
        {
            await hub.StartAsync();
            await hub.InvokeAsync("Join", id);
        }

        var request = new HttpRequestMessage(HttpMethod.Post, $"api/scenes/{id}/edits") { Content = JsonContent.Create(new { @base = 2, edits = new[] { Caller.Move("a", 1) } }) };
        request.Headers.Add("Page-Connection", own.ConnectionId);
        (await _ada.Http.SendAsync(request)).EnsureSuccessStatusCode();
        await _ada.Edit(id, 3, Caller.Move("a", 1));
        await both.Task.WaitAsync(TimeSpan.FromSeconds(10));
        await own.InvokeAsync("Picked", id, Array.Empty<string>());
        Assert.Equal([3, 4], heardByOther);
        Assert.Equal([4], heardByOwn);
    }

    [Fact]
    public async Task Pages_on_the_scene_hear_what_the_others_have_picked_until_they_leave()
    {
        var id = await _ada.NewScene();
        await using var one = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var other = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var (joined, picked, left) = (new TaskCompletionSource(), new TaskCompletionSource<JsonNode>(), new TaskCompletionSource<JsonNode>());
        one.On("joined", joined.SetResult);
        one.On<JsonNode>("picked", said => (said["nodes"]!.AsArray().Count > 0 ? picked : left).TrySetResult(said));
        await one.StartAsync();
        await one.InvokeAsync("Join", id);
        await other.StartAsync();
        await other.InvokeAsync("Join", id);
        await joined.Task.WaitAsync(TimeSpan.FromSeconds(10));
        await other.InvokeAsync("Picked", id, new[] { "a", "b" });
        var said = await picked.Task.WaitAsync(TimeSpan.FromSeconds(10));
        Assert.Equal(["a", "b"], said["nodes"]!.AsArray().Select(n => (string?)n));
        await other.DisposeAsync();
        Assert.Equal((string?)said["page"], (string?)(await left.Task.WaitAsync(TimeSpan.FromSeconds(10)))["page"]);
    }

    [Fact]
    public async Task What_one_page_tries_the_others_hear_and_nothing_of_it_counts()
    {
        var id = await _ada.NewScene();
        await using var one = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        await using var other = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var (tried, ended, own) = (new TaskCompletionSource<JsonNode>(), new TaskCompletionSource<JsonNode>(), new TaskCompletionSource<JsonNode>());
        one.On<JsonNode>("trying", said => (said["edits"] is null ? ended : tried).TrySetResult(said));
        other.On<JsonNode>("trying", own.SetResult);
        await one.StartAsync();
        await one.InvokeAsync("Join", id);
        await other.StartAsync();
        await Assert.ThrowsAsync<HubException>(() => other.InvokeAsync("Trying", id, 2, "[]"));
        await other.InvokeAsync("Join", id);
        await other.InvokeAsync("Trying", id, 2, """[{"do":"move"}]""");
        var said = await tried.Task.WaitAsync(TimeSpan.FromSeconds(10));
        Assert.Equal((2, """[{"do":"move"}]"""), ((long)said["revision"]!, (string?)said["edits"]));
        await other.InvokeAsync("Trying", id, 2, null);
        Assert.Equal((string?)said["page"], (string?)(await ended.Task.WaitAsync(TimeSpan.FromSeconds(10)))["page"]);
        await Assert.ThrowsAsync<HubException>(() => other.InvokeAsync("Trying", id, 2, new string('x', 9000)));
        Assert.False(own.Task.IsCompleted);
        Assert.Equal(2, (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!);
    }

    [Fact]
    public async Task A_late_edit_is_refused_with_what_was_done_and_where_it_stands_now()
    {
        var id = await _ada.NewScene();
        await _ada.Edit(id, 2, Caller.Move("a", 3));
        var problem = await _ada.Refused(HttpMethod.Post, $"api/scenes/{id}/edits", new { @base = 2, edits = new[] { Caller.Move("a", 1) } }, 409, "changed-meanwhile");
        Assert.Equal(
            "“A” has been changed meanwhile (“Moved A +3 m along the world's X”), so this edit was not made. It stands at (3, 0, 0) m now. Make it again if you still want it.",
            (string?)problem["detail"]);
    }

    public static TheoryData<string, int, string> Wrong => new()
    {
        { """{"base":2,"edits":[]}""", 400, "not-understood" },
        { """{"base":2,"edits":[null]}""", 400, "not-understood" },
        { """{"edits":[]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"move"}]}""", 400, "not-understood" },
        { """{"base":2,"edits":"all"}""", 400, "not-understood" },
        { """{"base":2,""", 400, "not-understood" },
        { """{"base":2,"edits":[{"nodes":["a"]}]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"move","nodes":["a"],"by":[1,0,0],"space":{}}]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"rotate","nodes":["a"],"by":5,"axis":"y","space":{"kind":"own"},"about":{}}]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"steer","node":"a","view":[0,0,0,0,0,0,0,0,0,0,0,0,0,0,0,1]}]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"rename","node":"a","name":"x","colour":"red"}]}""", 400, "not-understood" },
        { """{"base":2,"edits":[{"do":"rename","node":"zz","name":"x"}]}""", 404, "not-found" },
        { """{"base":2,"edits":[{"do":"putUnder","nodes":["a"],"parent":"a"}]}""", 422, "would-loop" },
        { """{"base":2,"edits":[{"do":"place","node":"a","placement":{"scale":[0,1,1]}}]}""", 422, "zero-scale" },
        { """{"base":2,"edits":[{"do":"setShape","node":"a","shape":{"type":"teapot"}}]}""", 400, "not-understood" },
    };

    [Theory]
    [MemberData(nameof(Wrong))]
    public async Task Bad_calls_are_refused_and_change_nothing(string body, int status, string refusal)
    {
        var id = await _ada.NewScene();
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        var response = await _ada.Http.PostAsync($"api/scenes/{id}/edits", content);
        var problem = JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
        Assert.Equal((status, refusal), ((int)response.StatusCode, (string?)problem["refusal"]));
        Assert.Equal(2, (long)(await _ada.Get($"api/scenes/{id}"))["revision"]!);
    }

    [Fact]
    public async Task A_body_beyond_the_limit_is_refused_as_too_large()
    {
        var id = await _ada.NewScene();
        using var content = new StringContent(new string(' ', 17 * 1024 * 1024) + "{}", Encoding.UTF8, "application/json");
        var request = new HttpRequestMessage(HttpMethod.Post, $"api/scenes/{id}/edits") { Content = content };
        request.Headers.ExpectContinue = true;
        var response = await _ada.Http.SendAsync(request);
        Assert.Equal(413, (int)response.StatusCode);
    }

    [Fact]
    public async Task A_page_can_ask_that_a_refusal_is_an_answer_and_no_failed_call()
    {
        var id = await _ada.NewScene();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"api/scenes/{id}/redo") { Content = JsonContent.Create(new { @base = 2 }) };
        request.Headers.Add("Prefer", "handling=lenient");
        var response = await _ada.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        Assert.Equal("handling=lenient", response.Headers.GetValues("Preference-Applied").Single());
        Assert.Equal("nothing-to-undo", (string?)JsonNode.Parse(await response.Content.ReadAsStringAsync())!["refusal"]);
        Assert.Equal(HttpStatusCode.Conflict, (await _ada.Http.PostAsJsonAsync($"api/scenes/{id}/redo", new { @base = 2 })).StatusCode);
    }

    [Fact]
    public async Task Pages_hear_at_once_that_their_scene_is_gone()
    {
        var id = await _ada.NewScene();
        await using var hub = new HubConnectionBuilder().WithUrl(new Uri(server.Address, "hub")).Build();
        var gone = new TaskCompletionSource();
        hub.On("gone", gone.SetResult);
        await hub.StartAsync();
        await hub.InvokeAsync("Join", id);
        await _ada.Http.DeleteAsync($"api/scenes/{id}");
        await gone.Task.WaitAsync(TimeSpan.FromSeconds(20));
    }
}
