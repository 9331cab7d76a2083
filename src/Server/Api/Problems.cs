using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using CalmPivot.Core;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Features;
using Npgsql;

namespace CalmPivot.Server.Api;

/// <summary>Turns refusals and failures into RFC 9457 problem details: a sentence for the artist and a stable word.</summary>
internal static partial class Problems
{
    /// <summary>RFC 7240: refusals are answered as such, not as failed calls.</summary>
    private const string Lenient = "handling=lenient";

    public static void Use(WebApplication app)
    {
        app.UseExceptionHandler(new ExceptionHandlerOptions
        {
            ExceptionHandler = Handle,
            SuppressDiagnosticsCallback = _ => true,
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
            PostgresException { SqlState: PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter or PostgresErrorCodes.InvalidTextRepresentation } or EncoderFallbackException =>
                (400, Refusals.NotUnderstood, $"{Unstorable(context)} holds a character that cannot be stored: a zero, or half of a pair. Take it out."),
            (NpgsqlException or IOException) and var e when Health.IsOfRoom(e) => (507, "no-room", Health.NoRoom),
            NotKnownException => (503, "not-known", "The database was lost in the moment of storing, so that it is not known whether this was stored. Send it again with the same key: it is done once."),
            BehindException => (503, "not-stored", "The scene is being changed by another server just now. Nothing was changed; try again shortly."),
            NpgsqlException => (503, "not-stored", "The scene cannot be stored at the moment. Nothing was changed; try again shortly."),
            _ => (500, "failed", "Something went wrong on the server. Nothing was changed; try again, and reload the page if it stays."),
        };
        Log(context, error, status);
        if (error is Refusal && context.Request.Headers["Prefer"].Contains(Lenient))
        {
            // For pages: that there is nothing to undo is an answer, and no failed call in the browser's log.
            status = 200;
            context.Response.Headers["Preference-Applied"] = Lenient;
        }

        context.Response.StatusCode = status;
        await Answer(context, status, refusal, detail);
    }

    /// <summary>What is refused is a line of its call already; what fails is one more, with its stack where nobody knows why.</summary>
    private static void Log(HttpContext context, Exception? error, int status)
    {
        if (error is null || status < StatusCodes.Status500InternalServerError)
        {
            return;
        }

        context.RequestServices.GetRequiredService<Health>().Heed(error);
        var lines = context.RequestServices.GetRequiredService<LogLines>();
        if (status == StatusCodes.Status500InternalServerError)
        {
            lines.Write("failed", log => Failed(log, error, RequestLog.TraceOf(context)));
        }
        else
        {
            lines.Write("the database", log => NotStored(log, error.GetType().Name, (error.InnerException ?? error).Message.Split('\n')[0], RequestLog.TraceOf(context)));
        }
    }

    /// <summary>The text that cannot be stored, by its name where it has one: what stands in a body is named where it is read.</summary>
    private static string Unstorable(HttpContext context) =>
        context.Request.Query.FirstOrDefault(q => q.Value.Any(text => text is not null && Odd().IsMatch(text))).Key is { } name ? $"“{name}”" : "A text of this call";

    /// <summary>As it is, or as JSON writes it.</summary>
    [GeneratedRegex(@"\\u(0000|[dD][89a-fA-F])|\0|[\uD800-\uDFFF]")]
    private static partial Regex Odd();

    [LoggerMessage(LogLevel.Error, "A call failed. {TraceId}")]
    private static partial void Failed(ILogger log, Exception e, string traceId);

    [LoggerMessage(LogLevel.Warning, "Not stored: {Kind}: {Said} {TraceId}")]
    private static partial void NotStored(ILogger log, string kind, string said, string traceId);

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
