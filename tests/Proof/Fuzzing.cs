using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Demo;

namespace CalmPivot.Proof;

/// <summary>
/// Every call of the API, by forms that are right but for one field at most: none makes the server fail, each call and each verb is done often enough to say so, and
/// what is left of a scene can be read.
/// </summary>
internal static class Fuzzing
{
    private const int LeastAccepted = 20;
    private const int LeastCalls = 60;
    private static readonly TimeSpan Most = TimeSpan.FromMinutes(12);

    private static readonly string[] Odd =
    [
        "null", "0", "-1", "0.5", "1e999", "-1e308", "1e-300", "2147483648", "9223372036854775808", "true", "\"\"", "\" \"", "\"\\u0000\"", "\"\\ud83d\"", "\"x\"", "\"nowhere\"", "\"../../etc\"",
        "[]", "{}", "[[]]", "[null]", "[1e999,0,0]", "[1,2]", "[0,0,0]", "[\"hall\",\"hall\"]", "[\"nowhere\"]", "{\"kind\":\"own\"}", "{\"kind\":7}", "{\"a\":{\"b\":[]}}",
    ];

    private const string Place = "@odd@";

    private static readonly string[] OddTexts =
    [
        "", " ", "%00", "%", "%ED%A0%80", "%F0%9F%98%80", "..", "nowhere", "-1", "0", "1e999", "9223372036854775808", "null", "true", new('x', 3_000), "%2e%2e%2f", "a%2Fb", "%0d%0a", "'--", "{id}",
    ];

