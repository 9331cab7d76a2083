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
    private const int PartHead = 20;

    public static byte[] Write(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        // As large as it becomes, at once: meshes may be hundreds of megabytes.
        var bytes = new byte[8 + geometry.Parts.Sum(p => PartHead + 4L * (p.Positions.Length + Blocks(p).Sum(b => (long)b.Length) + p.Indices.Length))];
        using var stream = new MemoryStream(bytes);
        using var writer = new BinaryWriter(stream);
        writer.Write(Mark);
        writer.Write(geometry.Parts.Count);
        foreach (var part in geometry.Parts)
        {
            writer.Write((int)part.Mode);
            writer.Write(part.Slot);
            writer.Write(part.VertexCount);
            writer.Write(part.Indices.Length);
            writer.Write((part.Normals is null ? 0 : 1) | (part.Colors is null ? 0 : 2) | (part.Tangents is null ? 0 : 4) | part.TexCoords.Count << 3);
            foreach (var position in part.Positions)
            {
                writer.Write((float)position);
            }

            foreach (var block in Blocks(part))
            {
                writer.Write(MemoryMarshal.AsBytes<float>(block));
            }

            writer.Write(MemoryMarshal.AsBytes<int>(part.Indices));
        }

        writer.Flush();
        return bytes;
    }

    /// <exception cref="Refusal">broken-file.</exception>
    public static Geometry Read(ReadOnlySpan<byte> bytes)
    {
        try
        {
            var at = bytes;
            if (Next<uint>(ref at, 1)[0] != Mark)
            {
                throw Broken();
            }

            // Nothing is made larger than what is there can fill.
            var count = Next<int>(ref at, 1)[0];
            if (count < 0 || count > at.Length / PartHead)
            {
                throw Broken();
            }

            var parts = new Part[count];
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

    private static Part ReadPart(ref ReadOnlySpan<byte> at)
    {
        var head = Next<int>(ref at, 5);
        var (mode, slot, vertices, indices, flags) = ((PartMode)head[0], head[1], head[2], head[3], head[4]);
        if (vertices < 0 || vertices > at.Length / 12 || flags >> 3 is < 0 or > Part.MostTexCoords)
        {
            throw Broken();
        }

        var positions = Array.ConvertAll(Next<float>(ref at, 3 * vertices).ToArray(), p => (double)p);
        var normals = (flags & 1) != 0 ? Next<float>(ref at, 3 * vertices).ToArray() : null;
        var colors = (flags & 2) != 0 ? Next<float>(ref at, 4 * vertices).ToArray() : null;
        var tangents = (flags & 4) != 0 ? Next<float>(ref at, 4 * vertices).ToArray() : null;
        var texCoords = new float[flags >> 3][];
        for (var set = 0; set < texCoords.Length; set++)
        {
            texCoords[set] = Next<float>(ref at, 2 * vertices).ToArray();
        }

        return new(mode, slot, positions, normals, texCoords, colors, tangents, Next<int>(ref at, indices).ToArray());
    }

    private static IEnumerable<float[]> Blocks(Part part)
    {
        float[]?[] optional = [part.Normals, part.Colors, part.Tangents];
        return optional.OfType<float[]>().Concat(part.TexCoords);
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
