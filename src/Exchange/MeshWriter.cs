using System.Numerics;
using System.Runtime.InteropServices;
using CalmPivot.Core.Shapes;
using SharpGLTF.Memory;
using SharpGLTF.Schema2;
using Gltf = SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>Writes geometry as meshes, with every attribute it has.</summary>
internal static class MeshWriter
{
    /// <summary>What a part says of tangents that were made on the way out, so that they do not come back as its own.</summary>
    internal const string Made = "madeTangents";

    public static Mesh Write(ModelRoot model, Geometry geometry, string name, Func<int, Gltf.Material> material)
    {
        var mesh = model.CreateMesh(name);
        foreach (var part in geometry.Parts)
        {
            var primitive = mesh.CreatePrimitive();
            void Set(string attribute, DimensionType dimension, float[] numbers)
            {
                var view = model.UseBufferView(MemoryMarshal.AsBytes<float>(numbers).ToArray(), 0, null, 0, BufferMode.ARRAY_BUFFER);
                var accessor = model.CreateAccessor();
                accessor.SetVertexData(view, 0, part.VertexCount, new AttributeFormat(dimension));
                primitive.SetVertexAccessor(attribute, accessor);
            }

            Set("POSITION", DimensionType.VEC3, Array.ConvertAll(part.Positions, p => (float)p));
            if (part.Normals is { } normals)
            {
                Set("NORMAL", DimensionType.VEC3, Unit(normals));
            }

            primitive.Material = material(part.Slot);
            if (part.Tangents is { } tangents)
            {
                Set("TANGENT", DimensionType.VEC4, tangents);
            }
            else if (primitive.Material.FindChannel("Normal") is { Texture: not null } bumps && Tangents.Of(part, bumps.TextureCoordinate) is { } made)
            {
                Set("TANGENT", DimensionType.VEC4, made);
                primitive.Extras = OwnForm.Extras(new() { [Made] = true });
            }

            if (part.Colors is { } colors)
            {
                Set("COLOR_0", DimensionType.VEC4, colors);
            }

            for (var set = 0; set < part.TexCoords.Count; set++)
            {
                Set($"TEXCOORD_{set}", DimensionType.VEC2, part.TexCoords[set]);
            }

            primitive.DrawPrimitiveType = part.Mode switch
            {
                PartMode.Points => PrimitiveType.POINTS,
                PartMode.Lines => PrimitiveType.LINES,
                _ => PrimitiveType.TRIANGLES,
            };
            var indexView = model.UseBufferView(MemoryMarshal.AsBytes<int>(part.Indices).ToArray(), 0, null, 0, BufferMode.ELEMENT_ARRAY_BUFFER);
            var indices = model.CreateAccessor();
            indices.SetIndexData(indexView, 0, part.Indices.Length, IndexEncodingType.UNSIGNED_INT);
            primitive.SetIndexAccessor(indices);
        }

        return mesh;
    }

    /// <summary>The standard wants normals of length 1; some files bring others.</summary>
    private static float[] Unit(float[] normals)
    {
        var unit = (float[])normals.Clone();
        foreach (ref var n in MemoryMarshal.Cast<float, Vector3>(unit.AsSpan()))
        {
            n = n.LengthSquared() > 1e-20f ? Vector3.Normalize(n) : Vector3.UnitY;
        }

        return unit;
    }
}
