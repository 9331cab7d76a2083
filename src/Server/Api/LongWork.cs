using System.Collections.Concurrent;
using CalmPivot.Core;

namespace CalmPivot.Server.Api;

/// <summary>What became of work that was to be stopped.</summary>
/// <param name="Ended">"stopped": nothing came of it. "done": it was too late, and its own call answers. "unknown": it was never begun here.</param>
public sealed record StopAnswer(string Ended);

/// <summary>
/// Long work that whoever asked for it can stop, and then knows for sure whether something came of it: a call that is only dropped may have been done in that moment.
/// It is named by an id of the caller's, in the header <c>Work</c>.
/// </summary>
internal sealed class LongWork
{
    private const string Header = "Work";
    private const int LongestName = 64;
    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(1);

    /// <summary>More than this is not remembered: it goes on as calls without a name do.</summary>
    private const int Most = 10_000;

    private readonly ConcurrentDictionary<(string Person, string Work), Going> _going = new();
    private readonly ConcurrentQueue<((string Person, string Work) Key, DateTime At)> _ended = new();

    public static void Map(IEndpointRouteBuilder api) => api.MapDelete(
        "/me/work/{work}", async (string work, HttpContext context, LongWork all) => Results.Ok(new StopAnswer(await all.Stop(Person.Of(context), work)))).Produces<StopAnswer>();

    /// <summary>Makes the calls of an endpoint such work.</summary>
    public static RouteHandlerBuilder Stoppable(RouteHandlerBuilder endpoint) => endpoint.AddEndpointFilter(async (invocation, next) =>
    {
        var context = invocation.HttpContext;
        return context.Request.Headers[Header].FirstOrDefault() is { Length: > 0 } work
            ? await context.RequestServices.GetRequiredService<LongWork>().Do(context, work, async () => await next(invocation))
            : await next(invocation);
    });

    private async Task<object?> Do(HttpContext context, string work, Func<Task<object?>> act)
    {
        var (key, gone) = ((Person.Of(context), work), context.RequestAborted);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(gone);
        var going = new Going(stop);
        Forget();
        if (_going.Count >= Most)
        {
            return await act();
        }

        if (work.Length > LongestName || !_going.TryAdd(key, going))
        {
            throw new Refusal(Refusals.NotUnderstood, $"Work has a name of its own, of at most {LongestName} letters.");
        }

        context.RequestAborted = stop.Token;
        var stopped = false;
        try
        {
            return await act();
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested && !gone.IsCancellationRequested)
        {
            stopped = true;
            throw new Refusal(Refusals.Stopped, "It was stopped; nothing came of it.");
        }
        finally
        {
            // What answers goes by whether the caller is there.
            context.RequestAborted = gone;
            going.End(stopped ? "stopped" : "done");
            _ended.Enqueue((key, DateTime.UtcNow));
        }
    }

    private Task<string> Stop(string person, string work) => _going.TryGetValue((person, work), out var going) ? going.Stop() : Task.FromResult("unknown");

    private void Forget()
    {
        while (_ended.TryPeek(out var first) && DateTime.UtcNow - first.At > Remembered && _ended.TryDequeue(out var old))
        {
            _going.TryRemove(old.Key, out _);
        }
    }

    private sealed class Going(CancellationTokenSource stop)
    {
        private readonly TaskCompletionSource<string> _ended = new(TaskCreationOptions.RunContinuationsAsynchronously);
        private readonly Lock _gate = new();
        private bool _isOver;

        public Task<string> Stop()
        {
            lock (_gate)
            {
                if (!_isOver)
                {
                    stop.Cancel();
                }
            }

            return _ended.Task;
        }

        public void End(string how)
        {
            lock (_gate)
            {
                _isOver = true;
            }

            _ended.SetResult(how);
        }
    }
}
