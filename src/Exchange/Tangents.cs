using System.Numerics;
using System.Runtime.InteropServices;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Exchange;

/// <summary>
/// The tangents of bumps, for meshes that bring none: a file without them leaves it to each reader to make its own. At each vertex the directions in which
/// u grows on the triangles around it, weighted by their angles there, made perpendicular to its normal; the sign says on which side v lessens. Vertices stay
/// as they are: where a texture is mirrored across one, most of its angle decides. Source: Lengyel 2001; weights as in Mikkelsen 2008; the handedness of glTF 2.0.
/// </summary>
public static class Tangents
{
    /// <summary>Four numbers a vertex: a unit vector and ±1; null where a part has no triangles, normals or such coordinates.</summary>
    /// <param name="set">The texture coordinates that the bumps lie by.</param>
    public static float[]? Of(Part part, int set)
    {
        ArgumentNullException.ThrowIfNull(part);
        if (part.Mode != PartMode.Triangles || part.Normals is not { } flat || set >= part.TexCoords.Count)
        {
            return null;
        }

        var normals = MemoryMarshal.Cast<float, Vector3>(flat.AsSpan());
        var uvs = MemoryMarshal.Cast<float, Vector2>(part.TexCoords[set].AsSpan());
        var (along, down) = (new Vector3[part.VertexCount], new Vector3[part.VertexCount]);
        Span<int> corners = stackalloc int[3];
        for (var at = 0; at + 2 < part.Indices.Length; at += 3)
        {
            for (var k = 0; k < 3; k++)
            {
                corners[k] = part.Indices[at + k];
            }

            var (first, second) = (Between(part, corners[0], corners[1]), Between(part, corners[0], corners[2]));
            var (u, v) = (uvs[corners[1]] - uvs[corners[0]], uvs[corners[2]] - uvs[corners[0]]);
            var turn = Math.Sign(u.X * v.Y - v.X * u.Y);
            var (grows, falls) = (turn * (first * v.Y - second * u.Y), turn * (second * u.X - first * v.X));
            for (var k = 0; k < 3; k++)
            {
                var weight = Angle(part, corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]);
                along[corners[k]] += weight * Unit(grows);
                down[corners[k]] += weight * Unit(falls);
            }
        }

        var tangents = new float[4 * part.VertexCount];
        var all = MemoryMarshal.Cast<float, Vector4>(tangents.AsSpan());
        for (var i = 0; i < all.Length; i++)
        {
            var n = Unit(normals[i]) is var unit && unit == Vector3.Zero ? Vector3.UnitY : unit;
            var t = Unit(along[i] - n * Vector3.Dot(n, along[i]));
            if (t == Vector3.Zero)
            {
                t = Unit(Vector3.Cross(n, Math.Abs(n.X) < 0.9f ? Vector3.UnitX : Vector3.UnitZ));
            }

            all[i] = new(t, Vector3.Dot(Vector3.Cross(n, t), down[i]) > 0 ? -1 : 1);
        }

        return tangents;
    }

    private static Vector3 Between(Part part, int from, int to)
    {
        var p = part.Positions;
        return new((float)(p[3 * to] - p[3 * from]), (float)(p[3 * to + 1] - p[3 * from + 1]), (float)(p[3 * to + 2] - p[3 * from + 2]));
    }

    private static float Angle(Part part, int at, int left, int right)
    {
        var (a, b) = (Unit(Between(part, at, left)), Unit(Between(part, at, right)));
        return MathF.Acos(Math.Clamp(Vector3.Dot(a, b), -1, 1));
    }

    /// <summary>Zero for what is too short to have a direction.</summary>
    private static Vector3 Unit(Vector3 v)
    {
        var length = v.Length();
        return length > 1e-18f && float.IsFinite(length) ? v / length : Vector3.Zero;
    }
}
