using System.Buffers.Binary;
using System.IO.Compression;
using System.IO.Hashing;
using System.Text;

namespace CalmPivot.Server.Pictures;

/// <summary>
/// Goes through a PNG from its first byte to its last: its parts with their sums, and each row of its pixels, of which there is never more than one. Only what
/// tells pixels may stand in it, in one go from top to bottom. Source: PNG specification (third edition), 5, 9, 10, 11.
/// </summary>
internal static class PngRows
{
    private const int Frame = 12;
    private const int MostFilter = 4;

    private static readonly string[] Parts = ["IHDR", "PLTE", "tRNS", "cHRM", "gAMA", "iCCP", "sBIT", "sRGB", "cICP", "pHYs", "IDAT", "IEND"];

    public static ReadOnlySpan<byte> Mark => [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A];

    /// <summary>Width and height as its head says; null: it has none, or one that no picture of ours has.</summary>
    public static (int Width, int Height)? SizeOf(ReadOnlySpan<byte> png)
    {
        var begin = Mark.Length;
        if (png.Length < begin + Frame + 13 || !png.StartsWith(Mark) || !png.Slice(begin + 4, 4).SequenceEqual("IHDR"u8))
        {
            return null;
        }

        var head = png[(begin + 8)..];
        var (width, height) = (BinaryPrimitives.ReadInt32BigEndian(head), BinaryPrimitives.ReadInt32BigEndian(head[4..]));
        return width > 0 && height > 0 && BitsOf(head) > 0 && head[10] == 0 && head[11] == 0 && head[12] == 0 ? (width, height) : null;
    }

    /// <summary>Whether it is whole, and nothing stands in it or behind it beside its pixels.</summary>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public static bool AreWhole(byte[] png, CancellationToken stopped)
    {
        if (SizeOf(png) is not var (width, height) || DataOf(png) is not { Count: > 0 } data)
        {
            return false;
        }

        var row = new byte[1 + (((long)width * BitsOf(png.AsSpan(Mark.Length + 8)) + 7) / 8)];
        using var packed = new Parted(png, data);
        using var rows = new ZLibStream(packed, CompressionMode.Decompress);
        try
        {
            for (var y = 0; y < height; y++)
            {
                stopped.ThrowIfCancellationRequested();
                rows.ReadExactly(row);
                if (row[0] > MostFilter)
                {
                    return false;
                }
            }

            return rows.ReadByte() < 0 && packed.IsAtEnd;
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException)
        {
            return false;
        }
    }

    /// <summary>How many bits a pixel has; 0: there is no such form.</summary>
    private static int BitsOf(ReadOnlySpan<byte> head)
    {
        var depth = head[8];
        return (head[9], depth) switch
        {
            (0, 1 or 2 or 4 or 8 or 16) or (3, 1 or 2 or 4 or 8) => depth,
            (2, 8 or 16) => 3 * depth,
            (4, 8 or 16) => 2 * depth,
            (6, 8 or 16) => 4 * depth,
            _ => 0,
        };
    }

    /// <summary>Where its pixels lie; null: its parts are not those of such a picture.</summary>
    private static List<(int Start, int Length)>? DataOf(byte[] png)
    {
        var (data, before) = (new List<(int, int)>(), "");
        for (var at = (long)Mark.Length; at + Frame <= png.Length;)
        {
            var (length, name) = (BinaryPrimitives.ReadUInt32BigEndian(png.AsSpan((int)at)), Encoding.ASCII.GetString(png, (int)at + 4, 4));
            var next = at + Frame + length;
            if (!Parts.Contains(name) || next > png.Length || (name == "IHDR" && data.Count + before.Length > 0)
                || Crc32.HashToUInt32(png.AsSpan((int)at + 4, (int)length + 4)) != BinaryPrimitives.ReadUInt32BigEndian(png.AsSpan((int)next - 4)))
            {
                return null;
            }

            if (name == "IDAT")
            {
                if (data.Count > 0 && before != name)
                {
                    return null;
                }

                data.Add(((int)at + 8, (int)length));
            }

            if (name == "IEND")
            {
                return length == 0 && next == png.Length ? data : null;
            }

            (at, before) = (next, name);
        }

        return null;
    }

    /// <summary>Parts of some bytes, one after the other.</summary>
    private sealed class Parted(byte[] bytes, List<(int Start, int Length)> parts) : Stream
    {
        private int _part;
        private int _read;

        public bool IsAtEnd => parts.Skip(_part).Sum(part => part.Length) == _read;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override int Read(Span<byte> buffer)
        {
            while (_part < parts.Count && _read == parts[_part].Length)
            {
                (_part, _read) = (_part + 1, 0);
            }

            if (_part == parts.Count)
            {
                return 0;
            }

            var (start, length) = parts[_part];
            var count = Math.Min(buffer.Length, length - _read);
            bytes.AsSpan(start + _read, count).CopyTo(buffer);
            _read += count;
            return count;
        }

        public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

        public override void Flush()
        {
        }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
