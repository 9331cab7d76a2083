using System.Diagnostics;

namespace CalmPivot.Server.Hosting;

/// <summary>One structured line for each call of the API.</summary>
internal static partial class RequestLog
{
    public static void Use(WebApplication app)
    {
        var log = app.Services.GetRequiredService<ILoggerFactory>().CreateLogger("CalmPivot.Requests");
        app.Use(async (context, next) =>
        {
            var start = Stopwatch.GetTimestamp();
            try
            {
                await next(context);
            }
            finally
            {
                if (log.IsEnabled(LogLevel.Information) && context.Request.Path.StartsWithSegments("/api"))
                {
                    var trace = TraceOf(context);
                    var took = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
                    Answered(log, context.Request.Method, context.Request.Path, context.Response.StatusCode, took, trace);
                }
            }
        });
    }

    /// <summary>What a call is found by in the log; problem details name it.</summary>
    public static string TraceOf(HttpContext context) => Activity.Current?.Id ?? context.TraceIdentifier;

    [LoggerMessage(Level = LogLevel.Information, Message = "{Method} {Path} {Status} {Milliseconds} {TraceId}")]
    private static partial void Answered(ILogger log, string method, PathString path, int status, double milliseconds, string traceId);
}
