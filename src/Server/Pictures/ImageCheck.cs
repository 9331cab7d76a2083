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
    private const int Quality = 92;

    /// <summary>Width and height of a picture as its head says; null: it is none, or larger than what is taken.</summary>
    public static (int Width, int Height)? SizeOf(byte[] bytes)
    {
        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        return codec is { Info: { Width: > 0 and <= MostSide, Height: > 0 and <= MostSide } info } ? (info.Width, info.Height) : null;
    }

    /// <param name="side">The longest side that it is reduced to; null: as it is.</param>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static CheckedImage Read(byte[] bytes, int? side = null)
    {
        ArgumentNullException.ThrowIfNull(bytes);
        if (bytes.Length == 0)
        {
            throw new Refusal(Refusals.BrokenFile, "The picture is empty. Choose another file.");
        }

        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data) ?? throw Unsupported();
        if (codec.EncodedFormat is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp))
        {
            throw Unsupported();
        }

        var info = codec.Info;
        if (info.Width > MostSide || info.Height > MostSide)
        {
            throw new Refusal(Refusals.TooLarge, $"The picture has {info.Width} × {info.Height} pixels; at most {MostSide} a side are taken. Make it smaller first.");
        }

        List<string> notes = [];
        if (codec.FrameCount > 1)
        {
            notes.Add($"Of the {codec.FrameCount} pictures of this moving one, the first was taken.");
        }

        using var decoded = Decoded(codec);
        using var upright = Upright(decoded, codec.EncodedOrigin);
        using var kept = side is { } most && Math.Max(upright.Width, upright.Height) > most ? Reduced(upright, Math.Max(1, most)) : upright.Copy();
        using var image = SKImage.FromBitmap(kept);
        var opaque = IsOpaque(kept);

        // In the two forms that every reader of glTF takes.
        var jpeg = opaque && codec.EncodedFormat != SKEncodedImageFormat.Png;
        using var encoded = image.Encode(jpeg ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Png, Quality);
        return new(BlobStore.Of(jpeg ? "image/jpeg" : "image/png", encoded.ToArray()), kept.Width, kept.Height, notes);
    }

    private static SKBitmap Decoded(SKCodec codec)
    {
        var info = new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul, SKColorSpace.CreateSrgb());
        var bitmap = new SKBitmap(info);
        if (codec.GetPixels(info, bitmap.GetPixels()) is SKCodecResult.Success)
        {
            return bitmap;
        }

        bitmap.Dispose();
        throw new Refusal(Refusals.BrokenFile, "The picture is damaged or cut short. Choose another file.");
    }

    /// <summary>Cameras write pictures lying on their side, and say so beside.</summary>
    private static SKBitmap Upright(SKBitmap bitmap, SKEncodedOrigin origin)
    {
        if (origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default)
        {
            return bitmap.Copy();
        }

        var turned = origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (w, h) = turned ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        var upright = new SKBitmap(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        for (var y = 0; y < h; y++)
        {
            for (var x = 0; x < w; x++)
            {
                var (fromX, fromY) = origin switch
                {
                    SKEncodedOrigin.TopRight => (w - 1 - x, y),
                    SKEncodedOrigin.BottomRight => (w - 1 - x, h - 1 - y),
                    SKEncodedOrigin.BottomLeft => (x, h - 1 - y),
                    SKEncodedOrigin.LeftTop => (y, x),
                    SKEncodedOrigin.RightTop => (y, w - 1 - x),
                    SKEncodedOrigin.RightBottom => (h - 1 - y, w - 1 - x),
                    _ => (h - 1 - y, x),
                };
                upright.SetPixel(x, y, bitmap.GetPixel(fromX, fromY));
            }
        }

        return upright;
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

    private static Refusal Unsupported() => new(Refusals.UnsupportedFile, "This is no picture that can be read. Choose a PNG, JPEG or WebP file.");
}
