using System.Security.Cryptography;
using CalmPivot.Server.Store;
using SkiaSharp;

namespace CalmPivot.Server.Demo;

/// <summary>A picture of wood for the demo: planks with grain, drawn by formula, whose edges meet when it is repeated.</summary>
internal static class WoodPicture
{
    private const int Size = 256;
    private const int Planks = 4;
    private const int Quality = 80;

    private static readonly Lazy<byte[]> Drawn = new(Draw);

    public static Blob Blob => new(Hash, "image/jpeg", Drawn.Value);

    public static string Hash => Convert.ToHexStringLower(SHA256.HashData(Drawn.Value));

    private static byte[] Draw()
    {
        using var bitmap = new SKBitmap(Size, Size, SKColorType.Rgba8888, SKAlphaType.Opaque);
        for (var y = 0; y < Size; y++)
        {
            for (var x = 0; x < Size; x++)
            {
                bitmap.SetPixel(x, y, At((double)x / Size, (double)y / Size));
            }
        }

        using var image = SKImage.FromBitmap(bitmap);
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return data.ToArray();
    }

    private static SKColor At(double u, double v)
    {
        var plank = (int)(v * Planks);
        var within = v * Planks - plank;
        // Whole waves across, so that left and right meet.
        var wave = Math.Sin(2 * Math.PI * (u + plank * 0.37)) * 0.09 + Math.Sin(2 * Math.PI * (3 * u + plank * 0.61)) * 0.025;
        var ring = Math.Sin(2 * Math.PI * 5 * (within + wave));
        var fine = Math.Sin(2 * Math.PI * (2 * u + 31 * (within + wave) + plank));
        var tone = 0.78 + 0.1 * ring + 0.05 * fine + 0.05 * Math.Sin(plank * 2.4);
        var gap = Math.Min(within, 1 - within) < 0.012 ? 0.62 : 1;
        byte Part(double full) => (byte)Math.Clamp(full * tone * gap, 0, 255);
        return new(Part(178), Part(132), Part(86));
    }
}
