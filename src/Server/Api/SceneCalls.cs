using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CalmPivot.Server.Demo;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The calls on whole scenes.</summary>
internal static class SceneCalls
{
    /// <summary>A hundred years.</summary>
    private const int MostKept = 36_500;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes", (HttpContext context, SceneStore store) => store.List(Person.Of(context))).Produces<List<SceneSummary>>();
        api.MapPost("/scenes", Create).Produces<SceneAnswer>(201).RequireRateLimiting(Limits.Scenes);
        api.MapGet("/scenes/{id}", Read).Produces<SceneAnswer>();
        api.MapGet("/scenes/{id}/document", Document).Produces(200, contentType: "application/octet-stream");
        api.MapPatch("/scenes/{id}", Describe).Produces<SceneAnswer>();
        api.MapDelete("/scenes/{id}", Delete).Produces(204);
        api.MapGet("/scenes/{id}/evaluated", Evaluated).Produces<EvaluatedAnswer>();
        api.MapGet("/scenes/{id}/derived", DerivedOf).Produces<DerivedAnswer>();
        api.MapGet("/scenes/{id}/geometry/{hash}", Geometry).Produces(200, contentType: BlobStore.GeometryType);
        api.MapGet("/scenes/{id}/geometry/{hash}/triangles", Triangles).Produces(200, contentType: "application/octet-stream");
        api.MapGet("/bin", (HttpContext context, SceneStore store) => store.Bin(Person.Of(context))).Produces<List<RemovedScene>>();
        api.MapPost("/bin/{id}", BringBack).Produces<SceneAnswer>();
        api.MapDelete("/bin/{id}", RemoveForGood).Produces(204);
        api.MapDelete("/bin", EmptyBin).Produces(204);
        api.MapPost("/demo", RestoreDemo).Produces<SceneAnswer>();
    }

    internal static SceneAnswer AnswerOf(SceneDocument scene, IReadOnlyList<string>? notes = null, int? keepSteps = null) =>
        new(scene.Id, scene.Name, scene.Revision, scene.Unit, [.. NodeData.All(scene)], [.. NodeData.Marks(scene)], [.. EntityData.Collected(scene)], [.. scene.AllMaterials().Select((material, i) => new EntityData(material, i))],
            [.. scene.AllShots().Select((shot, i) => new EntityData(shot, i))], [.. scene.Shots.SelectMany(scene.CheatsOf).Select(cheat => new EntityData(cheat))], scene.Timing.Fps, scene.Timing.FirstFrame, new EntityData(scene.Surroundings), notes, keepSteps);

    private static async Task<IResult> Create(NewSceneRequest request, SceneStore store, BlobStore blobs, PictureStore pictures, OpenScenes scenes)
    {
        var name = Rename.Fitting(request.Name);
        var (unit, nodes, copied) = request.Like switch
        {
            null => ("m", new List<Entity>(), 0L),
            "start" => ("m", [.. StartScene.Nodes()], 0),
            var other => (await scenes.Get(other)).Read((document, _) => (document.Unit, document.Everything.ToList(), document.Revision)),
        };
        var id = Guid.NewGuid().ToString("N");
        var scene = new SceneDocument(id, name, unit, 1, nodes, blobs.Of(id));
        await store.Create(scene, []);
        if (request.Like is not null)
        {
            await pictures.Copy(request.Like, copied, id);
        }

        return Results.Created($"/api/scenes/{scene.Id}", AnswerOf(scene));
    }

    private static async Task<IResult> Read(string id, HttpContext context, OpenScenes scenes)
    {
        var scene = await scenes.Get(id);
        var answer = scene.Read((document, _) => AnswerOf(document, keepSteps: scene.KeepDays));
        context.Response.Headers.ETag = $"\"{answer.Revision}\"";
        return Results.Ok(answer);
    }

    private static async Task<IResult> Document(string id, OpenScenes scenes) =>
        Results.Bytes((await scenes.Get(id)).Read((document, _) => SceneBinary.Write(document)), "application/octet-stream");

    private static async Task<IResult> Describe(string id, DescribeRequest request, OpenScenes scenes)
    {
        if (request.Unit is { } unit && !Unit.OfScenes.Contains(unit))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{unit}” is no unit of a scene. Use {string.Join(", ", Unit.OfScenes)}.");
        }

        if (request.KeepSteps is < 0 or > MostKept)
        {
            throw new Refusal(Refusals.NotUnderstood, $"Steps are kept for 1 to {MostKept} days, or with 0 for good.");
        }

        return Results.Ok(await scenes.With(id, async scene =>
        {
            if (request.KeepSteps is { } days)
            {
                await scene.KeepSteps(days == 0 ? null : days);
            }

            if (request.Name is not null || request.Unit is not null)
            {
                await scene.Describe(request.Name, request.Unit);
            }

            return scene.Read((document, _) => AnswerOf(document, keepSteps: scene.KeepDays));
        }));
    }

    private static async Task<IResult> Delete(string id, HttpContext context, SceneStore store, OpenScenes scenes, IScenePush push)
    {
        var deleted = await store.Remove(id, Person.Of(context));
        scenes.Forget(id);
        if (deleted)
        {
            await push.Removed(id);
        }

        return deleted ? Results.NoContent() : throw new Refusal(Refusals.NotFound, "This scene does not exist, or has been removed already.");
    }

    private static async Task<IResult> BringBack(string id, SceneStore store, OpenScenes scenes) => await store.BringBack(id)
        ? Results.Ok((await scenes.Get(id)).Read((document, _) => AnswerOf(document)))
        : throw NotInBin();

    private static async Task<IResult> RemoveForGood(string id, HttpContext context, SceneStore store)
    {
        var person = Person.Of(context);
        return await store.Empty(person, id) > 0 ? Results.NoContent()
            : (await store.Bin(person)).Find(scene => scene.Id == id) is { } other
                ? throw new Refusal(Refusals.Locked, $"“{other.Name}” was not put into the bin by you, so it is not yours to remove for good. It goes by itself, thirty days after it was put there.")
            : throw NotInBin();
    }

    private static async Task<IResult> EmptyBin(HttpContext context, SceneStore store)
    {
        await store.Empty(Person.Of(context));
        return Results.NoContent();
    }

    private static Refusal NotInBin() => new(Refusals.NotFound, "This scene is not in the bin. It was brought back, or is gone for good.");

    /// <param name="shot">As that shot has it; left out: as the scene.</param>
    private static async Task<IResult> Evaluated(string id, OpenScenes scenes, string? shot = null) =>
        Results.Ok((await scenes.Get(id)).Evaluated(shot, (document, scene, evaluator) =>
        {
            var draft = new SceneDraft(scene);
            return new EvaluatedAnswer(
                document.Revision,
                [.. scene.Branch(null).Select(node => EvaluatedOf(draft, evaluator, node))],
                [.. scene.Marks.Select(mark => EvaluatedOf(draft, evaluator, scene.Find(mark)!))]);
        }));

    private static async Task<IResult> DerivedOf(string id, OpenScenes scenes, string? shot = null) =>
        Results.Ok((await scenes.Get(id)).Evaluated(shot, (document, scene, evaluator) => new DerivedAnswer(document.Revision, Derived.Of(scene, evaluator))));

    private static EvaluatedNode EvaluatedOf(SceneDraft document, Evaluator evaluator, Node node)
    {
        var world = evaluator.World(node.Id);
        var seen = Seen.Of(document, node);
        List<string> warnings = [];
        if (node.Placement.IsSheared)
        {
            warnings.Add("sheared");
        }

        if (Euler.FromLiningUp(node.Placement.Rotation, node.Placement.Order) < Euler.LinesUpBelow)
        {
            warnings.Add("two rotation axes line up");
        }

        return new(
            node.Id,
            world.ToArray(),
            world.Point(node.Placement.Pivot).ToArray(),
            new(seen.Working, seen.Final, [.. seen.Reasons.Select(r => r.Text)]),
            warnings,
            ColumnsOf(node.Pointers(world.Linear)),
            node.Constraints.IsEmpty ? null : document.Placed(node).ToArray(),
            node.Constraints.IsEmpty ? null : LinkReading.Of(document, node));
    }

    private static double[] ColumnsOf(Mat3 m) => [.. m.X.ToArray(), .. m.Y.ToArray(), .. m.Z.ToArray()];

    private static async Task<IResult> Geometry(string id, string hash, HttpContext context, BlobStore blobs)
    {
        if (await blobs.Read(id, hash) is not { MediaType: BlobStore.GeometryType } blob)
        {
            throw new Refusal(Refusals.NotFound, "This geometry is not stored in this scene.");
        }

        context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return Results.Bytes(blob.Bytes, blob.MediaType);
    }

    private static async Task<IResult> Triangles(string id, string hash, HttpContext context, BlobStore blobs)
    {
        var order = await blobs.Triangles(id, hash)
            ?? throw new Refusal(Refusals.NotFound, "This geometry is not stored in this scene.");
        context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return Results.Bytes(order, "application/octet-stream");
    }

    /// <summary>Brings the demo back as it was: one step that can be undone; made anew where it was removed.</summary>
    private static async Task<IResult> RestoreDemo(HttpContext context, DemoSeed demo, OpenScenes scenes)
    {
        await demo.Restore(Person.Of(context));
        return Results.Ok((await scenes.Get(OrreryRoom.SceneId)).Read((document, _) => AnswerOf(document)));
    }
}
