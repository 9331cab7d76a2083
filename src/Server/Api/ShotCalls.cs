using System.Text;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Exchange.ShotLists;
using CalmPivot.Server.Scenes;

namespace CalmPivot.Server.Api;

/// <summary>What a list would make of the shots of a scene, or has made of them.</summary>
/// <param name="Shots">What the edit takes in that does it.</param>
/// <param name="FirstFrame">The number that the scene's first frame gets; null: it stays.</param>
/// <param name="Off">How many shots are switched off in the list.</param>
/// <param name="Step">Null: it was only asked, or nothing was to be changed.</param>
public sealed record ShotListAnswer(string Text, IReadOnlyList<ListedChange> Changes, bool Moved, IReadOnlyList<string> Notes, IReadOnlyList<NewShot> Shots, int? FirstFrame, int Off, StepAnswer? Step = null);

/// <summary>Lists of shots out and in, and what is not the same in two shots.</summary>
internal static class ShotCalls
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/shots", List).Produces<JsonShots>();
        api.MapPost("/scenes/{id}/shots/import", Import).Accepts<byte[]>("text/csv", "application/json").Produces<ShotListAnswer>()
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(ShotListReader.MostBytes + 1)).RequireRateLimiting(Hosting.Limits.Uploads);
        api.MapGet("/scenes/{id}/shots/{shot}/diff", Diff).Produces<ShotDiff>();
    }

    /// <param name="format">json, csv or otio.</param>
    private static async Task<IResult> List(string id, OpenScenes scenes, string format = "json")
    {
        var scene = await scenes.Get(id);
        return scene.Read((document, _) =>
        {
            IResult File(string text, string type, string ending) =>
                Results.File(Encoding.UTF8.GetBytes(text), type, $"{ExchangeCalls.FileName(document.Name)} shots.{ending}");
            return format switch
            {
                "json" => Results.Json(JsonShots.Of(document), ApiJson.Options),
                "csv" => File(CsvShots.Write(document), "text/csv; charset=utf-8", "csv"),
                "otio" => File(TimelineShots.Write(document, document.Name), "application/json", "otio"),
                _ => throw new Refusal(Refusals.UnsupportedFile, $"“{Core.Words.Speaker.Quoted(format)}” cannot be written. Use json, csv or otio."),
            };
        });
    }

    /// <param name="only">"ask": only what it would do is told.</param>
    /// <param name="off">"take": shots that are switched off in the list are taken in as well.</param>
    private static async Task<IResult> Import(string id, HttpContext context, OpenScenes scenes, string? only = null, string? off = null)
    {
        if (only is not (null or "ask") || off is not (null or "take"))
        {
            throw new Refusal(Refusals.NotUnderstood, "“only” is “ask”, or left out; “off” is “take”, or left out.");
        }

        using var body = new MemoryStream();
        await context.Request.Body.CopyToAsync(body, context.RequestAborted);
        var bytes = body.ToArray();
        var changes = false;
        var (answer, revision) = (await scenes.Get(id)).Read((document, _) =>
        {
            var file = ShotListReader.Read(bytes, document.Timing.Fps);
            var (edit, notes) = file.For(document, off == "take");
            changes = !Batch.Run(document, [edit]).Change.IsEmpty;
            var first = edit.CountsAnew(document) ? edit.FirstFrame : null;
            return (new ShotListAnswer(edit.Foretell(document)!, edit.Changes(document), edit.IsMoved(document), notes, edit.Shots, first, file.Off), document.Revision);
        });
        if (only is null && changes)
        {
            answer = answer with { Step = await scenes.With(id, scene => scene.Edit(Person.Of(context), revision, null, [new ListShots(answer.Shots, answer.FirstFrame)])) };
        }

        return Results.Json(answer, ApiJson.Options);
    }

    /// <param name="with">Another shot, or <c>scene</c>.</param>
    private static async Task<IResult> Diff(string id, string shot, OpenScenes scenes, string with = "scene") =>
        Results.Json((await scenes.Get(id)).Read((document, _) => ShotDiff.Of(document, shot, with == "scene" ? null : with)), ApiJson.Options);
}
