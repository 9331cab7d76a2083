using System.Runtime.CompilerServices;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>How a surface's normals are made.</summary>
[JsonConverter(typeof(CamelCase<NormalsHow>))]
public enum NormalsHow
{
    /// <summary>Every triangle flat.</summary>
    Facets,

    /// <summary>Rounded where faces meet at less than an angle.</summary>
    Smooth,
}

/// <summary>
/// Normals that replace those a geometry was made with. The positions stay as they are. A corner's normal is the mean of
/// the faces that meet there at less than <see cref="Angle"/> to its own face, each weighted by its angle at the corner
/// (Thürmer and Wüthrich, Computing Vertex Normals from Polygonal Facets, 1998).
/// </summary>
/// <param name="Angle">Degrees; edges sharper than this stay sharp. Not used for facets.</param>
public sealed record Normals(NormalsHow How, double Angle = Normals.UsualAngle)
{
    public const double UsualAngle = 40;
    private const int MostKept = 8;

    private static readonly ConditionalWeakTable<Geometry, Dictionary<Normals, Geometry>> Made = [];

    /// <summary>The geometry with these normals; made once for each geometry.</summary>
    public Geometry On(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        var known = Made.GetOrCreateValue(geometry);
        lock (known)
        {
            if (!known.TryGetValue(this, out var made))
            {
                if (known.Count >= MostKept)
                {
                    known.Clear();
                }

                known[this] = made = new([.. geometry.Parts.Select(p => p.Mode == PartMode.Triangles ? On(p) : p)]);
            }

            return made;
        }
    }

    private Part On(Part part)
    {
        var corners = part.Indices;
        var faces = new Vec3[corners.Length / 3];
        var angles = new double[corners.Length];
        var meeting = new Dictionary<Vec3, List<int>>();
        for (var face = 0; face < faces.Length; face++)
        {
            for (var k = 0; k < 3; k++)
            {
                var corner = 3 * face + k;
                var (p, next, before) = (At(part, corner), At(part, 3 * face + (k + 1) % 3), At(part, 3 * face + (k + 2) % 3));
                var (a, b) = ((next - p).Unit(), (before - p).Unit());
                angles[corner] = Trigonometry.Atan2(a.Cross(b).Length, a.Dot(b));
                faces[face] = k == 0 ? (next - p).Cross(before - p).Unit() : faces[face];
                if (!meeting.TryGetValue(p, out var list))
                {
                    meeting[p] = list = [];
                }

                list.Add(corner);
            }
        }

        return Rebuilt(part, corner => Normal(corner, faces, angles, meeting[At(part, corner)]));
    }

    private Vec3 Normal(int corner, Vec3[] faces, double[] angles, List<int> meeting)
    {
        var own = faces[corner / 3];
        if (How == NormalsHow.Facets)
        {
            return own;
        }

        var least = Degrees.SinCos(Angle).Cos;
        var sum = meeting.Where(c => faces[c / 3].Dot(own) >= least - 1e-9).Aggregate(Vec3.Zero, (s, c) => s + faces[c / 3] * angles[c]);
        return sum.Length > 1e-9 ? sum.Unit() : own;
    }

    /// <summary>Corners with one vertex and one normal go on sharing it; tangents no longer fit and are left out.</summary>
    private static Part Rebuilt(Part part, Func<int, Vec3> normalOf)
    {
        var known = new Dictionary<(int, Vec3), int>();
        var (kept, normals, indices) = (new List<int>(), new List<float>(), new int[part.Indices.Length]);
        for (var corner = 0; corner < indices.Length; corner++)
        {
            var normal = normalOf(corner).Map(v => Math.Round(v, 7) + 0.0);
            var key = (part.Indices[corner], normal);
            if (!known.TryGetValue(key, out var at))
            {
                known[key] = at = kept.Count;
                kept.Add(part.Indices[corner]);
                normals.AddRange([(float)normal.X, (float)normal.Y, (float)normal.Z]);
            }

            indices[corner] = at;
        }

        return part with
        {
            Positions = Pick(part.Positions, kept, 3),
            Normals = [.. normals],
            TexCoords = [.. part.TexCoords.Select(t => Pick(t, kept, 2))],
            Colors = part.Colors is { } colors ? Pick(colors, kept, 4) : null,
            Tangents = null,
            Indices = indices,
        };
    }

    private static T[] Pick<T>(T[] from, List<int> which, int width)
    {
        var picked = new T[which.Count * width];
        for (var i = 0; i < which.Count; i++)
        {
            Array.Copy(from, which[i] * width, picked, i * width, width);
        }

        return picked;
    }

    private static Vec3 At(Part part, int corner)
    {
        var i = 3 * part.Indices[corner];
        return new(part.Positions[i], part.Positions[i + 1], part.Positions[i + 2]);
    }
}
