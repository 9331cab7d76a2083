using System.IO.Compression;
using System.Text.Json.Nodes;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Tests;

namespace CalmPivot.Proof;

/// <summary>A call as it is to be made: what stands in its path and its query, its headers, and its body as JSON or as bytes.</summary>
internal sealed record Form(Dictionary<string, string>? Path = null, Dictionary<string, string>? Query = null, JsonNode? Json = null, byte[]? Bytes = null, string? Type = null)
{
    public Dictionary<string, string> Headers { get; } = [];
}

/// <summary>What there is to call about: a scene as it stands, and what was brought into it.</summary>
internal sealed record Ground(string Id, SceneDocument Scene, Random Random)
{
    /// <summary>A scene that lies in the bin.</summary>
    public string Removed { get; set; } = "nowhere";

    public string Still { get; set; } = "nowhere";

    public string Shot => Scene.Shots.Count == 0 ? "nowhere" : Scene.Shots[Random.Next(Scene.Shots.Count)];

    public string Node => Scene.Branch(null).Select(n => n.Id).OrderBy(_ => Random.Next()).First();

    public string Geometry => Scene.Nodes.Select(n => n.Geometry).FirstOrDefault(g => g is not null) ?? "nowhere";
}

/// <summary>For each call of the API a form that is right.</summary>
internal sealed class Forms(byte[] glb, byte[] gltf)
{
    private static readonly byte[] Picture = Pictures.Png(8, 4);
    private static readonly byte[] Small = Pictures.WebP(16, 10);

    private readonly byte[] _zip = Zipped(gltf);

    /// <summary>By method and path, as the API describes itself.</summary>
    public Dictionary<string, Func<Ground, Form>> All => new()
    {
        ["GET /api/scenes"] = _ => new(),
        ["POST /api/scenes"] = g => new(Json: new JsonObject { ["name"] = "Another", ["like"] = g.Random.Next(3) switch { 0 => "start", 1 => g.Id, _ => null } }),
        ["GET /api/scenes/{id}"] = Of,
        ["PATCH /api/scenes/{id}"] = g => Of(g) with { Json = new JsonObject { ["name"] = "Renamed", ["unit"] = "cm", ["keepSteps"] = 30 } },
        ["DELETE /api/scenes/{id}"] = g => Of(g, g.Removed),
        ["GET /api/scenes/{id}/document"] = Of,
        ["GET /api/scenes/{id}/evaluated"] = g => Of(g) with { Query = Shot(g) },
        ["GET /api/scenes/{id}/derived"] = g => Of(g) with { Query = Shot(g) },
        ["GET /api/scenes/{id}/geometry/{hash}"] = g => With(g, ("hash", g.Geometry)),
        ["GET /api/scenes/{id}/geometry/{hash}/triangles"] = g => With(g, ("hash", g.Geometry)),
        ["GET /api/bin"] = _ => new(),
        ["DELETE /api/bin"] = _ => new(),
        ["POST /api/bin/{id}"] = g => Of(g, g.Removed),
        ["DELETE /api/bin/{id}"] = g => Of(g, g.Removed),
        ["POST /api/demo"] = _ => new(),
        ["POST /api/scenes/{id}/edits"] = Edits,
        ["POST /api/scenes/{id}/undo"] = Restore,
        ["POST /api/scenes/{id}/redo"] = Restore,
        ["GET /api/scenes/{id}/steps"] = g => Of(g) with { Query = new() { ["before"] = "20", ["most"] = "5" } },
        ["GET /api/scenes/{id}/log"] = g => Of(g) with { Query = new() { ["after"] = "1" } },
        ["GET /api/scenes/{id}/steps/{number}"] = g => With(g, ("number", "1")),
        ["PATCH /api/scenes/{id}/steps/{number}"] = g => With(g, ("number", "1")) with { Json = new JsonObject { ["name"] = "At first" } },
        ["POST /api/scenes/import"] = g => File(g) with { Query = new() { ["name"] = "Brought" } },
        ["POST /api/scenes/{id}/import"] = g => File(g) with
        {
            Path = Of(g).Path,
            Query = new Dictionary<string, string> { ["name"] = "Brought", ["under"] = g.Node }.Concat(Shot(g)).ToDictionary(),
        },
        ["GET /api/scenes/{id}/export"] = g => Of(g) with { Query = new Dictionary<string, string> { ["format"] = g.Random.Next(2) == 0 ? "glb" : "gltf" }.Concat(Shot(g)).ToDictionary() },
        ["GET /api/me/settings"] = _ => new(),
        ["PUT /api/me/settings"] = _ => new(Json: new JsonObject { ["theme"] = "night", ["keys"] = new JsonObject { ["move"] = "M" } }),
        ["DELETE /api/me/work/{work}"] = _ => new(Path: new() { ["work"] = "a-work" }),
        ["GET /api/scenes/{id}/selections"] = Of,
        ["PUT /api/scenes/{id}/selections"] = g => Of(g) with { Json = new JsonObject { ["name"] = "Some", ["nodes"] = new JsonArray(g.Node) } },
        ["DELETE /api/scenes/{id}/selections"] = g => Of(g) with { Query = new() { ["name"] = "Some" } },
        ["GET /api/scenes/{id}/picture"] = Of,
        ["PUT /api/scenes/{id}/picture"] = g => Of(g) with { Query = new() { ["revision"] = "1" }, Bytes = Small, Type = "image/webp" },
        ["GET /api/scenes/{id}/shots/pictures"] = Of,
        ["GET /api/scenes/{id}/shots/{shot}/picture"] = g => With(g, ("shot", g.Shot)),
        ["PUT /api/scenes/{id}/shots/{shot}/picture"] = g => With(g, ("shot", g.Shot)) with { Query = new() { ["revision"] = "1" }, Bytes = Small, Type = "image/webp" },
        ["GET /api/scenes/{id}/pictures"] = Of,
        ["POST /api/scenes/{id}/pictures"] = g => Of(g) with { Query = new() { ["name"] = "A picture", ["side"] = "64" }, Bytes = Picture, Type = "image/png" },
        ["GET /api/scenes/{id}/pictures/{hash}"] = g => With(g, ("hash", AnyEdit.Image)),
        ["DELETE /api/scenes/{id}/pictures/{hash}"] = g => With(g, ("hash", AnyEdit.Image)),
        ["GET /api/scenes/{id}/stills"] = Of,
        ["POST /api/scenes/{id}/stills"] = g => Of(g) with
        {
            Query = new() { ["revision"] = "1", ["name"] = "A still", ["passes"] = "4", ["seconds"] = "1.5", ["madeOf"] = """{"fine":true}""" },
            Bytes = Picture,
            Type = "image/png",
        },
        ["GET /api/scenes/{id}/stills/{still}"] = g => With(g, ("still", g.Still)),
        ["DELETE /api/scenes/{id}/stills/{still}"] = g => With(g, ("still", g.Random.Next(4) == 0 ? g.Still : "another")),
        ["GET /api/scenes/{id}/stills/{still}/{part}"] = g => With(g, ("still", g.Still), ("part", Part(g))),
        ["PUT /api/scenes/{id}/stills/{still}/{part}"] = g => With(g, ("still", g.Still), ("part", Part(g))) with { Bytes = Picture, Type = "image/png" },
        ["GET /api/scenes/{id}/shots"] = g => Of(g) with { Query = new() { ["format"] = new[] { "json", "csv", "otio" }[g.Random.Next(3)] } },
        ["POST /api/scenes/{id}/shots/import"] = g => Of(g) with { Bytes = "name,frames\nOne,48\nNew,96\n"u8.ToArray(), Type = "text/csv", Query = g.Random.Next(2) == 0 ? new() { ["only"] = "ask" } : null },
        ["GET /api/scenes/{id}/shots/{shot}/diff"] = g => With(g, ("shot", g.Shot)) with { Query = new() { ["with"] = "scene" } },
        ["GET /api/scenes/{id}/unused"] = Of,
        ["DELETE /api/scenes/{id}/unused"] = Of,
    };

