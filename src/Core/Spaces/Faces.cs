using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Spaces;

/// <summary>Faces of surfaces, in the world.</summary>
public static class Faces
{
    /// <summary>
    /// The upright of a face in the world, of length 1. Normals go with the inverse transposed matrix, so that uneven scale
    /// does not tilt them: for a face that is the cross product of its sides in the world, turned round where W mirrors.
    /// Zero for a face without area.
    /// </summary>
    public static Vec3 Normal(Affine world, Vec3 a, Vec3 b, Vec3 c)
    {
        var normal = (world.Linear * (b - a)).Cross(world.Linear * (c - a));
        return (world.Linear.Determinant < 0 ? -normal : normal).Unit();
    }

    /// <summary>
    /// The mean upright of faces, each weighing as much as its area in the world. Zero where they point against each other:
    /// the surface's axes then refuse it.
    /// </summary>
    public static Vec3 Mean(IEnumerable<(Affine World, Vec3 A, Vec3 B, Vec3 C)> faces)
    {
        ArgumentNullException.ThrowIfNull(faces);
        var (sum, whole) = (Vec3.Zero, 0.0);
        foreach (var (world, a, b, c) in faces)
        {
            var area = (world.Linear * (b - a)).Cross(world.Linear * (c - a));
            sum += world.Linear.Determinant < 0 ? -area : area;
            whole += area.Length;
        }

        return whole > 0 && sum.Length / whole >= SurfaceSpace.Least ? sum.Unit() : Vec3.Zero;
    }

    /// <summary>What of a surface was pressed: a vertex, an edge's middle or an edge within reach of the point, else the face.</summary>
    /// <param name="corners">The triangles near the point, nine numbers each, in the node's own frame; the one pressed first.</param>
    /// <param name="at">The point that was pressed, in the world.</param>
    /// <param name="reach">Metres within which a vertex or an edge is meant.</param>
    public static PressedSurface Pressed(Affine world, IReadOnlyList<double> corners, Vec3 at, double reach)
    {
        ArgumentNullException.ThrowIfNull(corners);
        var triangles = new List<(Vec3 A, Vec3 B, Vec3 C)>();
        for (var i = 0; i + 8 < corners.Count; i += 9)
        {
            Vec3 Corner(int k) => new(corners[i + 3 * k], corners[i + 3 * k + 1], corners[i + 3 * k + 2]);
            triangles.Add((Corner(0), Corner(1), Corner(2)));
        }

        if (triangles.Count == 0)
        {
            return new(SurfacePart.Face, Vec3.Zero, at);
        }

        Vec3 MeanOf(Func<(Vec3 A, Vec3 B, Vec3 C), bool> counts) => Mean(triangles.Where(counts).Select(t => (world, t.A, t.B, t.C)));
        static bool Has((Vec3 A, Vec3 B, Vec3 C) t, Vec3 p) => t.A == p || t.B == p || t.C == p;

        var pressed = triangles[0];
        Vec3[] own = [pressed.A, pressed.B, pressed.C];
        var vertex = own.MinBy(p => (world.Point(p) - at).LengthSquared);
        if ((world.Point(vertex) - at).Length <= reach)
        {
            return new(SurfacePart.Vertex, MeanOf(t => Has(t, vertex)), world.Point(vertex));
        }

        var (from, to) = Enumerable.Range(0, 3).Select(i => (own[i], own[(i + 1) % 3])).MinBy(e => (Nearest(e) - at).LengthSquared);
        var middle = (world.Point(from) + world.Point(to)) * 0.5;
        if ((middle - at).Length <= reach)
        {
            return new(SurfacePart.Middle, MeanOf(t => Has(t, from) && Has(t, to)), middle);
        }

        var onEdge = Nearest((from, to));
        return (onEdge - at).Length <= reach
            ? new(SurfacePart.Edge, MeanOf(t => Has(t, from) && Has(t, to)), onEdge)
            : new(SurfacePart.Face, Normal(world, pressed.A, pressed.B, pressed.C), at);

        Vec3 Nearest((Vec3 From, Vec3 To) edge)
        {
            var (a, b) = (world.Point(edge.From), world.Point(edge.To));
            var u = b - a;
            return u.LengthSquared > 0 ? a + u * Math.Clamp((at - a).Dot(u) / u.LengthSquared, 0, 1) : a;
        }
    }
}

/// <summary>What of a surface is meant.</summary>
[JsonConverter(typeof(CamelCase<SurfacePart>))]
public enum SurfacePart
{
    Face,
    Edge,

    /// <summary>The middle of an edge.</summary>
    Middle,
    Vertex,
}

/// <summary>A place on a surface: what was met, its upright and its point in the world.</summary>
public readonly record struct PressedSurface(SurfacePart Part, Vec3 Upright, Vec3 Point);
