using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Server.Pictures;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.Mvc;

namespace CalmPivot.Server.Api;

/// <summary>What came of a picture that was brought in.</summary>
/// <param name="Notes">What of the file could not be kept.</param>
public sealed record PictureAnswer(string Hash, string Name, int Width, int Height, long Bytes, string MediaType, IReadOnlyList<string>? Notes = null);

/// <summary>Pictures for materials: brought in, listed, let go.</summary>
internal static class MaterialPictureCalls
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/pictures", List).Produces<List<KeptPicture>>();
        api.MapPost("/scenes/{id}/pictures", Add).Accepts<byte[]>("image/png", "image/jpeg", "image/webp")
            .WithMetadata(new RequestSizeLimitAttribute(ImageCheck.MostBytes)).Produces<PictureAnswer>(201).RequireRateLimiting(Hosting.Limits.Uploads);
        api.MapGet("/scenes/{id}/pictures/{hash}", Read).Produces(200, contentType: "image/png");
        api.MapDelete("/scenes/{id}/pictures/{hash}", LetGo).Produces(204);
    }

    private static async Task<IResult> List(string id, OpenScenes scenes, KeptPictureStore pictures)
    {
        await scenes.Get(id);
        return Results.Ok(await pictures.List(id));
    }

    /// <param name="name">What the picture is called.</param>
    /// <param name="side">Its longest side is reduced to so many pixels.</param>
    private static async Task<IResult> Add(string id, HttpContext context, OpenScenes scenes, KeptPictureStore pictures, BlobStore blobs, PictureTurns turns, string? name = null, int? side = null)
    {
        await scenes.Get(id);
        if (side is < 1 or > ImageCheck.MostSide)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The longest side of a picture has 1 to {ImageCheck.MostSide} pixels.");
        }

        var image = await Looked(context, blobs, turns, side);
        var called = Rename.Nearest(name, "Picture");
        if (!await pictures.Keep(id, image.Blob, called, image.Width, image.Height))
        {
            throw new Refusal(Refusals.TooLarge, $"A scene keeps at most {KeptPictureStore.Most} pictures. Let some go first.");
        }

        var answer = new PictureAnswer(image.Blob.Hash, called, image.Width, image.Height, image.Blob.Bytes.Length, image.Blob.MediaType, image.Notes.Count == 0 ? null : image.Notes);
        return Results.Created($"/api/scenes/{id}/pictures/{image.Blob.Hash}", answer);
    }

    /// <summary>Looks at the picture of a call, in turn: it lies on disk until its person's turn has come.</summary>
    private static async Task<CheckedImage> Looked(HttpContext context, BlobStore blobs, PictureTurns turns, int? side)
    {
        await using var upload = await Upload.Of(context);
        var stopped = context.RequestAborted;
        using var turn = await turns.Of(Person.Of(context), upload.Length + upload.Peek(ImageCheck.Takes), stopped);
        var bytes = await upload.Bytes(stopped);

        // One that some scene has already is kept as it is, so that pictures of copied materials stay the same.
        var (blob, size) = (BlobStore.Of("", bytes), ImageCheck.SizeOf(bytes));
        return size is var (width, height) && (side is not { } most || Math.Max(width, height) <= most) && await blobs.TypeOf(blob.Hash) is { } type
            ? new(blob with { MediaType = type }, width, height, [])
            : await Task.Run(() => ImageCheck.Read(bytes, side, stopped), stopped);
    }

    private static async Task<IResult> Read(string id, string hash, HttpContext context, BlobStore blobs)
    {
        if (await blobs.Read(id, hash) is not { MediaType: not BlobStore.GeometryType } blob)
        {
            throw new Refusal(Refusals.NotFound, "This scene has no such picture.");
        }

        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.Bytes(blob.Bytes, blob.MediaType);
    }

    private static async Task<IResult> LetGo(string id, string hash, KeptPictureStore pictures) => await pictures.LetGo(id, hash)
        ? Results.NoContent()
        : throw new Refusal(Refusals.NotFound, "This scene keeps no such picture.");
}
