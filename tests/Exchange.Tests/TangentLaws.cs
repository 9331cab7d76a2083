using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Tests;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>Tangents that are made on the way out run as u grows, with the side on which v lessens.</summary>
public sealed class TangentLaws
{
    /// <summary>A flat quad anywhere, whose coordinates grow along two directions in it, the right way round or mirrored.</summary>
    [Fact]
    public void On_what_is_flat_they_are_what_the_coordinates_say() => Gen.Select(Some.Point, Some.Direction, Gen.Double[0, 6], Gen.Double[0.3, 2.8], Gen.Double[0.2, 3], Gen.Double[0.2, 3], Gen.Bool).Sample(
        (at, normal, turn, apart, long1, long2, mirrored) =>
        {
            var any = normal.Cross(Math.Abs(normal.X) < 0.9 ? Vec3.UnitX : Vec3.UnitZ).Unit();
            var other = normal.Cross(any);
            Vec3 In(double angle) => Math.Cos(angle) * any + Math.Sin(angle) * other;

            // Pictures lie with v downwards: u to the right and v up against it is the right way round.
            var (alongU, againstV) = (long1 * In(turn), long2 * In(turn + (mirrored ? -apart : apart)));
            double[] positions = [.. new[] { Vec3.Zero, alongU, alongU + againstV, againstV }.SelectMany(p => (at + p).ToArray())];
            float[] normals = [.. Enumerable.Repeat(normal.ToArray(), 4).SelectMany(n => n).Select(v => (float)v)];
            var part = new Part(PartMode.Triangles, 0, positions, normals, [[0, 1, 1, 1, 1, 0, 0, 0]], null, null, [0, 1, 2, 0, 2, 3]);
            var tangents = Tangents.Of(part, 0)!;
            for (var i = 0; i < 4; i++)
            {
                var tangent = new Vec3(tangents[4 * i], tangents[4 * i + 1], tangents[4 * i + 2]);
                Some.Near(alongU.Unit(), tangent, 1e-3);
                Assert.Equal(mirrored ? -1 : 1, tangents[4 * i + 3]);
                Assert.True(normal.Cross(tangent).Dot(againstV) * tangents[4 * i + 3] > 0);
            }
        },
        iter: 500);

    [Fact]
    public void Where_coordinates_say_nothing_they_still_are_directions_beside_the_normal()
    {
        var part = new Part(PartMode.Triangles, 0, [0, 0, 0, 1, 0, 0, 0, 1, 0, 5, 5, 5], [0, 0, 1, 0, 0, 1, 0, 0, 0, 1, 0, 0], [[0, 0, 0, 0, 0, 0, 0, 0]], null, null, [0, 1, 2]);
        var tangents = Tangents.Of(part, 0)!;
        Assert.All(Enumerable.Range(0, 4), i => Assert.Equal(1, Math.Sqrt(tangents.Skip(4 * i).Take(3).Sum(v => v * v)), 1e-6));
        Assert.Equal(0, tangents[2], 1e-6);
        Assert.Null(Tangents.Of(part, 1));
        Assert.Null(Tangents.Of(part with { Normals = null }, 0));
    }
}
