using CalmPivot.Server.Hosting;

namespace CalmPivot.Server.Api;

/// <summary>Writes files, two at a time and of each person one: each may need ten times its size of memory. Others wait, and their pages are told so.</summary>
internal sealed class Exports() : Turns(AtOnce)
{
    private const int AtOnce = 2;

    /// <exception cref="OperationCanceledException">The caller has gone, or stopped it.</exception>
    public async Task<T> One<T>(HttpContext context, Func<Progress, Task<T>> act)
    {
        var progress = Progress.Of(context);
        using var turn = await Turn(Person.Of(context), 1, () => progress.Says("Waiting for other exports"), context.RequestAborted);
        return await act(progress);
    }
}
