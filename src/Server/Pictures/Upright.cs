using System.Runtime.InteropServices;
using SkiaSharp;

namespace CalmPivot.Server.Pictures;

/// <summary>Turns pixels upright: cameras write pictures lying on their side, and say so beside.</summary>
internal static class Upright
{
    /// <summary>Pixels are gone through in squares of this side, so that rows and columns alike stay in the processor's cache.</summary>
    private const int Square = 64;

    public static bool IsSo(SKEncodedOrigin origin) => origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default;

    /// <summary>Whether what was written as wide is high.</summary>
    public static bool IsOnSide(SKEncodedOrigin origin) =>
        origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;

    /// <summary>The same picture upright, of four bytes a pixel.</summary>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public static SKBitmap Of(SKBitmap bitmap, SKEncodedOrigin origin, CancellationToken stopped)
    {
        var (w, h) = IsOnSide(origin) ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        var upright = new SKBitmap(bitmap.Info.WithSize(w, h));
        var from = MemoryMarshal.Cast<byte, uint>(bitmap.GetPixelSpan());
        var into = MemoryMarshal.Cast<byte, uint>(upright.GetPixelSpan());

        // Where the first pixel comes from, and how far on the next to the right and the next below are.
        var (start, right, down) = Steps(origin, bitmap.Width, bitmap.Height);
        for (var top = 0; top < h; top += Square)
        {
            stopped.ThrowIfCancellationRequested();
            for (var left = 0; left < w; left += Square)
            {
                for (var y = top; y < Math.Min(top + Square, h); y++)
                {
                    var at = start + y * down + left * right;
                    for (var x = left; x < Math.Min(left + Square, w); x++, at += right)
                    {
                        into[y * w + x] = from[at];
                    }
                }
            }
        }

        return upright;
    }

    private static (int Start, int Right, int Down) Steps(SKEncodedOrigin origin, int width, int height)
    {
        var (lastColumn, lastRow) = (width - 1, (height - 1) * width);
        return origin switch
        {
            SKEncodedOrigin.TopRight => (lastColumn, -1, width),
            SKEncodedOrigin.BottomRight => (lastRow + lastColumn, -1, -width),
            SKEncodedOrigin.BottomLeft => (lastRow, 1, -width),
            SKEncodedOrigin.LeftTop => (0, width, 1),
            SKEncodedOrigin.RightTop => (lastRow, -width, 1),
            SKEncodedOrigin.RightBottom => (lastRow + lastColumn, -width, -1),
            SKEncodedOrigin.LeftBottom => (lastColumn, width, -1),
            _ => (0, 1, width),
        };
    }
}
