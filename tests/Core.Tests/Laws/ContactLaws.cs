using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Falling until touching, against an exhaustive look along many lines.</summary>
public sealed class ContactLaws
{
    private static readonly Gen<Shape> Shapes = Some.Of<Shape>(
        new Box(new(1, 0.6, 0.8)),
        new Ball(0.5, 12, 6),
        new Cone(0.5, 0.1, 1, 10, true),
        new Cylinder(0.4, 0.7, 9, true),
        new Ring(0.5, 0.15, 12, 6),
        new Icoball(0.5, 1));

    [Fact]
    public void Nothing_of_it_is_below_the_surface_afterwards_and_something_touches() =>
        Gen.Select(Shapes, Shapes, Some.Angles, Some.Angles, Some.Vector(Gen.Double[-0.3, 0.3])).Sample(
            (falling, still, turn, other, aside) =>
            {
                var scene = Some.Scene(
                    Node("still", still, new(0, 3, 0), other),
                    Node("falling", falling, new(aside.X, 9, aside.Z), turn));
                scene.Keep(new Drop(["falling"]));
                var fell = 9 - scene.World("falling").Offset.Y;

                // Along upright lines through many points, the gap that was there bounds the fall from above.
                var (a, b) = (Faces(scene, "falling", fell), Faces(scene, "still", 0));
                double Least(int parts)
                {
                    var least = double.PositiveInfinity;
                    foreach (var p in a.SelectMany(t => Samples(t, parts)))
                    {
                        foreach (var s in b)
                        {
                            if (HeightAt(s, p) is { } height && p.Y - height > -1e-9)
                            {
                                least = Math.Min(least, p.Y - height);
                            }
                        }
                    }

                    return least;
                }

                // Few lines miss where something thin touches; then many are drawn.
                var least = Least(3);
                least = fell > least - 0.35 ? least : Least(40);
                Assert.True(fell <= Math.Min(least, 9) + 1e-7, $"fell {fell}, but only {least} was free");
                if (double.IsFinite(least))
                {
                    Assert.True(fell > least - 0.35, $"fell {fell}, though {least} was free");
                }
            },
            iter: 60);

    [Fact]
    public void The_direction_of_a_fall_does_not_matter() =>
        Gen.Select(Shapes, Some.Angles, Some.Direction).Sample((shape, turn, along) =>
        {
            // The same two things, turned as a whole: they fall as far.
            var straight = Some.Scene(Node("still", new Box(new(4, 1, 4)), new(0, -3, 0), Vec3.Zero), Node("falling", shape, Vec3.Zero, turn));
            straight.Keep(new Drop(["falling"], Along: new(0, -1, 0)));
            var axis = new Vec3(0, -1, 0).Cross(along);
            var whole = axis.Length < 1e-6
                ? (along.Y < 0 ? Mat3.Identity : Mat3.Rotation(0, 180))
                : Mat3.Rotation(axis.Unit(), Degrees.Atan2(axis.Length, -along.Y));
            var turned = Some.Scene([.. new[] { Node("still", new Box(new(4, 1, 4)), new(0, -3, 0), Vec3.Zero), Node("falling", shape, Vec3.Zero, turn) }
                .Select(n => n with { Placement = n.Placement.Storing(new Affine(whole, Vec3.Zero) * n.Placement.Local()) })]);
            turned.Keep(new Drop(["falling"], Along: along));
            Assert.Equal(straight.World("falling").Offset.Length, turned.World("falling").Offset.Length, 1e-6);
        });

    private static Node Node(string id, Shape shape, Vec3 at, Vec3 turn) =>
        Some.Box(id, null, Placement.Default with { Position = at, Rotation = turn }) with { Shape = shape };

    /// <summary>The triangles of a node in the world, lifted by a height.</summary>
    private static List<Vec3[]> Faces(SceneDocument scene, string id, double lift)
    {
        var world = scene.World(id);
        var part = scene.Find(id)!.Shape!.Tessellate().Parts[0];
        Vec3 At(int i) => world.Point(new(part.Positions[3 * i], part.Positions[3 * i + 1], part.Positions[3 * i + 2])) + Vec3.UnitY * lift;
        return [.. Enumerable.Range(0, part.Indices.Length / 3).Select(t => part.Indices[(3 * t)..(3 * t + 3)].Select(At).ToArray())];
    }

    private static IEnumerable<Vec3> Samples(Vec3[] t, int parts)
    {
        for (var i = 0; i <= parts; i++)
        {
            for (var k = 0; k <= parts - i; k++)
            {
                yield return t[0] + (t[1] - t[0]) * ((double)i / parts) + (t[2] - t[0]) * ((double)k / parts);
            }
        }
    }

    /// <summary>Where an upright line through a point meets a triangle, well inside of it.</summary>
    private static double? HeightAt(Vec3[] t, Vec3 p)
    {
        double Side(Vec3 a, Vec3 b) => (b.X - a.X) * (p.Z - a.Z) - (b.Z - a.Z) * (p.X - a.X);
        var (u, v, w) = (Side(t[0], t[1]), Side(t[1], t[2]), Side(t[2], t[0]));
        if (!((u > 1e-4 && v > 1e-4 && w > 1e-4) || (u < -1e-4 && v < -1e-4 && w < -1e-4)))
        {
            return null;
        }

        var n = (t[1] - t[0]).Cross(t[2] - t[0]);
        return t[0].Y - (n.X * (p.X - t[0].X) + n.Z * (p.Z - t[0].Z)) / n.Y;
    }
}
