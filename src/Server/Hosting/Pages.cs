using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;

namespace CalmPivot.Server.Hosting;

/// <summary>The page's files, compressed when it was built; names with a hash are kept for good, others asked for anew.</summary>
internal static class Pages
{
    private static readonly (string Coding, string Ending)[] Codings = [("br", ".br"), ("gzip", ".gz")];

    public static void Use(WebApplication app, string folder)
    {
        var files = new PhysicalFileProvider(Path.GetFullPath(folder));
        var types = new FileExtensionContentTypeProvider();
        types.Mappings[".wasm"] = "application/wasm";
        types.Mappings[".dat"] = "application/octet-stream";
        app.Use((context, next) =>
        {
            var path = context.Request.Path.Value ?? "/";
            if (path == "/")
            {
                context.Request.Path = path = "/index.html";
            }

            // A file is no folder: there is nothing behind it.
            if (path[^1] == '/')
            {
                context.Response.StatusCode = StatusCodes.Status404NotFound;
                return Task.CompletedTask;
            }

            return HttpMethods.IsGet(context.Request.Method) || HttpMethods.IsHead(context.Request.Method)
                ? Serve(context, path)
                : next(context);

            async Task Serve(HttpContext served, string asked)
            {
                var accepted = served.Request.Headers.AcceptEncoding.ToString();
                foreach (var (coding, ending) in Codings)
                {
                    if (accepted.Contains(coding, StringComparison.Ordinal) && files.GetFileInfo(asked + ending) is { Exists: true }
                        && types.TryGetContentType(asked, out var type))
                    {
                        served.Items["type"] = type;
                        served.Response.Headers.ContentEncoding = coding;
                        served.Request.Path = asked + ending;
                        break;
                    }
                }

                served.Response.Headers.Vary = "Accept-Encoding";
                await next(served);
            }
        });
        app.UseStaticFiles(new StaticFileOptions
        {
            FileProvider = files,
            ContentTypeProvider = types,
            ServeUnknownFileTypes = true,
            OnPrepareResponse = answer =>
            {
                if (answer.Context.Items["type"] is string type)
                {
                    answer.Context.Response.ContentType = type;
                }

                answer.Context.Response.Headers.CacheControl = IsHashed(answer.File.Name) ? "public, max-age=31536000, immutable" : "no-cache";
            },
        });
    }

    /// <summary>Vite and the SDK write a hash before the ending: <c>index-Bx3k9_aZ.js</c>, <c>CalmPivot.Core.3xxallc8zj.wasm</c>.</summary>
    private static bool IsHashed(string name)
    {
        var parts = name.Split('.', '-');
        return parts.Length >= 3 && parts.Any(p => p.Length is 8 or 10 && p.Any(char.IsAsciiDigit) | p.Any(char.IsAsciiLetterUpper));
    }
}
