using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Spaces;
using CalmPivot.Server.Api;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>
/// Server and database are lost in the moment of storing, before the commit and after it: whoever sends the call again by its key
/// gets one answer, and it is done once.
/// </summary>
[Collection(nameof(OneServer))]
public sealed class CutTests(RunningServer server) : IDisposable
{
    private const int Times = 45;

    private readonly Caller _caller = server.NewCaller();

    public void Dispose() => _caller.Dispose();

    [Theory]
    [InlineData(CuttingProxy.Cut.Before)]
    [InlineData(CuttingProxy.Cut.After)]
    public async Task When_the_database_is_lost_the_same_call_again_is_done_once(CuttingProxy.Cut cut)
    {
        var id = await _caller.NewScene();
        using var proxy = new CuttingProxy(server.ConnectionString);
        await using var source = Database.Open(proxy.ConnectionString);
        var scenes = new OpenScenes(LogTests.StoresOf(source), new LogTests.Nobody());
        await Move(scenes, id, Guid.NewGuid());
        for (var i = 0; i < Times; i++)
        {
            var key = Guid.NewGuid();
            proxy.Arm(cut);
            await Assert.ThrowsAnyAsync<Exception>(() => Move(scenes, id, key));
            Assert.Equal(i + 1 + (cut == CuttingProxy.Cut.After ? 1 : 0), await Stored(id));
            var answer = await Move(scenes, id, key);
            Assert.Equal((i + 4, i + 3), (answer.Revision, answer.Step.Number));
            Assert.Equal(i + 2, answer.Changed.Single().Node.Placement.Position.X);
            Assert.Equal(i + 2, await Stored(id));
        }

        Assert.True(proxy.Cuts >= Times);
    }

    [Theory]
    [InlineData(CuttingProxy.Cut.Before)]
    [InlineData(CuttingProxy.Cut.After)]
    public async Task When_the_server_is_lost_the_next_one_answers_the_same_call_and_does_it_once(CuttingProxy.Cut cut)
    {
        var id = await _caller.NewScene();
        for (var i = 0; i < Times; i++)
        {
            // One that hears nothing more of the database, and of which nothing is heard any more.
            using var proxy = new CuttingProxy(server.ConnectionString);
            await using var lost = Database.Open(proxy.ConnectionString);
            var scenes = new OpenScenes(LogTests.StoresOf(lost), new LogTests.Nobody());
            await scenes.Get(id);
            var key = Guid.NewGuid();
            proxy.Arm(cut);
            await Assert.ThrowsAnyAsync<Exception>(() => Move(scenes, id, key));
            await using var source = Database.Open(server.ConnectionString);
            var next = new OpenScenes(LogTests.StoresOf(source), new LogTests.Nobody());
            var answer = await Move(next, id, key);
            Assert.Equal((i + 3, i + 2), (answer.Revision, answer.Step.Number));
            Assert.Equal(i + 1, await Stored(id));
        }

        Assert.Equal(Times + 1L, await server.Query<long>($"select count(*) from steps s join scenes c on c.no = s.scene where c.id = '{id}'"));
    }

    [Fact]
    public async Task An_edit_takes_one_way_to_the_database_and_back()
    {
        var id = await _caller.NewScene();
        using var proxy = new CuttingProxy(server.ConnectionString);
        await using var source = Database.Open(proxy.ConnectionString);
        var scenes = new OpenScenes(LogTests.StoresOf(source), new LogTests.Nobody());
        for (var i = 0; i < 5; i++)
        {
            await Move(scenes, id, Guid.NewGuid());
        }

        var before = proxy.Ways;
        for (var i = 0; i < 20; i++)
        {
            await Move(scenes, id, Guid.NewGuid());
        }

        Assert.Equal(20, proxy.Ways - before);
    }

    private static Task<StepAnswer> Move(OpenScenes scenes, string id, Guid key) =>
        scenes.With(id, scene => scene.Edit("me", long.MaxValue, key, [new Move(["a"], new Vec3(1, 0, 0), new WorldSpace())]));

    /// <summary>Where the node stands by what is stored.</summary>
    private async Task<double> Stored(string id)
    {
        await using var source = NpgsqlDataSource.Create(server.ConnectionString);
        return (await new SceneStore(source, new BlobStore(source)).Load(id))!.Document.Find("a")!.Placement.Position.X;
    }
}