    public static async Task<string> Run()
    {
        await using var server = ServerProcess.New();
        await server.Start();
        using var first = new HttpClient { BaseAddress = server.Address };
        var described = (await first.GetFromJsonAsync<JsonNode>("openapi/v1.json"))!["paths"]!.AsObject()
            .SelectMany(path => path.Value!.AsObject().Where(o => o.Key is "get" or "put" or "post" or "delete" or "patch").Select(o => $"{o.Key.ToUpperInvariant()} {path.Key}")).ToHashSet();
        var source = await House.Room(3);
        var forms = new Forms(await first.GetByteArrayAsync($"api/scenes/{source}/export?format=glb"), await first.GetByteArrayAsync($"api/scenes/{source}/export?format=gltf")).All;
        Check.That(described.SetEquals(forms.Keys), $"Without a form: {string.Join(", ", described.Except(forms.Keys))}; no longer there: {string.Join(", ", forms.Keys.Except(described))}.");

        var random = new Random(11);
        var accepted = AnyEdit.Verbs.ToDictionary(verb => verb, _ => 0);
        var (well, tried, calls, refused, failures) = (forms.Keys.ToDictionary(k => k, _ => 0), forms.Keys.ToDictionary(k => k, _ => 0), 0, 0, new List<string>());
        bool Enough() => accepted.Values.All(count => count >= LeastAccepted) && tried.Values.All(count => count >= LeastCalls) && well.All(w => w.Value > 0);
        for (var until = DateTime.UtcNow + Most; !Enough() && DateTime.UtcNow < until && failures.Count < 20;)
        {
            using var http = new HttpClient(new HttpClientHandler { CookieContainer = new CookieContainer() }) { BaseAddress = server.Address };
            var ground = await NewGround(http, random);
            async Task<bool> Call(string operation, Form form)
            {
                var spoiled = random.Next(2) == 0 ? Spoiled(form, random) : form;
                using var request = Request(operation, spoiled);
                using var answer = await http.SendAsync(request);
                calls++;
                tried[operation]++;
                if ((int)answer.StatusCode >= 500)
                {
                    failures.Add($"{(int)answer.StatusCode} {operation} {request.RequestUri} {(spoiled.Type is null ? Encoding.UTF8.GetString(spoiled.Bytes ?? []) : $"{spoiled.Bytes?.Length} bytes")} {await answer.Content.ReadAsStringAsync()}");
                }

                refused += answer.IsSuccessStatusCode ? 0 : 1;
                well[operation] += answer.IsSuccessStatusCode ? 1 : 0;
                if (answer.IsSuccessStatusCode && operation == "POST /api/scenes/{id}/stills")
                {
                    ground.Still = (string)(await answer.Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
                }

                return answer.IsSuccessStatusCode;
            }

            foreach (var verb in AnyEdit.Verbs.Where(v => accepted[v] < LeastAccepted || random.Next(4) == 0).OrderBy(_ => random.Next()))
            {
                for (var again = 0; again < 3; again++)
                {
                    ground = ground with { Scene = SceneBinary.Read(await http.GetByteArrayAsync($"api/scenes/{ground.Id}/document"), NoGeometries.Instance) };
                    Form form;
                    try
                    {
                        form = Forms.Edit(ground, verb);
                    }
                    catch (Exception e) when (e is Refusal or KeyNotFoundException or InvalidOperationException)
                    {
                        continue;
                    }

                    accepted[verb] += await Call("POST /api/scenes/{id}/edits", form) ? 1 : 0;
                }
            }

            ground = await NewGround(http, random);
            foreach (var (operation, make) in forms.OrderBy(_ => random.Next()))
            {
                for (var again = 0; again < 2; again++)
                {
                    await Call(operation, make(ground));
                }
            }

            foreach (var path in new[] { "", "/evaluated", "/document", "/export?format=glb", "/export?format=gltf", "/steps", "/shots" })
            {
                using var read = await http.GetAsync($"api/scenes/{ground.Id}{path}");
                if (!read.IsSuccessStatusCode && read.StatusCode != HttpStatusCode.NotFound)
                {
                    failures.Add($"{(int)read.StatusCode} reading {path}: {await read.Content.ReadAsStringAsync()}");
                }
            }
        }

        Check.That(failures.Count == 0, string.Join('\n', failures.Select(f => f[..Math.Min(f.Length, 1_500)])));
        Check.That(Enough(), $"Too seldom accepted: {string.Join(", ", accepted.Where(a => a.Value < LeastAccepted).Select(a => $"{a.Key} {a.Value}"))}; never: {string.Join(", ", well.Where(w => w.Value == 0).Select(w => w.Key))}.");
        return $"{calls} calls of {forms.Count} kinds, {refused} refused, none failed; {accepted.Count} verbs, each accepted {accepted.Values.Min()} times or more";
    }

    private static async Task<Ground> NewGround(HttpClient http, Random random)
    {
        var id = await House.Room(random.Next());
        var removed = (string)(await (await http.PostAsJsonAsync("api/scenes", new { name = "To be removed" })).Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        return new(id, SceneBinary.Read(await http.GetByteArrayAsync($"api/scenes/{id}/document"), NoGeometries.Instance), random) { Removed = removed };
    }

    private static HttpRequestMessage Request(string operation, Form form)
    {
        var (method, path) = (operation.Split(' ')[0], operation.Split(' ')[1].TrimStart('/'));
        foreach (var (name, value) in form.Path ?? [])
        {
            path = path.Replace($"{{{name}}}", value, StringComparison.Ordinal);
        }

        // Values that are right have nothing to be escaped but what is in JSON; the odd ones are as they are.
        var query = string.Join('&', (form.Query ?? []).Select(q => $"{q.Key}={(OddTexts.Contains(q.Value) ? q.Value : Uri.EscapeDataString(q.Value))}"));
        var request = new HttpRequestMessage(new(method), query.Length == 0 ? path : $"{path}?{query}");
        if ((form.Bytes ?? (form.Json is { } json ? Encoding.UTF8.GetBytes(json.ToJsonString()) : null)) is { } bytes)
        {
            request.Content = new ByteArrayContent(bytes);
            request.Content.Headers.TryAddWithoutValidation("Content-Type", form.Type ?? "application/json");
        }

        foreach (var (name, value) in form.Headers)
        {
            request.Headers.TryAddWithoutValidation(name, value);
        }

        return request;
    }

    /// <summary>The same, but for one field: of its path, its query, its headers, or its body.</summary>
    private static Form Spoiled(Form form, Random random)
    {
        var text = OddTexts[random.Next(OddTexts.Length)];
        switch (random.Next(8))
        {
            case 0 when form.Path is { Count: > 0 } path:
                return form with { Path = new(path) { [path.Keys.ElementAt(random.Next(path.Count))] = text } };
            case 1 or 2 when form.Query is { Count: > 0 } query:
                var name = query.Keys.ElementAt(random.Next(query.Count));
                return form with { Query = random.Next(4) == 0 ? query.Where(q => q.Key != name).ToDictionary() : new(query) { [name] = text } };
            case 3 when form.Type is not null:
                return form with { Type = new[] { "application/json", "text/plain", "image/png", "model/gltf-binary", "nothing", "" }[random.Next(6)] };
            case 4:
                var said = form with { };
                said.Headers[new[] { "Prefer", "Page-Connection", "Work", "Cookie", "If-None-Match", "Range", "Accept" }[random.Next(7)]] = text;
                return said;
            default:
                return form.Json is { } json ? form with { Json = null, Bytes = Encoding.UTF8.GetBytes(SpoiledJson(json, random)) }
                    : form.Bytes is { Length: > 0 } bytes ? form with { Bytes = SpoiledBytes(bytes, random) } : form;
        }
    }

    private static byte[] SpoiledBytes(byte[] bytes, Random random)
    {
        if (random.Next(4) == 0)
        {
            return bytes[..random.Next(bytes.Length)];
        }

        byte[] spoiled = [.. bytes];
        spoiled[random.Next(spoiled.Length)] = (byte)random.Next(256);
        return spoiled;
    }

    private static string SpoiledJson(JsonNode json, Random random)
    {
        var whole = json.DeepClone();
        var places = new List<(JsonNode In, string? Name, int At)>();
        void Find(JsonNode? node)
        {
            switch (node)
            {
                case JsonObject fields:
                    foreach (var (name, value) in fields)
                    {
                        places.Add((fields, name, 0));
                        Find(value);
                    }

                    break;
                case JsonArray list:
                    for (var i = 0; i < list.Count; i++)
                    {
                        places.Add((list, null, i));
                        Find(list[i]);
                    }

                    break;
            }
        }

        Find(whole);
        var (within, named, at) = places[random.Next(places.Count)];
        var odd = Odd[random.Next(Odd.Length)];
        var value = random.Next(6) == 0 ? null : JsonValue.Create(Place);
        switch (within)
        {
            case JsonObject fields when random.Next(5) == 0:
                fields.Remove(named!);
                break;
            case JsonObject fields when random.Next(12) == 0:
                fields["unknown"] = value;
                break;
            case JsonObject fields:
                fields[named!] = value;
                break;
            case JsonArray list:
                list[at] = value;
                break;
        }

        // Written as text: what is no number, or no whole letter, no JSON of ours could hold.
        return whole.ToJsonString().Replace($"\"{Place}\"", odd, StringComparison.Ordinal);
    }
}
