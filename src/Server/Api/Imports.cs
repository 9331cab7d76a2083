using CalmPivot.Exchange;

namespace CalmPivot.Server.Api;

/// <summary>Reads uploads, two at a time: each may need several times its size of memory. Others wait, and their pages are told so.</summary>
internal sealed class Imports : IDisposable
{
    private const int AtOnce = 2;

    private readonly SemaphoreSlim _free = new(AtOnce, AtOnce);

    /// <summary>Reads the file of a call and does something with it.</summary>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public async Task<T> One<T>(HttpContext context, Func<ImportedFile, Progress, Task<T>> act)
    {
        var (progress, stopped) = (Progress.Of(context), context.RequestAborted);
        await using var upload = await Upload.Of(context);
        if (!await _free.WaitAsync(TimeSpan.Zero, stopped))
        {
            await progress.Says("Waiting for other imports");
            await _free.WaitAsync(stopped);
        }

        try
        {
            await progress.Says("Reading the file");
            return await act(GltfReader.Read(await upload.Bytes(stopped), stopped), progress);
        }
        finally
        {
            _free.Release();
        }
    }

    public void Dispose() => _free.Dispose();
}
