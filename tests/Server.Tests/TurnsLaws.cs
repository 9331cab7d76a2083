using CalmPivot.Server.Hosting;
using CsCheck;

namespace CalmPivot.Server.Tests;

/// <summary>Work is done one a person and within its room, in the order in which they came; whoever leaves keeps nobody waiting.</summary>
public sealed class TurnsLaws
{
    private const long Most = 256L << 20;

    private static readonly Gen<(int Person, long Megabytes, bool Leaves)[]> Callers =
        Gen.Select(Gen.Int[0, 3], Gen.Long[0, 400], Gen.Int[0, 4].Select(i => i == 0)).Array[1, 20];

    [Fact]
    public void Never_more_than_there_is_and_everybody_has_a_turn() => Callers.Sample(callers =>
    {
        var turns = new Turns(Most);
        var waiting = callers.Select(caller =>
        {
            var left = new CancellationTokenSource();
            return (Caller: caller, Left: left, Turn: turns.Of($"{caller.Person}", caller.Megabytes << 20, left.Token));
        }).ToList();
        foreach (var (caller, left, turn) in waiting)
        {
            if (caller.Leaves && !turn.IsCompleted)
            {
                left.Cancel();
            }
        }

        var staying = waiting.Where(w => !w.Left.IsCancellationRequested).ToList();
        Assert.All(waiting.Except(staying), w => Assert.ThrowsAny<OperationCanceledException>(() => w.Turn.GetAwaiter().GetResult()));
        List<(int Person, long Megabytes, bool Leaves)> order = [];
        while (staying.Count > 0)
        {
            // A turn is told of on another thread.
            Assert.True(SpinWait.SpinUntil(() => staying.Any(w => w.Turn.IsCompleted), TimeSpan.FromSeconds(10)));
            SpinWait.SpinUntil(() => false, TimeSpan.FromMilliseconds(1));
            var now = staying.Where(w => w.Turn.IsCompleted).ToList();
            Assert.True(now.Sum(w => Math.Min(w.Caller.Megabytes << 20, Most)) <= Most);
            Assert.Equal(now.Count, now.Select(w => w.Caller.Person).Distinct().Count());
            var first = now[0];
            staying.Remove(first);
            order.Add(first.Caller);
            first.Turn.Result.Dispose();
        }
    },
    iter: 30);

    [Fact]
    public async Task Somebody_elses_work_waits_for_one_at_most()
    {
        var turns = new Turns(Most);
        var mine = Enumerable.Range(0, 5).Select(_ => turns.Of("me", Most, default)).ToList();
        var other = turns.Of("other", 1, default);
        Assert.True(mine[0].IsCompleted);
        Assert.False(other.IsCompleted);
        (await mine[0]).Dispose();
        var turn = await other.WaitAsync(TimeSpan.FromSeconds(10));
        Assert.False(mine[1].IsCompleted);
        turn.Dispose();
        (await mine[1].WaitAsync(TimeSpan.FromSeconds(10))).Dispose();
    }
}