    /// <summary>An edit of a verb, in any scope, on the scene as it stands.</summary>
    public static Form Edit(Ground ground, string verb)
    {
        var seed = ground.Random.Next();
        var body = new JsonObject
        {
            ["base"] = ground.Scene.Revision,
            ["key"] = Guid.NewGuid().ToString(),
            ["edits"] = JsonNode.Parse(WireJson.Write<Edit[]>([AnyEdit.Of(verb, ground.Scene, seed)])),
        };
        if (AnyEdit.ScopeOf(ground.Scene, seed) is { Shot: { } shot } scope)
        {
            (body["shot"], body["scope"]) = (shot, scope.Narrow ? "shot" : "every");
        }

        return Of(ground) with { Json = body };
    }

    private static Form Edits(Ground ground) => Edit(ground, "move");

    private static Form Restore(Ground ground) => Of(ground) with { Json = new JsonObject { ["base"] = ground.Scene.Revision, ["key"] = Guid.NewGuid().ToString(), ["to"] = ground.Random.Next(2) == 0 ? 1 : null } };

    private static Form Of(Ground ground) => Of(ground, ground.Id);

    private static Form Of(Ground ground, string id) => new(Path: new() { ["id"] = id });

    private static Form With(Ground ground, params (string Name, string Value)[] more) => new(Path: more.Append(("id", ground.Id)).ToDictionary(m => m.Item1, m => m.Item2));

    private static Dictionary<string, string> Shot(Ground ground) => ground.Random.Next(2) == 0 || ground.Scene.Shots.Count == 0 ? [] : new() { ["shot"] = ground.Shot };

    private static string Part(Ground ground) => new[] { "small", "depth", "mask" }[ground.Random.Next(3)];

    private Form File(Ground ground) => ground.Random.Next(3) switch
    {
        0 => new(Bytes: glb, Type: "model/gltf-binary"),
        1 => new(Bytes: gltf, Type: "model/gltf+json"),
        _ => new(Bytes: _zip, Type: "application/zip"),
    };

    private static byte[] Zipped(byte[] file)
    {
        using var whole = new MemoryStream();
        using (var archive = new ZipArchive(whole, ZipArchiveMode.Create))
        using (var entry = archive.CreateEntry("scene.gltf").Open())
        {
            entry.Write(file);
        }

        return whole.ToArray();
    }
}
