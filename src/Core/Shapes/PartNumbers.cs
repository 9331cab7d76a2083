using System.Runtime.InteropServices;

namespace CalmPivot.Core.Shapes;

/// <summary>What stands before the numbers of a stored part: what it has, and how much of it.</summary>
/// <param name="Normals">Whether its vertices have normals; likewise colours and tangents.</param>
/// <param name="TexCoords">How many sets of texture coordinates.</param>
public readonly record struct PartHead(PartMode Mode, int Slot, int Vertices, int Indices, bool Normals, bool Colors, bool Tangents, int TexCoords)
{
    internal int Flags => (Normals ? 1 : 0) | (Colors ? 2 : 0) | (Tangents ? 4 : 0) | TexCoords << 3;

    /// <summary>How many 32-bit numbers each vertex has.</summary>
    internal int PerVertex => 3 + (Normals ? 3 : 0) + (Colors ? 4 : 0) + (Tangents ? 4 : 0) + 2 * TexCoords;

    /// <summary>How large the part is where it is stored.</summary>
    public long Bytes => GeometryBinary.HeadBytes + 4 * ((long)PerVertex * Vertices + Indices);

    public static PartHead Of(Part part)
    {
        ArgumentNullException.ThrowIfNull(part);
        return new(part.Mode, part.Slot, part.VertexCount, part.Indices.Length, part.Normals is not null, part.Colors is not null, part.Tangents is not null, part.TexCoords.Count);
    }

    internal static PartHead Said(PartMode mode, int slot, int vertices, int indices, int flags) =>
        new(mode, slot, vertices, indices, (flags & 1) != 0, (flags & 2) != 0, (flags & 4) != 0, flags >> 3);
}

/// <summary>Puts the numbers of a part where they are stored.</summary>
public delegate void PartFilling(int part, PartNumbers into);

/// <summary>The numbers of a part, laid over the bytes in which it is stored; what it does not have is empty.</summary>
public readonly ref struct PartNumbers
{
    private readonly PartHead _head;
    private readonly Span<float> _vertices;

    internal PartNumbers(PartHead head, Span<byte> stored)
    {
        _head = head;
        var all = MemoryMarshal.Cast<byte, float>(stored);
        _vertices = all[..(head.PerVertex * head.Vertices)];
        Indices = MemoryMarshal.Cast<float, int>(all[_vertices.Length..]);
    }

    /// <summary>Only to be read.</summary>
    internal PartNumbers(PartHead head, ReadOnlySpan<byte> stored)
        : this(head, MemoryMarshal.CreateSpan(ref MemoryMarshal.GetReference(stored), stored.Length))
    {
    }

    public Span<float> Positions => Block(0, 3);

    public Span<float> Normals => Block(3, _head.Normals ? 3 : 0);

    public Span<float> Colors => Block(_head.Normals ? 6 : 3, _head.Colors ? 4 : 0);

    public Span<float> Tangents => Block((_head.Normals ? 6 : 3) + (_head.Colors ? 4 : 0), _head.Tangents ? 4 : 0);

    public Span<int> Indices { get; }

    public Span<float> TexCoords(int set) => Block(_head.PerVertex - 2 * (_head.TexCoords - set), 2);

    /// <summary>As <see cref="Part.IsSound"/>, of what is stored.</summary>
    internal bool AreSound
    {
        get
        {
            var heads = Enum.IsDefined(_head.Mode) && Part.IsSlot(_head.Slot) && Indices.Length % Part.Each(_head.Mode) == 0;
            return heads && Part.ArePlaces<float>(Positions) && Part.AreNumbers(_vertices[Positions.Length..]) && Part.Name(Indices, _head.Vertices);
        }
    }

    private Span<float> Block(int after, int each) => _vertices.Slice(after * _head.Vertices, each * _head.Vertices);
}
