using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>
/// The calls that find and clear what is stored for a scene though no node uses it. Steps that would bring it back can then
/// no longer be taken back; that is refused when it is tried.
/// </summary>
internal static class UnusedCalls
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/unused", Find).Produces<UnusedBlobs>();
        api.MapDelete("/scenes/{id}/unused", Clear).Produces<UnusedBlobs>();
    }

    private static async Task<IResult> Find(string id, OpenScenes scenes, BlobStore blobs) =>
        Results.Ok(await blobs.Unused(id, await Used(id, scenes), clear: false));

    private static async Task<IResult> Clear(string id, OpenScenes scenes, BlobStore blobs) =>
        Results.Ok(await scenes.With(id, scene => scene.Alone(used => blobs.Unused(id, used, clear: true))));

    private static async Task<string[]> Used(string id, OpenScenes scenes) =>
        await scenes.With(id, scene => scene.Alone(Task.FromResult));
}
