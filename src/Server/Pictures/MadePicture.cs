using System.Buffers.Binary;
using CalmPivot.Core;

namespace CalmPivot.Server.Pictures;

/// <summary>What a picture that the page made is.</summary>
public sealed record MadePicture(string MediaType, int Width, int Height)
{
    /// <summary>The most pixels of a small picture, of a card or for choosing; those of the page have an eighth of it.</summary>
    public const long MostSmall = 2_000_000;
    private const int MostSide = 16_384;
    private const int Head = 8;

    /// <summary>What pixels are told by; nothing that says something beside them. Source: WebP container specification.</summary>
    private static readonly string[] WebPParts = ["VP8 ", "VP8L", "VP8X", "ALPH", "ICCP"];

    /// <summary>
    /// Looks at a picture that is kept as it is and sent to others: what it is, how large, that nothing stands in it beside its pixels, and each of its rows, one after the
    /// other. A WebP, of which no rows can be asked for, is small.
    /// </summary>
    /// <param name="small">Whether it is one of those small pictures; else it is a PNG of the size of a still.</param>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public static MadePicture Of(byte[] bytes, bool small, CancellationToken stopped)
    {
        ArgumentNullException.ThrowIfNull(bytes);
        var isPng = bytes.AsSpan().StartsWith(PngRows.Mark);
        if (!isPng && !(IsWebP(bytes) && small))
        {
            throw new Refusal(Refusals.UnsupportedFile, small ? "A small picture is a WebP or a PNG." : "A still, and what lies beside it, is a PNG.");
        }

        var (width, height) = (isPng ? PngRows.SizeOf(bytes) : ImageCheck.HeadOf(bytes)) ?? throw Broken();
        if (small ? (long)width * height > MostSmall || Math.Max(width, height) > MostSide : Math.Max(width, height) > Core.Scene.Camera.MostPixels)
        {
            throw new Refusal(Refusals.TooLarge, small
                ? $"The picture has {width} × {height} pixels; a small one has at most {MostSmall / 1_000_000} million. Make it smaller."
                : $"The picture has {width} × {height} pixels; a still has at most {Core.Scene.Camera.MostPixels} a side. Make it smaller.");
        }

        var isWhole = isPng ? PngRows.AreWhole(bytes, stopped) : IsPlainWebP(bytes) && ImageCheck.HasItsPixels(bytes);
        return isWhole ? new(isPng ? "image/png" : "image/webp", width, height) : throw Broken();
    }

    private static bool IsWebP(byte[] bytes) => bytes.Length >= 12 && bytes.AsSpan().StartsWith("RIFF"u8) && bytes.AsSpan(8, 4).SequenceEqual("WEBP"u8);

    private static bool IsPlainWebP(byte[] bytes)
    {
        if (BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan(4)) + 8L != bytes.Length)
        {
            return false;
        }

        var at = 12L;
        while (at + Head <= bytes.Length)
        {
            var (part, length) = (PartAt(bytes, (int)at), BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan((int)at + 4)));
            at += Head + length + (length & 1);
            if (!WebPParts.Contains(part))
            {
                return false;
            }
        }

        return at == bytes.Length;
    }

    private static string PartAt(byte[] bytes, int at) => System.Text.Encoding.ASCII.GetString(bytes, at, 4);

    private static Refusal Broken() => new(Refusals.BrokenFile, "The picture is damaged, cut short, or holds something beside its pixels. Make it anew.");
}
