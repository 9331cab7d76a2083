namespace CalmPivot.Server.Hosting;

/// <summary>Headers that keep pages of others out, and the refusal of requests that come from them.</summary>
internal static class Guards
{
    private const string Policy =
        "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'; img-src 'self' data: blob:; "
        + "connect-src 'self'; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    public static void Use(WebApplication app)
    {
        app.Use(async (context, next) =>
        {
            var headers = context.Response.Headers;
            headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "no-referrer";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            if (IsForeign(context.Request))
            {
                context.Response.StatusCode = StatusCodes.Status403Forbidden;
                await context.Response.WriteAsync("Requests from pages of other sites are refused.");
                return;
            }

            await next(context);
        });
    }

    /// <summary>True for a request that a browser made on behalf of another site's page.</summary>
    private static bool IsForeign(HttpRequest request)
    {
        var origin = request.Headers.Origin.ToString();
        var own = $"{request.Scheme}://{request.Host}";
        return (origin.Length > 0 && !string.Equals(origin, own, StringComparison.OrdinalIgnoreCase))
            || request.Headers["Sec-Fetch-Site"].ToString() is "cross-site";
    }
}
