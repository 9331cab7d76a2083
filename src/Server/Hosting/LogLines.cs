using System.Collections.Concurrent;
using Microsoft.Extensions.Options;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// What is written to the log again and again: of each kind so many lines a minute (<see cref="LogOptions"/>); what comes beyond is counted, and so are calls that went
/// well and soon. A line a minute says how many these were.
/// </summary>
public sealed partial class LogLines(IOptions<LogOptions> options, ILogger<LogLines> logger) : BackgroundService
{
    private static readonly TimeSpan Minute = TimeSpan.FromMinutes(1);

    private readonly ConcurrentDictionary<string, int> _written = new();
    private readonly Lock _gate = new();
    private int _well;
    private double _took;
    private double _longest;

    /// <summary>Writes a line of a kind, if not too many of it were written this minute.</summary>
    public void Write(string kind, Action<ILogger> write)
    {
        if (_written.AddOrUpdate(kind, 1, (_, count) => count + 1) <= options.Value.LinesAMinute)
        {
            write(logger);
        }
    }

    /// <summary>Counts a call that went well and soon.</summary>
    public void Count(double milliseconds)
    {
        lock (_gate)
        {
            _well++;
            _took += milliseconds;
            _longest = Math.Max(_longest, milliseconds);
        }
    }

    /// <summary>Says what was only counted, and begins anew.</summary>
    public void Turn()
    {
        foreach (var (kind, count) in _written.ToArray())
        {
            if (_written.TryRemove(kind, out var now) && now > options.Value.LinesAMinute)
            {
                LeftOut(logger, now - options.Value.LinesAMinute, kind);
            }
        }

        lock (_gate)
        {
            if (_well > 0)
            {
                Well(logger, _well, Math.Round(_took / _well, 1), Math.Round(_longest, 1));
            }

            (_well, _took, _longest) = (0, 0, 0);
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Minute);
        try
        {
            while (await timer.WaitForNextTickAsync(stoppingToken))
            {
                Turn();
            }
        }
        finally
        {
            Turn();
        }
    }

    [LoggerMessage(LogLevel.Information, "{Calls} calls went well, in {Milliseconds} ms each; the longest took {Longest} ms.")]
    private static partial void Well(ILogger log, int calls, double milliseconds, double longest);

    [LoggerMessage(LogLevel.Warning, "{Lines} more lines are left out: {Kind}.")]
    private static partial void LeftOut(ILogger log, int lines, string kind);
}
