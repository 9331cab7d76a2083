using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The calls that edit a scene and walk its history.</summary>
internal static class EditCalls
{
    /// <summary>Takes the head of a full answer and passes over the nodes.</summary>
    private static readonly JsonSerializerOptions ReadsBriefly = new(ApiJson.Options) { UnmappedMemberHandling = JsonUnmappedMemberHandling.Skip };

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/scenes/{id}/edits", Edit).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapPost("/scenes/{id}/undo", Undo).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapPost("/scenes/{id}/redo", Redo).Produces<StepAnswer>().RequireRateLimiting(Limits.Edits);
        api.MapGet("/scenes/{id}/steps", Steps).Produces<List<StepEntry>>();
        api.MapGet("/scenes/{id}/steps/{number:long}", StepChange).Produces<List<StoredChange>>();
        api.MapPatch("/scenes/{id}/steps/{number:long}", NameStep).Produces(204);
    }

    private static async Task<IResult> Edit(string id, EditsRequest request, HttpContext context, OpenScenes scenes)
    {
        var by = Person.Of(context);
        return Answer(context, await scenes.With(id, scene => scene.Edit(by, request.Base, request.Key, request.Edits, PageOf(context))));
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

    private static async Task<IResult> Steps(string id, OpenScenes scenes) =>
        Results.Ok((await scenes.Get(id)).Read((_, history) =>
            history.Steps.Select(s => new StepEntry(s.Number, s.Sentence, s.By, s.At, s.Undone, s.Dropped, s.Name)).ToList()));

    /// <summary>What a step did: each node that it wrote, before and after.</summary>
    private static async Task<IResult> StepChange(string id, long number, OpenScenes scenes, SceneStore store)
    {
        var scene = await scenes.Get(id);
        scene.Read((_, history) => history.Steps.Any(s => s.Number == number) ? true : throw Core.History.SceneHistory.NoSuchStep());
        var (change, _) = await store.StepOf(id, number);
        return Results.Ok(StoredChange.From(change));
    }

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

    private static IResult Answer(HttpContext context, string answer)
    {
        if (!context.Request.Headers["Prefer"].ToString().Contains("return=minimal", StringComparison.Ordinal))
        {
            return Results.Text(answer, "application/json");
        }

        context.Response.Headers["Preference-Applied"] = "return=minimal";
        return Results.Json(JsonSerializer.Deserialize<MinimalAnswer>(answer, ReadsBriefly), ApiJson.Options);
    }
}
