using CalmPivot.Core;
using CalmPivot.Core.Scene;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Demo;

/// <summary>Puts the demo scene into the database: on the first start, and when asked to bring it back.</summary>
public sealed class DemoSeed(SceneStore store, BlobStore blobs, OpenScenes scenes)
{
    /// <summary>Seeds the demo where there is no scene at all.</summary>
    public async Task SeedOnce()
    {
        if ((await store.List("")).Count == 0 && (await store.Bin("")).Count == 0)
        {
            await Create();
        }
    }

    public async Task Restore(string by)
    {
        try
        {
            await scenes.Get(OrreryRoom.SceneId);
        }
        catch (Refusal)
        {
            if (!await store.BringBack(OrreryRoom.SceneId))
            {
                await Create();
                return;
            }
        }

        await scenes.With(OrreryRoom.SceneId, scene => scene.Change(by, "Restored the demo", Replacing, [WoodPicture.Blob]));
    }

    private static Change Replacing(IScene scene)
    {
        var draft = new SceneDraft(scene);
        foreach (var entity in draft.All().Concat(draft.BesideNodes()).Reverse().ToList())
        {
            draft.Remove(entity);
        }

        var room = OrreryRoom.Build();
        foreach (var entity in room.BesideNodes().Concat(room.All()))
        {
            draft.Put(entity);
        }

        return draft.ToChange();
    }

    private Task Create() => store.Create(
        new SceneDocument(OrreryRoom.SceneId, OrreryRoom.SceneName, "m", 1, OrreryRoom.Build().Everything, blobs.Of(OrreryRoom.SceneId)), [WoodPicture.Blob]);
}
