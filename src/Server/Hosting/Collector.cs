using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// Clears away by itself what nobody can ask for any more ("Collecting:Hours", every six): keys of calls after a week, steps beyond
/// what their scene keeps, scenes after thirty days in the bin, and geometry and pictures that nothing uses.
/// </summary>
internal sealed partial class Collector(CollectingStore store, OpenScenes scenes, IConfiguration configuration, ILogger<Collector> logger) : BackgroundService
{
    public async Task Collect()
    {
        var binned = await store.EmptyBin();
        var keys = await store.ForgetKeys();
        var trimmed = await store.TrimSteps();
        trimmed.ForEach(scenes.Forget);
        var blobs = await store.CollectBlobs(TimeSpan.FromHours(configuration.GetValue("Collecting:UnusedHours", 24.0)));
        Collected(binned, keys, trimmed.Count, blobs);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromHours(Math.Max(0.0001, configuration.GetValue("Collecting:Hours", 6.0))));
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
