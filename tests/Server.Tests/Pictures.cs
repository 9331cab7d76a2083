using SkiaSharp;

namespace CalmPivot.Server.Tests;

/// <summary>Pictures as the page makes them.</summary>
internal static class Pictures
{
    public static byte[] Png(int width, int height, byte shade = 128) => Encoded(SKEncodedImageFormat.Png, width, height, shade);

    public static byte[] WebP(int width, int height, byte shade = 128, bool lossless = false)
    {
        using var bitmap = Drawn(width, height, shade);
        using var pixels = bitmap.PeekPixels();
        using var data = pixels.Encode(new SKWebpEncoderOptions(lossless ? SKWebpEncoderCompression.Lossless : SKWebpEncoderCompression.Lossy, 90));
        return data!.ToArray();
    }

    public static byte[] Jpeg(int width, int height) => Encoded(SKEncodedImageFormat.Jpeg, width, height, 128);

    private static byte[] Encoded(SKEncodedImageFormat format, int width, int height, byte shade)
    {
        using var bitmap = Drawn(width, height, shade);
        using var data = bitmap.Encode(format, 90);
        return data.ToArray();
    }

    private static SKBitmap Drawn(int width, int height, byte shade)
    {
        var bitmap = new SKBitmap(width, height);
        bitmap.Erase(new SKColor(shade, 100, 200));
        for (var x = 0; x < Math.Min(width, height); x++)
        {
            bitmap.SetPixel(x, x, new SKColor((byte)(37 * x), (byte)(x >> 3), shade));
        }

        return bitmap;
    }
}
