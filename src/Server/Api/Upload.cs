using Microsoft.AspNetCore.WebUtilities;

namespace CalmPivot.Server.Api;

/// <summary>
/// The body of a call, taken in whole before anything waits for a turn: beyond a little it lies on disk until it is asked for, so that what is claimed beforehand
/// costs nothing, and a slow caller keeps nobody waiting.
/// </summary>
internal sealed class Upload : IAsyncDisposable
{
    private const int InMemory = 64 * 1024;

    private readonly FileBufferingReadStream _body;

    private Upload(FileBufferingReadStream body) => _body = body;

    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public static async Task<Upload> Of(HttpContext context)
    {
        var body = new FileBufferingReadStream(context.Request.Body, InMemory, bufferLimit: null, Path.GetTempPath());
        try
        {
            await body.DrainAsync(context.RequestAborted);
            body.Position = 0;
            return new(body);
        }
        catch
        {
            await body.DisposeAsync();
            throw;
        }
    }

    public long Length => _body.Length;

    /// <summary>Reads something of it beforehand.</summary>
    public T Peek<T>(Func<Stream, T> read)
    {
        _body.Position = 0;
        return read(_body);
    }

    /// <summary>The whole body.</summary>
    public async Task<byte[]> Bytes(CancellationToken stopped)
    {
        _body.Position = 0;
        var bytes = new byte[_body.Length];
        await _body.ReadExactlyAsync(bytes, stopped);
        return bytes;
    }

    public ValueTask DisposeAsync() => _body.DisposeAsync();
}
