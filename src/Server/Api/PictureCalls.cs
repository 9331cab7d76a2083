using CalmPivot.Core;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Pictures;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>
/// What scenes look like: one small picture each, made by the page when a scene is left, and one for each shot, made when nothing else is to be done.
/// </summary>
internal static class PictureCalls
{
    private const int MostBytes = 256 * 1024;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/picture", Read).Produces(200, contentType: "image/webp");
        api.MapPut("/scenes/{id}/picture", WriteOfScene).Produces(204).Accepts<byte[]>("image/webp", "image/png");
        api.MapGet("/scenes/{id}/shots/pictures", (string id, PictureStore pictures) => pictures.OfShots(id)).Produces<List<ShotPictureEntry>>();
        api.MapGet("/scenes/{id}/shots/{shot}/picture", ReadOfShot).Produces(200, contentType: "image/webp");
        api.MapPut("/scenes/{id}/shots/{shot}/picture", WriteOfShot).Produces(204).Accepts<byte[]>("image/webp", "image/png");
    }

    private static async Task<IResult> ReadOfShot(string id, string shot, HttpContext context, PictureStore pictures) =>
        Answer(context, await pictures.Read(id, shot) ?? throw new Refusal(Refusals.NotFound, "There is no picture of this shot yet."));

    /// <param name="revision">The revision of the scene that the picture shows.</param>
    private static async Task<IResult> WriteOfShot(string id, string shot, long revision, HttpContext context, PictureStore pictures, OpenScenes scenes)
    {
        if ((await scenes.Get(id)).Read((document, _) => document.FindShot(shot)) is null)
        {
            throw Core.Edits.Layered.NoSuchShot();
        }

        return await Write(id, shot, revision, context, pictures);
    }

    private static async Task<IResult> Read(string id, HttpContext context, PictureStore pictures) =>
        Answer(context, await pictures.Read(id) ?? throw new Refusal(Refusals.NotFound, "There is no picture of this scene yet."));

    private static IResult Answer(HttpContext context, ScenePicture picture)
    {
        // Asked for by its revision it stays what it is.
        context.Response.Headers.CacheControl = context.Request.Query.ContainsKey("revision") ? "private, max-age=86400" : "no-cache";
        context.Response.Headers.ETag = $"\"{picture.Revision}\"";
        return Results.Bytes(picture.Bytes, picture.MediaType);
    }

    /// <param name="revision">The revision of the scene that the picture shows.</param>
    private static Task<IResult> WriteOfScene(string id, long revision, HttpContext context, PictureStore pictures) => Write(id, null, revision, context, pictures);

    private static async Task<IResult> Write(string id, string? shot, long revision, HttpContext context, PictureStore pictures)
    {
        var bytes = await Bytes(context.Request);
        var made = MadePicture.Of(bytes, small: true, context.RequestAborted);
        if (revision < 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "A picture shows a revision of its scene, which is no negative number.");
        }

        return await pictures.Write(id, new(made.MediaType, bytes, revision), shot)
            ? Results.NoContent()
            : throw new Refusal(Refusals.NotFound, "This scene does not exist, or has been removed already.");
    }

    private static async Task<byte[]> Bytes(HttpRequest request)
    {
        using var into = new MemoryStream();
        var buffer = new byte[16 * 1024];
        while (await request.Body.ReadAsync(buffer, request.HttpContext.RequestAborted) is > 0 and var read)
        {
            if (into.Length + read > MostBytes)
            {
                throw new Refusal(Refusals.TooLarge, "A picture of a scene has at most 256 kB. Make it smaller.");
            }

            into.Write(buffer, 0, read);
        }

        return into.ToArray();
    }
}
