using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Pictures lie on things as model.md says, whatever the thing, its place and its size. The expected values are worked out here from the page's own table.</summary>
public sealed class LayingLaws
{
    /// <summary>(right, up) of each side, as model.md lists them.</summary>
    private static readonly Dictionary<LiesFrom, (double[] Right, double[] Up)> Sides = new()
    {
        [LiesFrom.Right] = ([0, 0, -1], [0, 1, 0]),
        [LiesFrom.Left] = ([0, 0, 1], [0, 1, 0]),
        [LiesFrom.Top] = ([1, 0, 0], [0, 0, -1]),
        [LiesFrom.Bottom] = ([1, 0, 0], [0, 0, 1]),
        [LiesFrom.Front] = ([1, 0, 0], [0, 1, 0]),
        [LiesFrom.Back] = ([-1, 0, 0], [0, 1, 0]),
    };

    [Fact]
    public void Each_corner_lies_where_the_formula_says_on_the_side_of_its_face() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 8]).Sample(
        (seed, kind) =>
        {
            var r = new Random(seed);
            var shape = Shape.Default(Shape.Types[kind % Shape.Types.Count]);
            Vec3 scale = new(0.2 + r.NextDouble() * 3, -(0.2 + r.NextDouble()), 0.2 + r.NextDouble());
            var lies = new Lies((LiesHow)(1 + r.Next(2)), 0.1 + r.NextDouble(), 0.3 + r.NextDouble() * 2, r.Next(2) == 0, (LiesFrom)r.Next(6));
            var scene = Some.Scene(
                new Material("board", "Board") { Surface = new(Lies: lies) { Textures = [new("BaseColor", new('a', 64))] } },
                Some.Box("it", null, Placement.Default with { Rotation = new(r.Next(360), r.Next(360), r.Next(360)), Scale = scale }) with { Shape = shape, Materials = ["board"] });
            var node = scene.Find("it")!;
            var plain = Extents.GeometryOf(scene, node)!;
            var laid = Laying.Of(scene, node, new SceneDraft(scene).World(node))!.On(plain);
            foreach (var (before, part) in plain.Parts.Zip(laid.Parts))
            {
                Assert.True(part.IsSound);
                Assert.Equal(before.Indices.Length, part.Indices.Length);
                for (var face = 0; face < part.Indices.Length; face += 3)
                {
                    var corners = Enumerable.Range(face, 3).Select(c => At(part, part.Indices[c])).ToArray();
                    Assert.Equal(Enumerable.Range(face, 3).Select(c => At(before, before.Indices[c])), corners);
                    var side = lies.How == LiesHow.Flat ? lies.From : SideOf((corners[1] - corners[0]).Cross(corners[2] - corners[0]));
                    for (var k = 0; k < 3; k++)
                    {
                        var x = corners[k].ToArray().Zip(scale.ToArray(), (v, s) => lies.True ? v * Math.Abs(s) : v).ToArray();
                        double Dot(double[] way) => way.Zip(x, (a, b) => a * b).Sum();
                        var (u, v) = (Dot(Sides[side].Right) / lies.Metres, -Dot(Sides[side].Up) * lies.Aspect / lies.Metres);
                        var index = part.Indices[face + k];
                        Assert.Equal(u, part.TexCoords[0][2 * index], 1e-5 * Math.Max(1, Math.Abs(u)));
                        Assert.Equal(v, part.TexCoords[0][2 * index + 1], 1e-5 * Math.Max(1, Math.Abs(v)));
                    }
                }
            }
        },
        iter: 200);

    [Fact]
    public void What_has_no_picture_or_lies_by_itself_stays_as_it_is()
    {
        var scene = Some.Scene(
            new Material("bare", "Bare") { Surface = new(Lies: new(LiesHow.Box)) },
            new Material("own", "Own") { Surface = new() { Textures = [new("BaseColor", new('a', 64))] } },
            Some.Box("one", null) with { Materials = ["bare"] },
            Some.Box("two", null) with { Materials = ["own"] },
            Some.Box("three", null));
        Assert.All(new[] { "one", "two", "three" }, id => Assert.Null(Laying.Of(scene, scene.Find(id)!, Affine.Identity)));
    }

    [Fact]
    public void Who_lies_alike_is_said_alike_and_true_metres_go_by_the_size_in_the_world()
    {
        var scene = Some.Scene(
            new Material("true", "True") { Surface = new(Lies: new(LiesHow.Box, 0.6, True: true)) { Textures = [new("BaseColor", new('a', 64))] } },
            new Material("own", "Own") { Surface = new(Lies: new(LiesHow.Box, 0.6)) { Textures = [new("BaseColor", new('a', 64))] } },
            Some.Box("a", null) with { Materials = ["true"] },
            Some.Box("b", null) with { Materials = ["own"] });
        string Key(string id, Affine world) => Laying.Of(scene, scene.Find(id)!, world)!.Key;
        var large = new Affine(Mat3.Diagonal(new(2, 1, 1)), new(5, 6, 7));
        Assert.Equal(Key("a", Affine.Identity), Key("a", new(Mat3.Identity, new(1, 2, 3))));
        Assert.NotEqual(Key("a", Affine.Identity), Key("a", large));
        Assert.Equal(Key("b", Affine.Identity), Key("b", large));
    }

    /// <summary>The largest component; ties X, Y, Z.</summary>
    private static LiesFrom SideOf(Vec3 n)
    {
        var sizes = n.ToArray().Select(Math.Abs).ToArray();
        var at = Array.IndexOf(sizes, sizes.Max());
        return (at, n[at] < 0) switch
        {
            (0, false) => LiesFrom.Right,
            (0, true) => LiesFrom.Left,
            (1, false) => LiesFrom.Top,
            (1, true) => LiesFrom.Bottom,
            (2, false) => LiesFrom.Front,
            _ => LiesFrom.Back,
        };
    }

    private static Vec3 At(Part part, int i) => new(part.Positions[3 * i], part.Positions[3 * i + 1], part.Positions[3 * i + 2]);
}
