using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.Extensions.Options;
using Npgsql;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// Clears away by itself what nobody can ask for any more (every six hours, <see cref="CollectingOptions"/>): keys of calls after a week, steps beyond
/// what their scene keeps, scenes after thirty days in the bin, and geometry and pictures that nothing uses.
/// </summary>
internal sealed partial class Collector(CollectingStore store, OpenScenes scenes, IOptions<CollectingOptions> options, ILogger<Collector> logger) : BackgroundService
{
    public async Task Collect()
    {
        var binned = await store.EmptyBin();
        var keys = await store.ForgetKeys();
        var trimmed = await store.TrimSteps();
        trimmed.ForEach(scenes.Forget);
        var blobs = await store.CollectBlobs(TimeSpan.FromHours(options.Value.UnusedHours));
        Collected(binned, keys, trimmed.Count, blobs);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromHours(options.Value.Hours));
        do
        {
            try
            {
                await Collect();
            }
            catch (NpgsqlException e)
            {
                Waits(e);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    [LoggerMessage(LogLevel.Information, "Collected: {Scenes} scenes of the bin, {Keys} keys, steps of {Trimmed} scenes, {Blobs} blobs.")]
    private partial void Collected(int scenes, int keys, int trimmed, int blobs);

    [LoggerMessage(LogLevel.Warning, "Collecting has to wait: the database does not answer.")]
    private partial void Waits(Exception e);
}
