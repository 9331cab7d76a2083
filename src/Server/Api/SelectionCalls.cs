using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

public sealed record SelectionRequest(string Name, string[] Nodes);

/// <summary>The calls on named selections of a scene.</summary>
internal static class SelectionCalls
{
    internal const int MostSelections = 500;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/scenes/{id}/selections", List).Produces<List<NamedSelection>>();
        api.MapPut("/scenes/{id}/selections", Write).Produces(204);
        api.MapDelete("/scenes/{id}/selections", Remove).Produces(204);
    }

    private static async Task<IResult> List(string id, OpenScenes scenes, SelectionStore store)
    {
        await scenes.Get(id);
        return Results.Ok(await store.List(id));
    }

    private static async Task<IResult> Write(string id, SelectionRequest request, OpenScenes scenes, SelectionStore store)
    {
        var fitting = Rename.Fitting(request.Name);
        var scene = await scenes.Get(id);
        if (request.Nodes.Length is 0 or > SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.NothingPicked, "A named selection needs at least one object. Pick what belongs to it first.");
        }

        scene.Read((document, _) => request.Nodes.All(n => document.FindAny(n) is not null)
            ? true
            : throw new Refusal(Refusals.NotFound, "An object of this selection is not in the scene any more. Pick again."));
        var known = await store.List(id);
        if (known.Count >= MostSelections && known.All(s => s.Name != fitting))
        {
            throw new Refusal(Refusals.TooLarge, $"A scene keeps at most {MostSelections} named selections. Forget some first.");
        }

        await store.Write(id, new(fitting, request.Nodes));
        return Results.NoContent();
    }

    private static async Task<IResult> Remove(string id, string name, OpenScenes scenes, SelectionStore store)
    {
        await scenes.Get(id);
        return await store.Remove(id, name)
            ? Results.NoContent()
            : throw new Refusal(Refusals.NotFound, "There is no selection of this name.");
    }
}
