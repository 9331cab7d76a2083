using System.Net;
using CalmPivot.Server.Api;
using Microsoft.AspNetCore.HttpOverrides;

namespace CalmPivot.Server.Hosting;

/// <summary>Headers that keep pages of others out, and the refusal of requests that come from them.</summary>
internal static class Guards
{
    /// <summary>The one style that a package of the page (its colour picker, react-colorful 5.8.1) writes into the page itself.</summary>
    private const string PickerStyle = "sha256-I2px+fnpbN4E5+Djrj7aoTIyq9yyREkuVl19f4Sye9A=";

    private const string Policy =
        "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' '" + PickerStyle + "'; img-src 'self' data: blob:; "
        + "connect-src 'self'; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    private const string Permissions =
        "accelerometer=(), camera=(), display-capture=(), geolocation=(), gyroscope=(), magnetometer=(), microphone=(), midi=(), payment=(), usb=()";

    /// <summary>The headers, on whatever is answered: around all else, the refusal of foreign hosts too.</summary>
    public static void Add(IServiceCollection services) => services.Insert(0, ServiceDescriptor.Transient<IStartupFilter, Around>());

    public static void Use(WebApplication app)
    {
        if (app.Configuration["Proxies"] is { Length: > 0 } proxies)
        {
            var options = new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost };
            options.KnownIPNetworks.Clear();
            options.KnownProxies.Clear();
            foreach (var proxy in Settings.Proxies(proxies))
            {
                options.KnownProxies.Add(IPAddress.Parse(proxy));
            }

            app.UseForwardedHeaders(options);
        }

        // Under TLS only, and not for names of this machine.
        app.UseHsts();
        app.Use(async (context, next) =>
        {
            if (IsForeign(context.Request))
            {
                await Problems.Answer(context, StatusCodes.Status403Forbidden, "foreign", "Requests from pages of other sites are refused.");
                return;
            }

            if (context.Request.Path.Value?.Contains('\0', StringComparison.Ordinal) == true || context.Request.QueryString.Value?.Contains("%00", StringComparison.Ordinal) == true)
            {
                await Problems.Answer(context, StatusCodes.Status400BadRequest, Core.Refusals.NotUnderstood, "The address holds a character that cannot be stored.");
                return;
            }

            await next(context);
        });
    }

    /// <summary>
    /// True for a request that a browser made on behalf of another site's page; to write, also for one of another page of the
    /// same site that does not say where it comes from.
    /// </summary>
    private static bool IsForeign(HttpRequest request)
    {
        var origin = request.Headers.Origin.ToString();
        var own = $"{request.Scheme}://{request.Host}";
        var writes = !HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method);
        return (origin.Length > 0 && !string.Equals(origin, own, StringComparison.OrdinalIgnoreCase))
            || request.Headers["Sec-Fetch-Site"].ToString() switch
            {
                "cross-site" => true,
                "same-site" => writes && origin.Length == 0,
                _ => false,
            };
    }

    private sealed class Around : IStartupFilter
    {
        public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) => app =>
        {
            app.Use((context, after) =>
            {
                // At the very last, since what handles failures begins its answer anew.
                context.Response.OnStarting(() =>
                {
                    var headers = context.Response.Headers;
                    headers.ContentSecurityPolicy = Policy;
                    headers.XContentTypeOptions = "nosniff";
                    headers["Referrer-Policy"] = "no-referrer";
                    headers["Permissions-Policy"] = Permissions;
                    headers["Cross-Origin-Opener-Policy"] = "same-origin";
                    headers["Cross-Origin-Resource-Policy"] = "same-origin";
                    return Task.CompletedTask;
                });
                return after(context);
            });
            next(app);
        };
    }
}
