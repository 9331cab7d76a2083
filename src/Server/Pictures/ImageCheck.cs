using System.Runtime.InteropServices;
using CalmPivot.Core;
using CalmPivot.Server.Store;
using SkiaSharp;

namespace CalmPivot.Server.Pictures;

/// <summary>An image as it is kept: upright, without what it said beside its pixels.</summary>
/// <param name="Notes">What of it was left out.</param>
public sealed record CheckedImage(Blob Blob, int Width, int Height, IReadOnlyList<string> Notes);

/// <summary>
/// Looks at images that come from outside. Their size is read before their pixels are, so that a small file of a huge image costs nothing; what stands in
/// them beside pixels (places, names of devices, previews) is not kept.
/// </summary>
public static class ImageCheck
{
    public const int MostBytes = 32 * 1024 * 1024;
    public const int MostSide = 8_192;
    public const long MostPixels = 40_000_000;
    private const int BytesEach = 4;
    private const int Quality = 92;

    /// <summary>Width and height of a picture as its head says; null: it is none, or larger than what is taken.</summary>
    public static (int Width, int Height)? SizeOf(byte[] bytes) => HeadOf(bytes) is { Width: <= MostSide, Height: <= MostSide } size ? size : null;

    /// <summary>Width and height of a picture as its head says; null: it is none.</summary>
    internal static (int Width, int Height)? HeadOf(byte[] bytes)
    {
        using var data = Wrapped(bytes, out var held);
        using (held)
        {
            using var codec = SKCodec.Create(data);
            return codec is { Info: { Width: > 0, Height: > 0 } info } ? (info.Width, info.Height) : null;
        }
    }

