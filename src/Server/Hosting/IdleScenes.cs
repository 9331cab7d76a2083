using CalmPivot.Server.Scenes;
using Microsoft.Extensions.Options;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// Lets go of scenes that nobody has asked for in a while (two minutes, <see cref="SceneOptions"/>), so that memory follows what is
/// worked on, not what ever was.
/// </summary>
internal sealed class IdleScenes(OpenScenes scenes, IOptions<SceneOptions> options) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var after = TimeSpan.FromSeconds(options.Value.IdleSeconds);
        using var timer = new PeriodicTimer(after / 4);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            // When memory is short, half a minute is long.
            var memory = GC.GetGCMemoryInfo();
            var isShort = memory.MemoryLoadBytes >= memory.HighMemoryLoadThresholdBytes * 0.9;
            if (scenes.GiveUpIdle(isShort ? after / 4 : after) == 0)
            {
                continue;
            }

            // With nobody there it may take its time and give back what it can; else it is done beside the work.
            if (scenes.Count == 0)
            {
                GC.Collect(GC.MaxGeneration, GCCollectionMode.Aggressive, blocking: true, compacting: true);
            }
            else
            {
                GC.Collect(GC.MaxGeneration, GCCollectionMode.Forced, blocking: false);
            }
        }
    }
}
