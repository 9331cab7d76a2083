using System.Numerics;
using System.Runtime.InteropServices;
using System.Security.Cryptography;
using CalmPivot.Core.Shapes;
using SharpGLTF.Schema2;
using Gltf = SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>Reads meshes into stored geometry; equal geometry is kept once.</summary>
internal sealed class MeshReader
{
    private readonly Dictionary<int, string> _read = [];

    public Dictionary<string, byte[]> Geometries { get; } = [];

    public HashSet<string> Notes { get; } = [];

    /// <summary>The materials of a mesh, one for each slot that its geometry names.</summary>
    public static IEnumerable<Gltf.Material?> Slots(Mesh mesh) => mesh.Primitives.Select(p => p.Material).Distinct();

    public string Read(Mesh mesh)
    {
        if (_read.TryGetValue(mesh.LogicalIndex, out var known))
        {
            return known;
        }

        var slots = Slots(mesh).ToList();
        var parts = mesh.Primitives.Select(p => new Source(p, slots.IndexOf(p.Material))).ToList();
        if (parts.Exists(part => part.IsBound))
        {
            Notes.Add("Weights that bind meshes to joints were left out.");
        }

        // Put right where it is stored: a mesh may be as large as the whole file.
        var bytes = GeometryBinary.Write(parts.ConvertAll(part => part.Head), (i, into) => parts[i].Fill(into));
        if (!GeometryBinary.IsSound(bytes))
        {
            throw Container.Broken("a mesh has numbers that mean nothing, or names points that it does not have");
        }

        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        Geometries[hash] = bytes;
        return _read[mesh.LogicalIndex] = hash;
    }

    /// <summary>The lists of one part in the file.</summary>
    private sealed class Source
    {
        private readonly IReadOnlyList<Vector3> _positions;
        private readonly IReadOnlyList<Vector3>? _normals;
        private readonly IReadOnlyList<Vector4>? _colors;
        private readonly IReadOnlyList<Vector4>? _tangents;
        private readonly List<IReadOnlyList<Vector2>> _sets;
        private readonly int[] _indices;

        public Source(MeshPrimitive primitive, int slot)
        {
            _positions = primitive.GetVertexAccessor("POSITION")?.AsVector3Array() ?? throw Container.Broken("a mesh has no points");
            _normals = primitive.GetVertexAccessor("NORMAL")?.AsVector3Array();
            _colors = primitive.GetVertexAccessor("COLOR_0")?.AsColorArray();
            _tangents = OwnForm.Of(primitive)?[MeshWriter.Made] is not null ? null : primitive.GetVertexAccessor("TANGENT")?.AsVector4Array();
            _sets = [.. Enumerable.Range(0, Part.MostTexCoords).Select(i => primitive.GetVertexAccessor($"TEXCOORD_{i}")?.AsVector2Array()).TakeWhile(set => set is not null).OfType<IReadOnlyList<Vector2>>()];
            (var mode, _indices) = primitive.DrawPrimitiveType switch
            {
                PrimitiveType.POINTS => (PartMode.Points, Indices(primitive.GetPointIndices(), 1, (p, at, to) => to[at] = p)),
                PrimitiveType.LINES or PrimitiveType.LINE_LOOP or PrimitiveType.LINE_STRIP =>
                    (PartMode.Lines, Indices(primitive.GetLineIndices(), 2, (l, at, to) => (to[at], to[at + 1]) = (l.A, l.B))),
                _ => (PartMode.Triangles, Indices(primitive.GetTriangleIndices(), 3, (t, at, to) => (to[at], to[at + 1], to[at + 2]) = (t.A, t.B, t.C))),
            };
            IsBound = primitive.VertexAccessors.Keys.Any(k => k.StartsWith("JOINTS", StringComparison.Ordinal));
            Head = new(mode, slot, _positions.Count, _indices.Length, _normals is not null, _colors is not null, _tangents is not null, _sets.Count);
        }

        public PartHead Head { get; }

        /// <summary>Whether joints move it.</summary>
        public bool IsBound { get; }

        public void Fill(PartNumbers into)
        {
            Fill(_positions, into.Positions);
            Fill(_normals, into.Normals);
            Fill(_colors, into.Colors);
            Fill(_tangents, into.Tangents);
            for (var set = 0; set < _sets.Count; set++)
            {
                Fill(_sets[set], into.TexCoords(set));
            }

            _indices.CopyTo(into.Indices);
        }

        private static void Fill<T>(IReadOnlyList<T>? list, Span<float> numbers)
            where T : unmanaged
        {
            if (list is null)
            {
                return;
            }

            var into = MemoryMarshal.Cast<float, T>(numbers);
            if (list.Count != into.Length)
            {
                throw Container.Broken("the lists of a mesh are not of one length");
            }

            for (var i = 0; i < into.Length; i++)
            {
                into[i] = list[i];
            }
        }
    }

    private static int[] Indices<T>(IEnumerable<T> elements, int each, Action<T, int, int[]> put)
    {
        var numbers = new int[elements.TryGetNonEnumeratedCount(out var count) ? each * count : 0];
        var at = 0;
        foreach (var element in elements)
        {
            if (at == numbers.Length)
            {
                Array.Resize(ref numbers, Math.Max(64 * each, 2 * at));
            }

            put(element, at, numbers);
            at += each;
        }

        Array.Resize(ref numbers, at);
        return numbers;
    }
}
