using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace CalmPivot.Proof;

/// <summary>How often which status was answered; what is none of a refusal is kept in full.</summary>
internal sealed class Answers
{
    private readonly ConcurrentDictionary<int, int> _counts = new();

    /// <summary>What no caller is ever to be answered: failures of the server's own.</summary>
    public ConcurrentQueue<string> Failures { get; } = new();

    public void Count(int status, string said)
    {
        _counts.AddOrUpdate(status, 1, (_, count) => count + 1);
        if (status is 500 or > 503)
        {
            Failures.Enqueue($"{status} {said}");
        }
    }

    public override string ToString() => string.Join(", ", _counts.OrderBy(c => c.Key).Select(c => $"{(c.Key == 0 ? "unanswered" : c.Key)} × {c.Value}"));
}

/// <summary>Somebody who sends a call by its key until it is answered, as a page does: to the next server where one is away.</summary>
internal sealed class Writer(IReadOnlyList<Uri> servers, Answers answers, int at = 0) : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(90);

    private readonly HttpClient _http = new(new HttpClientHandler { CookieContainer = new CookieContainer() }) { Timeout = TimeSpan.FromSeconds(40) };

    public Uri Server => servers[at % servers.Count];

    public async Task<(int Status, JsonNode? Said)> Send(string path, JsonObject body)
    {
        for (var until = DateTime.UtcNow + Patience; DateTime.UtcNow < until;)
        {
            try
            {
                var answer = await _http.PostAsync(new Uri(Server, path), new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json"));
                var text = await answer.Content.ReadAsStringAsync();
                answers.Count((int)answer.StatusCode, text);
                if (answer.StatusCode != HttpStatusCode.ServiceUnavailable)
                {
                    return ((int)answer.StatusCode, text.Length == 0 ? null : JsonNode.Parse(text));
                }
            }
            catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException)
            {
                answers.Count(0, e.Message);
                at++;
            }

            await Task.Delay(30);
        }

        throw new InvalidOperationException($"{path} was not answered in {Patience.TotalSeconds} s.");
    }

    /// <summary>Reads until it is answered.</summary>
    public async Task<HttpContent> Read(string path)
    {
        for (var until = DateTime.UtcNow + Patience; DateTime.UtcNow < until;)
        {
            try
            {
                var answer = await _http.GetAsync(new Uri(Server, path));
                answers.Count((int)answer.StatusCode, path);
                if (answer.StatusCode != HttpStatusCode.ServiceUnavailable)
                {
                    return answer.EnsureSuccessStatusCode().Content;
                }
            }
            catch (HttpRequestException e) when (e.StatusCode is null)
            {
                answers.Count(0, e.Message);
                at++;
            }

            await Task.Delay(30);
        }

        throw new InvalidOperationException($"{path} was not answered in {Patience.TotalSeconds} s.");
    }

    public async Task<JsonNode> Json(string path) => (await (await Read(path)).ReadFromJsonAsync<JsonNode>())!;

    public void Dispose() => _http.Dispose();
}
