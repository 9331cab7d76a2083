using System.Globalization;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Exchange;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The calls that bring open files in and send scenes out.</summary>
internal static class ExchangeCalls
{
    private const long MostBytes = 256L * 1024 * 1024;

    public static void Map(IEndpointRouteBuilder api)
    {
        string[] types = ["model/gltf-binary", "model/gltf+json", "application/zip"];
        api.MapPost("/scenes/import", ImportNew).Accepts<byte[]>(types[0], types[1], types[2])
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes)).Produces<SceneAnswer>(201);
        api.MapPost("/scenes/{id}/import", ImportInto).Accepts<byte[]>(types[0], types[1], types[2])
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes)).Produces<StepAnswer>();
        api.MapGet("/scenes/{id}/export", Export);
    }

    private static async Task<IResult> ImportNew(HttpContext context, SceneStore store, BlobStore blobs, string? name = null)
    {
        var file = await Read(context);
        var scene = new SceneDocument(
            Guid.NewGuid().ToString("N"), Rename.Fitting(name ?? "Imported scene"), "m", 1, file.Nodes, blobs);
        await store.Create(scene, BlobsOf(file));
        return Results.Created($"/api/scenes/{scene.Id}", SceneCalls.AnswerOf(scene, file.Notes));
    }

    private static async Task<IResult> ImportInto(
        string id, HttpContext context, OpenScenes scenes, string? under = null, string? name = null, string? at = null, string? mark = null)
    {
        var scene = await scenes.Get(id);
        var point = PointOf(at);
        var file = await Read(context);
        var answer = await scene.Change(
            Person.Of(context),
            $"Imported {Core.Words.Speaker.Quoted(name ?? "a file")}: {file.Nodes.Count} objects",
            into => ImportedFile.Under(into, file.Nodes, under, mark is null ? point : MarkOf(into, mark)),
            BlobsOf(file));
        var full = System.Text.Json.Nodes.JsonNode.Parse(answer)!.AsObject();
        full["notes"] = new System.Text.Json.Nodes.JsonArray([.. file.Notes.Select(n => (System.Text.Json.Nodes.JsonNode?)n)]);
        return Results.Text(full.ToJsonString(), "application/json");
    }

    /// <summary>A point of the world, written as three numbers with commas.</summary>
    private static Affine? PointOf(string? at)
    {
        if (at is null)
        {
            return null;
        }

        double[] numbers = [.. at.Split(',').Select(text =>
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : double.NaN)];
        return numbers.Length == 3 && numbers.All(double.IsFinite)
            ? new Affine(Mat3.Identity, new(numbers[0], numbers[1], numbers[2]))
            : throw new Refusal(Refusals.NotUnderstood, "A point to import at is three numbers with commas, such as 1,0,2.5.");
    }

    private static Affine MarkOf(IScene scene, string mark)
    {
        var draft = new SceneDraft(scene);
        var node = Marks.Get(draft, mark);
        return new(Marks.Axes(draft, node), draft.World(node).Offset);
    }

    private static async Task<IResult> Export(string id, OpenScenes scenes, BlobStore blobs, string format = "glb")
    {
        if (format is not ("glb" or "gltf"))
        {
            throw new Refusal(Refusals.UnsupportedFile, $"“{format}” cannot be written. Use glb or gltf.");
        }

        var scene = await scenes.Get(id);
        var (name, nodes) = await scene.Read((document, _) => (document.Name, document.Branch(null).ToList()));
        var images = new Dictionary<string, byte[]>();
        foreach (var hash in nodes.SelectMany(n => n.Materials).SelectMany(m => m.Textures).Select(t => t.Image).Distinct())
        {
            if (await blobs.Read(id, hash) is { } blob)
            {
                images[hash] = blob.Bytes;
            }
        }

        var snapshot = new SceneDocument(id, name, "m", 0, nodes, blobs);
        var bytes = GltfWriter.Write(snapshot, images, binary: format == "glb");
        return Results.File(
            bytes,
            format == "glb" ? "model/gltf-binary" : "model/gltf+json",
            string.Concat(name.Select(c => char.IsLetterOrDigit(c) || c is ' ' or '-' or '_' ? c : '_')).Trim() + "." + format);
    }

    private static async Task<ImportedFile> Read(HttpContext context)
    {
        using var body = new MemoryStream();
        await context.Request.Body.CopyToAsync(body, context.RequestAborted);
        return GltfReader.Read(body.ToArray());
    }

    private static List<Blob> BlobsOf(ImportedFile file) =>
    [
        .. file.Geometries.Select(g => new Blob(g.Key, BlobStore.GeometryType, g.Value)),
        .. file.Images.Select(i => new Blob(i.Key, i.Value.MediaType, i.Value.Bytes)),
    ];
}
