using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Shapes;

/// <summary>Takes geometry apart into its pieces, and puts geometries together into one.</summary>
public static class Pieces
{
    /// <summary>
    /// The pieces that hang together: faces and lines that share a point, whatever part they are drawn in. In the order in
    /// which they begin; points by themselves stay with the first.
    /// </summary>
    public static IReadOnlyList<Geometry> Of(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        var groups = new Groups();
        foreach (var part in geometry.Parts)
        {
            for (var i = 0; i < part.Indices.Length; i += Corners(part))
            {
                for (var k = 1; k < Corners(part); k++)
                {
                    groups.Join(groups.Of(At(part, i)), groups.Of(At(part, i + k)));
                }
            }
        }

        var pieces = new List<List<Part>>();
        var known = new Dictionary<int, int>();
        foreach (var part in geometry.Parts)
        {
            var split = new SortedDictionary<int, List<int>>();
            for (var i = 0; i < part.Indices.Length; i += Corners(part))
            {
                var piece = 0;
                if (part.Mode != PartMode.Points)
                {
                    var root = groups.Root(groups.Of(At(part, i)));
                    if (!known.TryGetValue(root, out piece))
                    {
                        known[root] = piece = known.Count;
                    }
                }

                if (!split.TryGetValue(piece, out var indices))
                {
                    split[piece] = indices = [];
                }

                indices.AddRange(part.Indices.AsSpan(i, Corners(part)));
            }

            foreach (var (piece, indices) in split)
            {
                while (pieces.Count <= piece)
                {
                    pieces.Add([]);
                }

                pieces[piece].Add(Taking(part, indices));
            }
        }

        return [.. pieces.Where(p => p.Count > 0).Select(parts => new Geometry(parts))];
    }

    /// <summary>A part with its vertices and normals led into another frame; mirrored faces are wound back, so that they face as before.</summary>
    public static Part Led(Part part, Affine by, int slots)
    {
        ArgumentNullException.ThrowIfNull(part);
        var positions = (double[])part.Positions.Clone();
        var normals = (float[]?)part.Normals?.Clone();
        var tangents = (float[]?)part.Tangents?.Clone();
        var mirrored = by.Linear.Determinant < 0;
        var upright = by.Linear.Inverse().Transposed();
        for (var v = 0; v < part.VertexCount; v++)
        {
            var p = by.Point(new(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]));
            (positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]) = (p.X, p.Y, p.Z);
            Turn(normals, 3 * v, upright);
            Turn(tangents, 4 * v, by.Linear);
            if (mirrored && tangents is not null)
            {
                tangents[4 * v + 3] = -tangents[4 * v + 3];
            }
        }

        var indices = (int[])part.Indices.Clone();
        if (mirrored && part.Mode == PartMode.Triangles)
        {
            for (var i = 0; i + 2 < indices.Length; i += 3)
            {
                (indices[i + 1], indices[i + 2]) = (indices[i + 2], indices[i + 1]);
            }
        }

        return part with { Slot = part.Slot + slots, Positions = positions, Normals = normals, Tangents = tangents, Indices = indices };
    }

    /// <summary>The points of a geometry that are in different places.</summary>
    public static HashSet<Vec3> CornersOf(Geometry geometry)
    {
        ArgumentNullException.ThrowIfNull(geometry);
        return [.. geometry.Parts.SelectMany(part => Enumerable.Range(0, part.VertexCount).Select(v => new Vec3(part.Positions[3 * v], part.Positions[3 * v + 1], part.Positions[3 * v + 2])))];
    }

    private static void Turn(float[]? vectors, int at, Mat3 by)
    {
        if (vectors is null)
        {
            return;
        }

        var turned = by * new Vec3(vectors[at], vectors[at + 1], vectors[at + 2]);
        var unit = turned.Length > 0 ? turned.Unit() : turned;
        (vectors[at], vectors[at + 1], vectors[at + 2]) = ((float)unit.X, (float)unit.Y, (float)unit.Z);
    }

    private static int Corners(Part part) => part.Mode switch { PartMode.Triangles => 3, PartMode.Lines => 2, _ => 1 };

    private static Vec3 At(Part part, int corner)
    {
        var v = 3 * part.Indices[corner];
        return new(part.Positions[v], part.Positions[v + 1], part.Positions[v + 2]);
    }

    /// <summary>The part with some of its corners, and only the vertices that these use.</summary>
    private static Part Taking(Part part, List<int> corners)
    {
        var vertices = new List<int>();
        var place = new Dictionary<int, int>();
        var indices = corners.ConvertAll(v =>
        {
            if (!place.TryGetValue(v, out var at))
            {
                place[v] = at = vertices.Count;
                vertices.Add(v);
            }

            return at;
        });
        T[] Pick<T>(T[] from, int stride) => [.. vertices.SelectMany(v => new ArraySegment<T>(from, stride * v, stride))];
        return part with
        {
            Positions = Pick(part.Positions, 3),
            Normals = part.Normals is null ? null : Pick(part.Normals, 3),
            TexCoords = [.. part.TexCoords.Select(t => Pick(t, 2))],
            Colors = part.Colors is null ? null : Pick(part.Colors, 4),
            Tangents = part.Tangents is null ? null : Pick(part.Tangents, 4),
            Indices = [.. indices],
        };
    }

    /// <summary>Points that hang together (union by size with path halving; Tarjan, Efficiency of a Good But Not Linear Set Union Algorithm, 1975).</summary>
    private sealed class Groups
    {
        private readonly Dictionary<Vec3, int> _numbers = [];
        private readonly List<int> _above = [];
        private readonly List<int> _sizes = [];

        public int Of(Vec3 point)
        {
            if (!_numbers.TryGetValue(point, out var number))
            {
                _numbers[point] = number = _above.Count;
                _above.Add(number);
                _sizes.Add(1);
            }

            return number;
        }

        public int Root(int at)
        {
            while (_above[at] != at)
            {
                at = _above[at] = _above[_above[at]];
            }

            return at;
        }

        public void Join(int a, int b)
        {
            (a, b) = (Root(a), Root(b));
            if (a == b)
            {
                return;
            }

            if (_sizes[a] < _sizes[b])
            {
                (a, b) = (b, a);
            }

            _above[b] = a;
            _sizes[a] += _sizes[b];
        }
    }
}
