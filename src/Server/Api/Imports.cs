using CalmPivot.Core;
using CalmPivot.Exchange;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Pictures;

namespace CalmPivot.Server.Api;

/// <summary>Reads uploads as far as there is memory for them over all callers. Others wait, and their pages are told so.</summary>
internal sealed class Imports
{
    private const long MostMemory = 512L << 20;

    /// <summary>Small files have some of it for themselves, so that they wait for no large one.</summary>
    private const long Small = 16L << 20;
    private readonly Turns _small = new(4 * Small);
    private readonly Turns _large = new(MostMemory - 4 * Small);

    /// <summary>Reads the file of a call and does something with it.</summary>
    /// <exception cref="OperationCanceledException">The caller has gone, or stopped it.</exception>
    public async Task<T> One<T>(HttpContext context, Func<ImportedFile, Progress, Task<T>> act)
    {
        var (progress, stopped) = (Progress.Of(context), context.RequestAborted);
        await using var upload = await Upload.Of(context);
        var takes = upload.Peek(GltfFile.TakesAtFirst);
        while (true)
        {
            using var turn = await (takes <= Small ? _small : _large).Turn(Person.Of(context), takes, () => progress.Says("Waiting for other imports"), stopped);
            await progress.Says("Reading the file");
            if (Read(upload, ref takes, stopped) is { } file)
            {
                return await act(file, progress);
            }
        }
    }

    /// <summary>Reads a file, which is let go with what it was read from.</summary>
    /// <param name="takes">What may be taken; if it is more, nothing is read, and it is told.</param>
    private static ImportedFile? Read(Upload upload, ref long takes, CancellationToken stopped)
    {
        var file = upload.Peek(GltfFile.Open);
        if (file.Takes > MostMemory)
        {
            throw new Refusal(Refusals.TooLarge, $"Reading this file takes {file.Takes >> 20} MB of memory; at most {MostMemory >> 20} MB are there for it. Split it into smaller files.");
        }

        if (file.Takes > takes)
        {
            takes = file.Takes;
            return null;
        }

        // They are kept as they are in the file, but not what no page could show.
        var read = file.Read(stopped);
        return read.WithoutPictures(
            read.Images.Where(image => ImageCheck.SizeOf(image.Value.Bytes) is null).Select(image => image.Key).ToHashSet(),
            $"Pictures that are damaged or have more than {ImageCheck.MostSide} pixels a side were left out.");
    }
}
