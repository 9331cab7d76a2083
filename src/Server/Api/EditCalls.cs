using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The calls that edit a scene and walk its history.</summary>
internal static class EditCalls
{
    /// <summary>So many steps are answered at once, where nothing else is asked for.</summary>
    private const int UsualSteps = 300;

    private const int MostSteps = 1_000;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/scenes/{id}/edits", Edit).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapPost("/scenes/{id}/undo", Undo).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapPost("/scenes/{id}/redo", Redo).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapGet("/scenes/{id}/steps", Steps).Produces<List<StepEntry>>();
        api.MapGet("/scenes/{id}/log", Log).Produces<LogAnswer>();
        api.MapGet("/scenes/{id}/steps/{number:long}", StepChange).Produces<List<PartChange>>();
        api.MapPatch("/scenes/{id}/steps/{number:long}", NameStep).Produces(204);
    }

    private static async Task<IResult> Edit(string id, EditsRequest request, HttpContext context, OpenScenes scenes)
    {
        var by = Person.Of(context);
        return Answer(context, await scenes.With(id, scene => scene.Edit(by, request.Base, request.Key, request.Edits, PageOf(context), request.InScope())));
    }

    private static async Task<IResult> Undo(string id, RestoreRequest request, HttpContext context, OpenScenes scenes)
    {
        var by = Person.Of(context);
        return Answer(context, await scenes.With(id, scene => scene.Undo(by, request.Key, request.To, PageOf(context))));
    }

    private static async Task<IResult> Redo(string id, RestoreRequest request, HttpContext context, OpenScenes scenes)
    {
        var by = Person.Of(context);
        return Answer(context, await scenes.With(id, scene => scene.Redo(by, request.Key, request.To, PageOf(context))));
    }

    /// <summary>The latest steps before a number, in order; the latest of all where none is given.</summary>
    private static async Task<IResult> Steps(string id, OpenScenes scenes, long before = long.MaxValue, int most = UsualSteps) => most is < 1 or > MostSteps
        ? throw new Refusal(Refusals.NotUnderstood, $"From 1 to {MostSteps} steps can be asked for at once.")
        : Results.Ok((await (await scenes.Get(id)).Steps(before, most)).Select(s => new StepEntry(s.Number, s.Sentence, s.By, s.At, s.Undone, s.Dropped, s.Name)).ToList());

    /// <summary>What led from a revision to the scene as it stands, in order.</summary>
    private static async Task<IResult> Log(string id, long after, OpenScenes scenes)
    {
        var tail = await scenes.With(id, scene => scene.Log(after));
        return Results.Json(new LogAnswer(tail.Revision, [.. tail.Rows.Select(Scenes.Answers.Of)]), ApiJson.Options);
    }

    /// <summary>What a step did: the parts of each thing that it wrote, before and after.</summary>
    private static async Task<IResult> StepChange(string id, long number, OpenScenes scenes) =>
        Results.Json(await (await scenes.Get(id)).WrittenBy(number), ApiJson.Options);

    private static async Task<IResult> NameStep(string id, long number, NameStepRequest request, OpenScenes scenes)
    {
        var name = request.Name is null ? null : Rename.Fitting(request.Name);
        await scenes.With(id, async scene =>
        {
            await scene.NameStep(number, name);
            return true;
        });
        return Results.NoContent();
    }

    /// <summary>The connection to the hub of the page that calls, where it says so: it hears the answer and needs no push.</summary>
    internal static string? PageOf(HttpContext context) => context.Request.Headers["Page-Connection"].FirstOrDefault();

    /// <summary>In the form that was asked for.</summary>
    private static IResult Answer(HttpContext context, StepAnswer answer)
    {
        if (!context.Request.Headers["Prefer"].ToString().Contains("return=minimal", StringComparison.Ordinal))
        {
            return Results.Json(answer, ApiJson.Options);
        }

        context.Response.Headers["Preference-Applied"] = "return=minimal";
        return Results.Json(new MinimalAnswer(answer.Revision, answer.Step, answer.Digest ?? ""), ApiJson.Options);
    }
}
