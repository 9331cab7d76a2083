using System.Buffers.Binary;

namespace CalmPivot.Server.Pictures;

/// <summary>
/// What the first bytes of a WebP say, since its reader would take in all of it for that. Source: WebP container specification; RFC 6386, 9.1 (lossy) and the WebP
/// lossless bitstream, 3 (lossless).
/// </summary>
internal static class WebPHead
{
    public const int Length = 30;
    private const byte HasExif = 8;

    /// <summary>Width, height, and whether it may be turned; null: it is no WebP.</summary>
    public static (int Width, int Height, bool MayBeTurned)? Of(ReadOnlySpan<byte> head)
    {
        if (head.Length < Length || !head.StartsWith("RIFF"u8) || !head[8..].StartsWith("WEBP"u8))
        {
            return null;
        }

        static int Three(ReadOnlySpan<byte> at) => at[0] | at[1] << 8 | at[2] << 16;
        var form = head[12..16];
        var data = head[20..];
        if (form.SequenceEqual("VP8X"u8))
        {
            return (1 + Three(data[4..]), 1 + Three(data[7..]), (data[0] & HasExif) != 0);
        }

        if (form.SequenceEqual("VP8L"u8))
        {
            var bits = BinaryPrimitives.ReadUInt32LittleEndian(data[1..]);
            return (1 + (int)(bits & 0x3FFF), 1 + (int)(bits >> 14 & 0x3FFF), false);
        }

        return (BinaryPrimitives.ReadUInt16LittleEndian(data[6..]) & 0x3FFF, BinaryPrimitives.ReadUInt16LittleEndian(data[8..]) & 0x3FFF, false);
    }
}
