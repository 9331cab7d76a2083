using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Pictures;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace CalmPivot.Server.Api;

/// <summary>A still that was kept.</summary>
public sealed record StillAnswer(string Id);

/// <summary>Stills: kept, listed, read, removed. The page makes them; here they are files with what is known of them.</summary>
internal static class StillCalls
{
    private const int MostBytes = 256 << 20;
    private const int MostPasses = 100_000;
    private const int MostSmall = 256 * 1024;

    private static readonly string[] Beside = ["small", "depth", "mask"];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/stills", List).Produces<List<Still>>();
        api.MapPost("/scenes/{id}/stills", Add).Accepts<byte[]>("image/png").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).Produces<StillAnswer>(201).RequireRateLimiting(Hosting.Limits.Uploads);
        api.MapGet("/scenes/{id}/stills/{still}", (string id, string still, HttpContext context, StillStore stills) => Read(id, still, "picture", context, stills)).Produces(200, contentType: "image/png");
        api.MapDelete("/scenes/{id}/stills/{still}", Remove).Produces(204);
        api.MapGet("/scenes/{id}/stills/{still}/{part}", Read).Produces(200, contentType: "image/png");
        api.MapPut("/scenes/{id}/stills/{still}/{part}", AddPart).Accepts<byte[]>("image/png", "image/webp").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).Produces(204).RequireRateLimiting(Hosting.Limits.Uploads);
    }

    private static async Task<IResult> List(string id, OpenScenes scenes, StillStore stills)
    {
        await scenes.Get(id);
        return Results.Ok(await stills.List(id));
    }

    /// <param name="name">What it is called; as its shot where nothing is said.</param>
    /// <param name="shot">The shot that it is of.</param>
    /// <param name="revision">The revision of the scene that it shows.</param>
    /// <param name="passes">How many pictures it was added up from.</param>
    /// <param name="seconds">How long it took.</param>
    /// <param name="madeOf">How it was made, as an object in JSON of at most 4 kB.</param>
    private static async Task<IResult> Add(
        string id, long revision, HttpContext context, OpenScenes scenes, StillStore stills, StillTurns turns, IScenePush push, string? name = null, string? shot = null, int passes = 1, double seconds = 0, string? madeOf = null)
    {
        var title = (await scenes.Get(id)).Read((document, _) => shot is null ? "" : document.FindShot(shot)?.Title);
        if (title is null)
        {
            throw Layered.NoSuchShot();
        }

        if (revision < 0 || passes is < 1 or > MostPasses || !double.IsFinite(seconds) || seconds < 0)
        {
            throw new Refusal(Refusals.NotUnderstood, $"A still has a revision, 1 to {MostPasses} passes and the seconds that it took.");
        }

        var still = await Looked(context, turns, small: false, async (bytes, made) =>
        {
            var kept = new Still(
                Guid.NewGuid().ToString("N"), Rename.Nearest(name ?? title, "Still"), shot, revision, made.Width, made.Height, passes, seconds, Said(madeOf), default, bytes.Length, []);
            return await Stored(context, () => stills.Keep(id, kept, new(made.MediaType, bytes))) ? kept : throw Full();
        });
        await push.Stills(id);
        return Results.Created($"/api/scenes/{id}/stills/{still.Id}", new StillAnswer(still.Id));
    }

    private static async Task<IResult> AddPart(string id, string still, string part, HttpContext context, StillStore stills, StillTurns turns, IScenePush push)
    {
        if (!Beside.Contains(part))
        {
            throw new Refusal(Refusals.NotUnderstood, "Beside a still lie its small picture, its depth and its mask.");
        }

        await Looked(context, turns, small: part == "small", async (bytes, made) =>
        {
            if (part == "small" && bytes.Length > MostSmall)
            {
                throw new Refusal(Refusals.TooLarge, "The small picture of a still has at most 256 kB.");
            }

            return (await Stored(context, () => stills.Add(id, still, part, new(made.MediaType, bytes))) ?? throw NoSuchStill()) ? true : throw Full();
        });
        await push.Stills(id);
        return Results.NoContent();
    }

    private static async Task<IResult> Read(string id, string still, string part, HttpContext context, StillStore stills)
    {
        var image = await stills.Read(id, still, part) ?? throw NoSuchStill();
        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        context.Response.RegisterForDisposeAsync(image);
        context.Response.ContentLength = image.Length;
        return Results.Stream(image.Content, image.MediaType);
    }

    private static async Task<IResult> Remove(string id, string still, StillStore stills, IScenePush push)
    {
        if (!await stills.Remove(id, still))
        {
            throw NoSuchStill();
        }

        await push.Stills(id);
        return Results.NoContent();
    }

    private static Refusal Full() =>
        new(Refusals.TooLarge, $"A scene keeps at most {StillStore.Most} stills and {StillStore.MostBytes >> 30} GB of them. Remove some first; what was made can still be downloaded.");

    private static Refusal NoSuchStill() => new(Refusals.NotFound, "This scene has no such still.");

    /// <summary>A full disk is said; what was made stays in the page.</summary>
    private static async Task<T> Stored<T>(HttpContext context, Func<Task<T>> store)
    {
        try
        {
            return await store();
        }
        catch (NpgsqlException e) when (Health.IsOfRoom(e))
        {
            context.RequestServices.GetRequiredService<Health>().Heed(e);
            throw new Refusal(Refusals.TooLarge, "There is no room left to keep it on the server. Download it here, or remove stills first.");
        }
    }

    /// <summary>Looks at the picture of a call, in turn, and does something with it.</summary>
    private static async Task<T> Looked<T>(HttpContext context, StillTurns turns, bool small, Func<byte[], MadePicture, Task<T>> act)
    {
        await using var upload = await Upload.Of(context);
        var stopped = context.RequestAborted;
        using var turn = await turns.Of(Person.Of(context), upload.Length, stopped);
        var bytes = await upload.Bytes(stopped);
        return await act(bytes, await Task.Run(() => MadePicture.Of(bytes, small, stopped), stopped));
    }

    private static JsonElement Said(string? madeOf)
    {
        try
        {
            using var read = JsonDocument.Parse(madeOf is { Length: > 0 and <= 4096 } ? madeOf : madeOf is null or "" ? "{}" : throw new JsonException());
            return read.RootElement.ValueKind == JsonValueKind.Object ? read.RootElement.Clone() : throw new JsonException();
        }
        catch (JsonException)
        {
            throw new Refusal(Refusals.NotUnderstood, "How a still was made is an object in JSON of at most 4 kB.");
        }
    }
}
