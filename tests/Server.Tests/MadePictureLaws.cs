using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using CalmPivot.Core;
using CalmPivot.Server.Pictures;
using CsCheck;

namespace CalmPivot.Server.Tests;

/// <summary>What the page makes is taken as it is; what is cut, added to, or no picture at all behind its first bytes is not, and a header costs nothing.</summary>
public sealed class MadePictureLaws
{
    private static readonly Gen<byte[]> Small =
        Gen.Select(Gen.Int[1, 90], Gen.Int[1, 90], Gen.Bool, Gen.Byte).Select((w, h, png, shade) => png ? Tests.Pictures.Png(w, h, shade) : Tests.Pictures.WebP(w, h, shade));

    [Fact]
    public void What_the_page_makes_is_taken() => Gen.Select(Gen.Int[1, 90], Gen.Int[1, 90], Gen.Byte).Sample((w, h, shade) =>
    {
        Assert.Equal(new MadePicture("image/png", w, h), MadePicture.Of(Tests.Pictures.Png(w, h, shade), small: false, default));
        Assert.Equal(new MadePicture("image/png", w, h), MadePicture.Of(Tests.Pictures.Png(w, h, shade), small: true, default));
        Assert.Equal(new MadePicture("image/webp", w, h), MadePicture.Of(Tests.Pictures.WebP(w, h, shade), small: true, default));
    },
    iter: 40);

    [Fact]
    public void What_is_cut_or_added_to_is_not() => Gen.Select(Small, Gen.Double[0, 1], Gen.Byte.Array[1, 60]).Sample((picture, share, more) =>
    {
        var at = (int)(share * (picture.Length - 1));
        Refuses(picture[..at]);
        Refuses([.. picture, .. more]);
        Refuses([.. picture, .. "<html><script>alert(1)</script>"u8]);
    },
    iter: 60);

    [Fact]
    public void Nothing_is_said_beside_the_pixels()
    {
        var png = Tests.Pictures.Png(9, 9);
        foreach (var part in new[] { "tEXt", "iTXt", "eXIf", "zTXt", "caNv", "acTL" })
        {
            Refuses([.. png[..33], .. Chunk(part, "Comment\0<html>"u8.ToArray()), .. png[33..]]);
        }

        Assert.Equal(9, MadePicture.Of([.. png[..33], .. Chunk("gAMA", [0, 0, 0xB1, 0x8F]), .. png[33..]], small: true, default).Width);
        var webp = Tests.Pictures.WebP(9, 9);
        byte[] said = [.. webp, .. "EXIF"u8, 4, 0, 0, 0, .. "<htm"u8];
        BinaryPrimitives.WriteInt32LittleEndian(said.AsSpan(4), said.Length - 8);
        Refuses(said);
        Assert.Equal(Refusals.UnsupportedFile, Refuses(Tests.Pictures.Jpeg(9, 9)));
        Assert.Equal(Refusals.UnsupportedFile, Refuses([0xFF, 0xD8, 0xFF, .. "<html></html>"u8]));
        Assert.Equal(Refusals.UnsupportedFile, Assert.Throws<Refusal>(() => MadePicture.Of(webp, small: false, default)).Word);
        Refuses([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]);
        Refuses([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, .. "<html></html><html></html><html></html><html></html>"u8]);
    }

    [Theory]
    [InlineData(30_000, 30_000, false, Refusals.TooLarge)]
    [InlineData(8_193, 2, false, Refusals.TooLarge)]
    [InlineData(8_192, 8_192, false, Refusals.BrokenFile)]
    [InlineData(1_500, 1_500, true, Refusals.TooLarge)]
    [InlineData(16_385, 1, true, Refusals.TooLarge)]
    public void A_head_of_any_size_costs_nothing(int width, int height, bool small, string word)
    {
        // The rows of another, behind it.
        var rows = new MemoryStream();
        using (var packed = new ZLibStream(rows, CompressionMode.Compress, leaveOpen: true))
        {
            packed.Write(new byte[1_000]);
        }

        byte[] head = [0, 0, 0, 0, 0, 0, 0, 0, 8, 6, 0, 0, 0];
        BinaryPrimitives.WriteInt32BigEndian(head, width);
        BinaryPrimitives.WriteInt32BigEndian(head.AsSpan(4), height);
        byte[] png = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, .. Chunk("IHDR", head), .. Chunk("IDAT", rows.ToArray()), .. Chunk("IEND", [])];
        var before = Environment.WorkingSet;
        Assert.Equal(word, Assert.Throws<Refusal>(() => MadePicture.Of(png, small, default)).Word);
        Assert.InRange((Environment.WorkingSet - before) / 1_000_000, -10_000, 60);
    }

    [Fact]
    public void What_a_picture_takes_is_known_by_its_first_bytes() => Gen.Select(Gen.Int[1, 300], Gen.Int[1, 300], Gen.Int[0, 3]).Sample((w, h, form) =>
    {
        var picture = form switch { 0 => Tests.Pictures.Png(w, h), 1 => Tests.Pictures.Jpeg(w, h), 2 => Tests.Pictures.WebP(w, h), _ => Tests.Pictures.WebP(w, h, lossless: true) };
        using var head = new Counted(picture);
        Assert.Equal(4L * w * h, ImageCheck.Takes(head));
        if (form >= 2)
        {
            Assert.InRange(head.Taken, 1, 30);
        }
    },
    iter: 40);

    [Fact]
    public void It_is_left_when_its_caller_has_gone()
    {
        using var gone = new CancellationTokenSource();
        gone.Cancel();
        Assert.Throws<OperationCanceledException>(() => MadePicture.Of(Tests.Pictures.Png(9, 9), small: false, gone.Token));
    }

    private sealed class Counted(byte[] bytes) : MemoryStream(bytes)
    {
        public long Taken { get; private set; }

        public override int Read(Span<byte> buffer)
        {
            var read = base.Read(buffer);
            Taken += read;
            return read;
        }
    }

    private static string Refuses(byte[] bytes)
    {
        var word = Assert.Throws<Refusal>(() => MadePicture.Of(bytes, small: true, default)).Word;
        Assert.Contains(word, new[] { Refusals.BrokenFile, Refusals.UnsupportedFile });
        return word;
    }

    /// <summary>A part of a PNG. Source: PNG specification, 5.3, and its annex D.</summary>
    private static byte[] Chunk(string name, byte[] data)
    {
        byte[] named = [.. Encoding.ASCII.GetBytes(name), .. data];
        var crc = named.Aggregate(0xFFFFFFFFu, (c, b) =>
        {
            c ^= b;
            for (var i = 0; i < 8; i++)
            {
                c = (c & 1) != 0 ? 0xEDB88320u ^ (c >> 1) : c >> 1;
            }

            return c;
        });
        var chunk = new byte[named.Length + 8];
        BinaryPrimitives.WriteInt32BigEndian(chunk, data.Length);
        named.CopyTo(chunk, 4);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(named.Length + 4), ~crc);
        return chunk;
    }
}
