using System.Globalization;
using System.Threading.RateLimiting;
using CalmPivot.Server.Api;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.Extensions.Options;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// How much one person may ask for in a short time (<see cref="LimitOptions"/>); refused beyond with when to try again. Somebody without a cookie of ours
/// counts by the address.
/// </summary>
internal static class Limits
{
    public const string Edits = "edits";
    public const string Scenes = "scenes";
    public const string Uploads = "uploads";

    private const int MostComing = 4;

    public static void Add(IServiceCollection services) => services.AddRateLimiter(_ => { }).AddOptions<RateLimiterOptions>().Configure<IOptions<LimitOptions>>((options, most) =>
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.OnRejected = async (context, _) =>
        {
            var after = context.Lease.TryGetMetadata(MetadataName.RetryAfter, out var wait) ? Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds)) : 1;
            context.HttpContext.Response.Headers.RetryAfter = after.ToString(CultureInfo.InvariantCulture);
            await Problems.Answer(context.HttpContext, StatusCodes.Status429TooManyRequests, "too-many", $"This was asked for too often in a short time. Try again in {after} s.");
        };
        Add(options, Edits, most.Value.Edits);
        Add(options, Scenes, most.Value.Scenes);
        Add(options, Uploads, most.Value.Uploads, MostComing);
    });

    /// <param name="together">How many of them one person may have under way; others wait before they are read.</param>
    private static void Add(RateLimiterOptions options, string name, int atOnce, int? together = null) => options.AddPolicy(name, context => RateLimitPartition.Get(
        Persons.Counted(context),
        _ =>
        {
            var often = new TokenBucketRateLimiter(new()
            {
                TokenLimit = atOnce,
                TokensPerPeriod = Math.Max(1, atOnce / 50),
                ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                QueueLimit = 0,
            });
            return together is not { } most ? often
                : RateLimiter.CreateChained(often, new ConcurrencyLimiter(new() { PermitLimit = most, QueueLimit = atOnce }));
        }));
}
