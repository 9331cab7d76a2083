using System.Runtime.InteropServices;

namespace CalmPivot.Core.Shapes;

/// <summary>
/// Geometry as it is stored, sent and drawn. Little-endian; every block a multiple of four bytes, so that the page can
/// lay typed arrays over it:
/// <code>
/// u32 "CPG1"  u32 parts
/// per part: u32 mode, slot, vertices, indices, flags   flags: 1 normals, 2 colours, 4 tangents, 8·n texture coordinate sets
///           f32 positions[3v] normals[3v]? colours[4v]? tangents[4v]? texCoords[2v]·n   u32 indices[i]
/// </code>
/// </summary>
public static class GeometryBinary
{
    private const uint Mark = 0x31475043; // "CPG1"
    private const int Beginning = 8;
    internal const int HeadBytes = 20;

    public static byte[] Write(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        return Write([.. geometry.Parts.Select(PartHead.Of)], (i, into) =>
        {
            var part = geometry.Parts[i];
            for (var at = 0; at < part.Positions.Length; at++)
            {
                into.Positions[at] = (float)part.Positions[at];
            }

            part.Normals?.CopyTo(into.Normals);
            part.Colors?.CopyTo(into.Colors);
            part.Tangents?.CopyTo(into.Tangents);
            for (var set = 0; set < part.TexCoords.Count; set++)
            {
                part.TexCoords[set].CopyTo(into.TexCoords(set));
            }

            part.Indices.CopyTo(into.Indices);
        });
    }

    /// <summary>
    /// Geometry whose numbers are put right where they are stored, as large as it becomes at once: meshes may be hundreds of megabytes, of which there is no second copy then.
    /// </summary>
    /// <param name="fill">Puts the numbers of a part in, by its place.</param>
    public static byte[] Write(IReadOnlyList<PartHead> heads, PartFilling fill)
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(fill);
        var bytes = new byte[BytesOf(heads)];
        var left = bytes.AsSpan(Beginning);
        var i = 0;
        MemoryMarshal.Cast<byte, uint>(bytes.AsSpan(0, Beginning))[0] = Mark;
        MemoryMarshal.Cast<byte, int>(bytes.AsSpan(0, Beginning))[1] = heads.Count;
        foreach (var head in heads)
        {
            ReadOnlySpan<int> numbers = [(int)head.Mode, head.Slot, head.Vertices, head.Indices, head.Flags];
            MemoryMarshal.AsBytes(numbers).CopyTo(left);
            var length = checked((int)head.Bytes);
            fill(i++, new(head, left[HeadBytes..length]));
            left = left[length..];
        }

        return bytes;
    }

    /// <summary>How large geometry of such parts is.</summary>
    public static long BytesOf(IEnumerable<PartHead> heads) => Beginning + heads.Sum(head => head.Bytes);

    /// <summary>Whether what is stored can be read: every number can be computed with, and every index names a vertex.</summary>
    public static bool IsSound(ReadOnlySpan<byte> bytes)
    {
        try
        {
            var at = bytes;
            for (var left = Count(ref at); left > 0; left--)
            {
                if (!Numbers(ref at, out _).AreSound)
                {
                    return false;
                }
            }

            return true;
        }
        catch (Exception e) when (e is ArgumentException or OverflowException or Refusal)
        {
            return false;
        }
    }

    /// <exception cref="Refusal">broken-file.</exception>
    public static Geometry Read(ReadOnlySpan<byte> bytes)
    {
        try
        {
            var at = bytes;
            var parts = new Part[Count(ref at)];
            for (var i = 0; i < parts.Length; i++)
            {
                parts[i] = ReadPart(ref at);
            }

            return parts.All(p => p.IsSound) ? new(parts) : throw Broken();
        }
        catch (Exception e) when (e is ArgumentException or OverflowException)
        {
            throw Broken();
        }
    }

    /// <summary>How many parts follow. Nothing is made larger than what is there can fill.</summary>
    private static int Count(ref ReadOnlySpan<byte> at)
    {
        var mark = Next<uint>(ref at, 1)[0];
        var count = Next<int>(ref at, 1)[0];
        return mark == Mark && count >= 0 && count <= at.Length / HeadBytes ? count : throw Broken();
    }

    private static PartNumbers Numbers(ref ReadOnlySpan<byte> at, out PartHead head)
    {
        var n = Next<int>(ref at, HeadBytes / 4);
        head = PartHead.Said((PartMode)n[0], n[1], n[2], n[3], n[4]);
        if (n[2] < 0 || n[2] > at.Length / 12 || head.TexCoords is < 0 or > Part.MostTexCoords)
        {
            throw Broken();
        }

        var length = checked((int)(head.Bytes - HeadBytes));
        var numbers = new PartNumbers(head, at[..length]);
        at = at[length..];
        return numbers;
    }

    private static Part ReadPart(ref ReadOnlySpan<byte> at)
    {
        var from = Numbers(ref at, out var head);
        var texCoords = new float[head.TexCoords][];
        for (var set = 0; set < texCoords.Length; set++)
        {
            texCoords[set] = from.TexCoords(set).ToArray();
        }

        static float[]? Some(bool there, Span<float> numbers) => there ? numbers.ToArray() : null;
        var positions = new double[from.Positions.Length];
        for (var i = 0; i < positions.Length; i++)
        {
            positions[i] = from.Positions[i];
        }

        return new(
            head.Mode, head.Slot, positions, Some(head.Normals, from.Normals), texCoords, Some(head.Colors, from.Colors), Some(head.Tangents, from.Tangents), from.Indices.ToArray());
    }

    private static ReadOnlySpan<T> Next<T>(ref ReadOnlySpan<byte> at, int count)
        where T : struct
    {
        var length = checked(count * Marshal.SizeOf<T>());
        var block = MemoryMarshal.Cast<byte, T>(at[..length]);
        at = at[length..];
        return block;
    }

    private static Refusal Broken() => new(Refusals.BrokenFile, "Stored geometry cannot be read. Import the file again.");
}
