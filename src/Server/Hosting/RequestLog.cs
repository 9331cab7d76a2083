using System.Diagnostics;
using Microsoft.Extensions.Options;

namespace CalmPivot.Server.Hosting;

/// <summary>One structured line for each call of the API that was refused, failed or took long; the others are counted, unless "Logs:Each" says otherwise.</summary>
internal static partial class RequestLog
{
    private const double Long = 1_000;

    public static void Use(WebApplication app)
    {
        var lines = app.Services.GetRequiredService<LogLines>();
        var each = app.Services.GetRequiredService<IOptions<LogOptions>>().Value.Each;
        var log = app.Services.GetRequiredService<ILoggerFactory>().CreateLogger("CalmPivot.Requests");
        app.Use(async (context, next) =>
        {
            if (!context.Request.Path.StartsWithSegments("/api"))
            {
                await next(context);
                return;
            }

            var start = Stopwatch.GetTimestamp();
            try
            {
                await next(context);
            }
            finally
            {
                var (took, status) = (Stopwatch.GetElapsedTime(start).TotalMilliseconds, context.Response.StatusCode);
                var trace = TraceOf(context);
                void Write(ILogger to) => Answered(to, context.Request.Method, context.Request.Path, status, took, trace);
                if (each)
                {
                    Write(log);
                }
                else if (status >= StatusCodes.Status400BadRequest)
                {
                    lines.Write($"answered {status}", Write);
                }
                else if (took >= Long)
                {
                    lines.Write("took long", Write);
                }
                else
                {
                    lines.Count(took);
                }
            }
        });
    }

    /// <summary>What a call is found by in the log; problem details name it.</summary>
    public static string TraceOf(HttpContext context) => Activity.Current?.Id ?? context.TraceIdentifier;

    [LoggerMessage(Level = LogLevel.Information, Message = "{Method} {Path} {Status} {Milliseconds} {TraceId}")]
    private static partial void Answered(ILogger log, string method, PathString path, int status, double milliseconds, string traceId);
}
