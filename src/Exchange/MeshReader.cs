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
        var positions = Vectors(primitive, "POSITION") ?? throw Container.Broken("a mesh has no points");
        var (mode, indices) = primitive.DrawPrimitiveType switch
        {
            PrimitiveType.POINTS => (PartMode.Points, primitive.GetPointIndices().ToArray()),
            PrimitiveType.LINES or PrimitiveType.LINE_LOOP or PrimitiveType.LINE_STRIP =>
                (PartMode.Lines, primitive.GetLineIndices().SelectMany(l => new[] { l.A, l.B }).ToArray()),
            _ => (PartMode.Triangles, primitive.GetTriangleIndices().SelectMany(t => new[] { t.A, t.B, t.C }).ToArray()),
        };
        if (primitive.VertexAccessors.Keys.Any(k => k.StartsWith("JOINTS", StringComparison.Ordinal)))
        {
            Notes.Add("Weights that bind meshes to joints were left out.");
        }

        var sets = Enumerable.Range(0, 8)
            .Select(i => primitive.GetVertexAccessor($"TEXCOORD_{i}"))
            .TakeWhile(a => a is not null)
            .Select(a => a.AsVector2Array().SelectMany(v => new[] { v.X, v.Y }).ToArray())
            .ToList();
        var part = new Part(
            mode,
            slot,
            [.. positions.SelectMany(p => new double[] { p.X, p.Y, p.Z })],
            Vectors(primitive, "NORMAL")?.SelectMany(n => new[] { n.X, n.Y, n.Z }).ToArray(),
            sets,
            primitive.GetVertexAccessor("COLOR_0")?.AsColorArray().SelectMany(c => new[] { c.X, c.Y, c.Z, c.W }).ToArray(),
            primitive.GetVertexAccessor("TANGENT")?.AsVector4Array().SelectMany(t => new[] { t.X, t.Y, t.Z, t.W }).ToArray(),
            indices);
        return part.IsSound ? part : throw Container.Broken("a mesh has numbers that mean nothing, or names points that it does not have");
    }

    private static Vector3[]? Vectors(MeshPrimitive primitive, string name) =>
        primitive.GetVertexAccessor(name)?.AsVector3Array().ToArray();
}
