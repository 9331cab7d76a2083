using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Features;
using Npgsql;

namespace CalmPivot.Server.Api;

/// <summary>Turns refusals and failures into RFC 9457 problem details: a sentence for the artist and a stable word.</summary>
internal static class Problems
{
    /// <summary>RFC 7240: refusals are answered as such, not as failed calls.</summary>
    private const string Lenient = "handling=lenient";

    public static void Use(WebApplication app)
    {
        app.UseExceptionHandler(new ExceptionHandlerOptions
        {
            ExceptionHandler = Handle,
            SuppressDiagnosticsCallback = context => context.Exception is Refusal or BadHttpRequestException or OperationCanceledException,
        });
        app.UseStatusCodePages(async pages =>
        {
            var context = pages.HttpContext;
            await Answer(context, context.Response.StatusCode, WordOf(context.Response.StatusCode), context.Response.StatusCode switch
            {
                404 => "There is nothing at this address. See /openapi/v1.json for what there is.",
                405 => "This address does not take such a call. See /openapi/v1.json.",
                413 => $"This is larger than what is accepted ({Limit(context)}). Send less at once.",
                415 => "This kind of content is not understood here. Send JSON, or a glTF file where one belongs.",
                _ => "This call was not understood. Check it against /openapi/v1.json.",
            });
        });
    }

    /// <summary>Answers with problem details; the trace is found in the log.</summary>
    public static Task Answer(HttpContext context, int status, string refusal, string detail) => Results.Problem(
        detail: detail,
        statusCode: status,
        title: "Refused",
        extensions: new Dictionary<string, object?> { ["refusal"] = refusal, ["traceId"] = RequestLog.TraceOf(context) }).ExecuteAsync(context);

    private static string WordOf(int status) => status switch
    {
        404 => Refusals.NotFound,
        413 => Refusals.TooLarge,
        415 => Refusals.UnsupportedFile,
        _ => Refusals.NotUnderstood,
    };

    private static async Task Handle(HttpContext context)
    {
        var error = context.Features.Get<IExceptionHandlerFeature>()?.Error;
        var (status, refusal, detail) = error switch
        {
            OperationCanceledException when context.RequestAborted.IsCancellationRequested => (499, Refusals.Stopped, "The caller has gone."),
            Refusal r => (StatusOf(r.Word), r.Word, r.Message),
            BadHttpRequestException { StatusCode: 413 } => (413, Refusals.TooLarge, $"This is larger than what is accepted ({Limit(context)}). Send less at once."),
            BadHttpRequestException { InnerException: JsonException e } => (400, Refusals.NotUnderstood, Core.Wire.WireJson.NotUnderstood(e).Message),
            BadHttpRequestException e => (e.StatusCode, Refusals.NotUnderstood, "This call was not understood. Check it against /openapi/v1.json."),
            { } e when Core.Wire.WireJson.IsWithoutKind(e) => (400, Refusals.NotUnderstood, Core.Wire.WireJson.WithoutKind().Message),
            NotKnownException => (503, "not-known", "The database was lost in the moment of storing, so that it is not known whether this was stored. Send it again with the same key: it is done once."),
            BehindException => (503, "not-stored", "The scene is being changed by another server just now. Nothing was changed; try again shortly."),
            NpgsqlException => (503, "not-stored", "The scene cannot be stored at the moment. Nothing was changed; try again shortly."),
            _ => (500, "failed", "Something went wrong on the server. Nothing was changed; try again, and reload the page if it stays."),
        };
        if (error is Refusal && context.Request.Headers["Prefer"].Contains(Lenient))
        {
            // For pages: that there is nothing to undo is an answer, and no failed call in the browser's log.
            status = 200;
            context.Response.Headers["Preference-Applied"] = Lenient;
        }

        context.Response.StatusCode = status;
        await Answer(context, status, refusal, detail);
    }

    private static int StatusOf(string word) => word switch
    {
        Refusals.NotFound => 404,
        Refusals.NotUnderstood or Refusals.NothingPicked => 400,
        Refusals.ChangedMeanwhile or Refusals.KeyReused or Refusals.NothingToUndo or Refusals.NothingToChange or Refusals.Locked or Refusals.Stopped => 409,
        Refusals.NoLongerKept => 410,
        Refusals.TooLarge => 413,
        Refusals.UnsupportedFile => 415,
        _ => 422,
    };

    private static string Limit(HttpContext context) =>
        context.Features.Get<IHttpMaxRequestBodySizeFeature>()?.MaxRequestBodySize is { } most ? $"{most / (1024 * 1024)} MB" : "the limit";
}