    /// <summary>Whether a picture is one, and whole; it is held in memory for that.</summary>
    internal static bool HasItsPixels(byte[] bytes)
    {
        using var data = Wrapped(bytes, out var held);
        using (held)
        {
            using var codec = SKCodec.Create(data);
            if (codec is null || codec.FrameCount > 1)
            {
                return false;
            }

            using var bitmap = new SKBitmap(new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul));
            return codec.GetPixels(bitmap.Info, bitmap.GetPixels()) == SKCodecResult.Success;
        }
    }

    /// <summary>What looking at a picture takes in bytes, by its head; 0: it is none, or is refused before it takes anything.</summary>
    public static long Takes(Stream picture)
    {
        Span<byte> head = stackalloc byte[WebPHead.Length];
        head = head[..picture.ReadAtLeast(head, head.Length, throwOnEndOfStream: false)];
        picture.Position = 0;
        if (WebPHead.Of(head) is var (width, height, mayBeTurned))
        {
            return width > MostSide || height > MostSide ? 0 : (mayBeTurned ? 2L : 1L) * BytesEach * Math.Min((long)width * height, MostPixels);
        }

        using var stream = new SKManagedStream(picture, disposeManagedStream: false);
        using var codec = SKCodec.Create(stream);
        return codec is null || codec.Info.Width > MostSide || codec.Info.Height > MostSide || Fitting(codec) is not { } size ? 0
            : (Upright.IsSo(codec.EncodedOrigin) ? 1L : 2L) * BytesEach * size.Width * size.Height;
    }

    /// <param name="side">The longest side that it is reduced to; null: as it is.</param>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public static CheckedImage Read(byte[] bytes, int? side = null, CancellationToken stopped = default)
    {
        ArgumentNullException.ThrowIfNull(bytes);
        if (bytes.Length == 0)
        {
            throw new Refusal(Refusals.BrokenFile, "The picture is empty. Choose another file.");
        }

        using var data = Wrapped(bytes, out var held);
        using (held)
        {
            using var codec = SKCodec.Create(data) ?? throw Unsupported();
            return Read(bytes, codec, side, stopped);
        }
    }

    private static CheckedImage Read(byte[] bytes, SKCodec codec, int? side, CancellationToken stopped)
    {
        if (codec.EncodedFormat is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp))
        {
            throw Unsupported();
        }

        var info = codec.Info;
        if (info.Width > MostSide || info.Height > MostSide)
        {
            throw new Refusal(Refusals.TooLarge, $"The picture has {info.Width} × {info.Height} pixels; at most {MostSide} a side are taken. Make it smaller first.");
        }

        if (codec.EncodedFormat == SKEncodedImageFormat.Jpeg && !IsWholeJpeg(bytes, info.Width, info.Height))
        {
            throw Broken();
        }

        var size = Fitting(codec) ?? throw new Refusal(
            Refusals.TooLarge,
            $"The picture has {info.Width} × {info.Height} pixels, {(long)info.Width * info.Height / 1_000_000} million; of its kind at most {Most(codec) / 1_000_000} million are taken. Make it smaller first.");
        List<string> notes = [];
        if (codec.FrameCount > 1)
        {
            notes.Add($"Of the {codec.FrameCount} pictures of this moving one, the first was taken.");
        }

        if (size != info.Size)
        {
            notes.Add($"It was reduced from {info.Width} × {info.Height} pixels, since at most {Most(codec) / 1_000_000} million are taken.");
        }

        // Two copies at most, and each is let go as soon as the next is there.
        var kept = Decoded(codec, size);
        try
        {
            if (!Upright.IsSo(codec.EncodedOrigin))
            {
                kept = Instead(kept, Upright.Of(kept, codec.EncodedOrigin, stopped));
            }

            if (side is { } most && Math.Max(kept.Width, kept.Height) > most)
            {
                kept = Instead(kept, Reduced(kept, Math.Max(1, most)));
            }

            stopped.ThrowIfCancellationRequested();
            using var pixels = kept.PeekPixels();

            // In the two forms that every reader of glTF takes.
            var jpeg = IsOpaque(kept) && codec.EncodedFormat != SKEncodedImageFormat.Png;
            using var encoded = pixels.Encode(jpeg ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Png, Quality) ?? throw Broken();
            stopped.ThrowIfCancellationRequested();
            return new(BlobStore.Of(jpeg ? "image/jpeg" : "image/png", encoded.ToArray()), kept.Width, kept.Height, notes);
        }
        finally
        {
            kept.Dispose();
        }
    }

    /// <summary>Without a copy, as long as what is held is.</summary>
    private static SKData Wrapped(byte[] bytes, out IDisposable held)
    {
        var pinned = new Pinned(bytes);
        held = pinned;
        return SKData.Create(pinned.Address, bytes.Length);
    }

    private sealed class Pinned(byte[] bytes) : IDisposable
    {
        private GCHandle _handle = GCHandle.Alloc(bytes, GCHandleType.Pinned);

        public IntPtr Address => _handle.AddrOfPinnedObject();

        public void Dispose() => _handle.Free();
    }

    private static SKBitmap Instead(SKBitmap former, SKBitmap now)
    {
        former.Dispose();
        return now;
    }

    /// <summary>How many pixels are taken of what has to be turned, which needs two copies, and of anything else.</summary>
    private static long Most(SKCodec codec) => Upright.IsSo(codec.EncodedOrigin) ? MostPixels : PictureTurns.MostBytes / (2 * BytesEach);

    /// <summary>The size that a picture is read in: its own, or one that it can be reduced to while it is read; null: it cannot, and is too large.</summary>
    private static SKSizeI? Fitting(SKCodec codec)
    {
        var (size, most) = (codec.Info.Size, Most(codec));
        for (var eighths = 8; eighths > 0; eighths--)
        {
            var fitting = eighths == 8 ? size : codec.GetScaledDimensions(eighths / 8f);
            if ((long)fitting.Width * fitting.Height <= most)
            {
                return fitting;
            }
        }

        return null;
    }

    /// <summary>
    /// Whether a JPEG has its end, and at least a bit for each of its blocks of eight by eight pixels: readers fill up what is missing in grey and say nothing.
    /// Source: ITU-T T.81, EOI, and the least length of a code.
    /// </summary>
    private static bool IsWholeJpeg(byte[] bytes, int width, int height) =>
        bytes.AsSpan().LastIndexOf((ReadOnlySpan<byte>)[0xFF, 0xD9]) >= 0 && bytes.Length * 8L >= ((width + 7L) / 8) * ((height + 7L) / 8);

    private static SKBitmap Decoded(SKCodec codec, SKSizeI size)
    {
        var info = new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul, SKColorSpace.CreateSrgb());
        var bitmap = new SKBitmap(info);
        if (codec.GetPixels(info, bitmap.GetPixels()) is SKCodecResult.Success)
        {
            return bitmap;
        }

        bitmap.Dispose();
        throw Broken();
    }

    private static SKBitmap Reduced(SKBitmap bitmap, int most)
    {
        var by = (double)most / Math.Max(bitmap.Width, bitmap.Height);
        var info = bitmap.Info.WithSize(Math.Max(1, (int)Math.Round(bitmap.Width * by)), Math.Max(1, (int)Math.Round(bitmap.Height * by)));
        return bitmap.Resize(info, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
    }

    private static bool IsOpaque(SKBitmap bitmap)
    {
        var pixels = bitmap.GetPixelSpan();
        for (var at = 3; at < pixels.Length; at += 4)
        {
            if (pixels[at] != 255)
            {
                return false;
            }
        }

        return true;
    }

    private static Refusal Broken() => new(Refusals.BrokenFile, "The picture is damaged or cut short. Choose another file.");

    private static Refusal Unsupported() => new(Refusals.UnsupportedFile, "This is no picture that can be read. Choose a PNG, JPEG or WebP file.");
}
