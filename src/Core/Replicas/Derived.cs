using System.Globalization;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Replicas;

/// <summary>
/// A short word for all that follows from what a scene stores: world matrices, bounds, what is seen, geometry and normals. Page
/// and server come to the same word, to the bit, or one of them computes otherwise.
/// </summary>
public static class Derived
{
    public static string Of(IScene scene, Evaluator evaluator)
    {
        ArgumentNullException.ThrowIfNull(evaluator);
        var digest = Digests.Start;
        var draft = new SceneDraft(scene);
        var drawn = new Dictionary<Geometry, ulong>();
        foreach (var node in scene.Branch(null).Concat(scene.Marks.Select(id => scene.Find(id)!)))
        {
            var (linear, offset) = evaluator.World(node.Id);
            digest = Digests.Add(Digests.Add(digest, node.Id), offset);
            digest = Digests.Add(Digests.Add(Digests.Add(digest, linear.X), linear.Y), linear.Z);
            var seen = Seen.Of(scene, node);
            digest = Digests.Add(digest, (seen.Working ? 1ul : 0) | (seen.Final ? 2ul : 0));
            if (Extents.DrawnGeometryOf(scene, node) is { } geometry)
            {
                if (!drawn.TryGetValue(geometry, out var own))
                {
                    drawn[geometry] = own = Of(geometry);
                }

                var bounds = geometry.Extent(draft.World(node));
                digest = Digests.Add(Digests.Add(Digests.Add(digest, own), bounds.Low), bounds.High);
            }
        }

        return digest.ToString("x16", CultureInfo.InvariantCulture);
    }

    private static ulong Of(Geometry geometry)
    {
        var digest = Digests.Start;
        foreach (var part in geometry.Parts)
        {
            foreach (var position in part.Positions)
            {
                digest = Digests.Add(digest, position);
            }

            foreach (var numbers in part.TexCoords.Append(part.Normals ?? []).Append(part.Tangents ?? []))
            {
                foreach (var number in numbers)
                {
                    digest = Digests.Add(digest, BitConverter.SingleToUInt32Bits(number));
                }
            }

            foreach (var index in part.Indices)
            {
                digest = Digests.Add(digest, (ulong)index);
            }
        }

        return digest;
    }
}
