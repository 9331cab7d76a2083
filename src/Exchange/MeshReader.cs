using System.Numerics;
using System.Security.Cryptography;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
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
        var bytes = GeometryBinary.Write(new Geometry([.. mesh.Primitives.Select(p => ReadPart(p, slots.IndexOf(p.Material)))]));
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        Geometries[hash] = bytes;
        return _read[mesh.LogicalIndex] = hash;
    }

    private Part ReadPart(MeshPrimitive primitive, int slot)
    {
        var positions = Flat<Vector3, double>(primitive.GetVertexAccessor("POSITION")?.AsVector3Array(), 3, (v, at, to) => (to[at], to[at + 1], to[at + 2]) = (v.X, v.Y, v.Z))
            ?? throw Container.Broken("a mesh has no points");
        var (mode, indices) = primitive.DrawPrimitiveType switch
        {
            PrimitiveType.POINTS => (PartMode.Points, Indices(primitive.GetPointIndices(), 1, (p, at, to) => to[at] = p)),
            PrimitiveType.LINES or PrimitiveType.LINE_LOOP or PrimitiveType.LINE_STRIP =>
                (PartMode.Lines, Indices(primitive.GetLineIndices(), 2, (l, at, to) => (to[at], to[at + 1]) = (l.A, l.B))),
            _ => (PartMode.Triangles, Indices(primitive.GetTriangleIndices(), 3, (t, at, to) => (to[at], to[at + 1], to[at + 2]) = (t.A, t.B, t.C))),
        };
        if (primitive.VertexAccessors.Keys.Any(k => k.StartsWith("JOINTS", StringComparison.Ordinal)))
        {
            Notes.Add("Weights that bind meshes to joints were left out.");
        }

        var sets = Enumerable.Range(0, Part.MostTexCoords)
            .Select(i => Flat<Vector2, float>(primitive.GetVertexAccessor($"TEXCOORD_{i}")?.AsVector2Array(), 2, (v, at, to) => (to[at], to[at + 1]) = (v.X, v.Y)))
            .TakeWhile(set => set is not null)
            .ToList();
        static void Four(Vector4 v, int at, float[] to) => (to[at], to[at + 1], to[at + 2], to[at + 3]) = (v.X, v.Y, v.Z, v.W);
        var part = new Part(
            mode,
            slot,
            positions,
            Flat<Vector3, float>(primitive.GetVertexAccessor("NORMAL")?.AsVector3Array(), 3, (v, at, to) => (to[at], to[at + 1], to[at + 2]) = (v.X, v.Y, v.Z)),
            sets!,
            Flat<Vector4, float>(primitive.GetVertexAccessor("COLOR_0")?.AsColorArray(), 4, Four),
            OwnForm.Of(primitive)?[MeshWriter.Made] is not null ? null : Flat<Vector4, float>(primitive.GetVertexAccessor("TANGENT")?.AsVector4Array(), 4, Four),
            indices);
        return part.IsSound ? part : throw Container.Broken("a mesh has numbers that mean nothing, or names points that it does not have");
    }

    /// <summary>The numbers of a list one after the other, in one array that is as large as they are.</summary>
    private static TNumber[]? Flat<T, TNumber>(IReadOnlyList<T>? list, int each, Action<T, int, TNumber[]> put)
    {
        if (list is null)
        {
            return null;
        }

        var numbers = new TNumber[each * list.Count];
        for (var i = 0; i < list.Count; i++)
        {
            put(list[i], each * i, numbers);
        }

        return numbers;
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
