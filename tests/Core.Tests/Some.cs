using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CsCheck;

namespace CalmPivot.Core.Tests;

/// <summary>Random and hand-made scenes for the tests.</summary>
internal static class Some
{
    public static readonly Gen<Vec3> Point = Vector(Gen.Double[-10, 10]);

    public static readonly Gen<Vec3> Angles = Vector(Gen.Frequency(
        (8, Gen.Double[-700, 700]),
        (2, Of(0.0, 90, -90, 180, 360, 45))));

    public static readonly Gen<Vec3> Factors = Vector(Gen.Select(Gen.Double[0.1, 4], Gen.Bool).Select((f, mirrored) => mirrored ? -f : f));

    public static readonly Gen<Vec3> Shears = Gen.Frequency((2, Gen.Const(Vec3.Zero)), (1, Vector(Gen.Double[-1, 1])));

    public static readonly Gen<EulerOrder> Orders = Gen.Int[0, 5].Select(i => (EulerOrder)i);

    public static readonly Gen<Vec3> Direction = Point.Where(v => v.Length > 0.1).Select(v => v.Unit());

    public static readonly Gen<Placement> Placements =
        Gen.Select(
            Point,
            Angles,
            Orders,
            Factors,
            Shears,
            Point,
            Gen.Frequency((2, Gen.Const(Vec3.Zero)), (1, Angles)),
            (position, rotation, order, scale, shear, pivot, turn) =>
                new Placement(position, rotation, order, scale, shear, pivot, turn, Takes.All));

    public static readonly Gen<Takes> AllTakes = Gen.Int[0, 7].Select(i => new Takes((i & 1) == 0, (i & 2) == 0, (i & 4) == 0));

    /// <summary>A chain in which parent and child take any of the eight selections of what carries them.</summary>
    public static readonly Gen<SceneDocument> TakingChains = Gen.Select(Placements.Array[3], AllTakes, AllTakes).Select((p, parent, child) => Scene(
        Box("grand", null, p[0]),
        Box("parent", "grand", p[1] with { Takes = parent }),
        Box("child", "parent", p[2] with { Takes = child }),
        Box("other", null, p[0])));

    /// <summary>A chain of three nodes: grand, parent, child; everything turned, mirrored, sheared at random.</summary>
    public static readonly Gen<SceneDocument> Chains = Placements.Array[3].Select(p => Scene(
        Box("grand", null, p[0]),
        Box("parent", "grand", p[1]),
        Box("child", "parent", p[2]),
        Box("other", null, p[0])));

    /// <summary>The same, with a mark that stands by itself and one that follows the parent.</summary>
    public static readonly Gen<SceneDocument> MarkedChains = Gen.Select(Chains, Point, Angles, Point, Angles).Select((scene, at, turn, offset, turned) =>
    {
        scene.Apply(new([
            new("pinned", null, Mark("pinned", null, at, turn)),
            new("following", null, Mark("following", "parent", offset, turned, 2)),
        ]));
        return scene;
    });

    public static Node Mark(string id, string? source, Vec3 position, Vec3 rotation, double rank = 1) => new(
        id,
        id,
        NodeKind.Mark,
        source,
        rank,
        Placement.Default with { Position = position, Rotation = rotation, Takes = new(true, true, false) },
        null,
        null,
        [],
        null,
        null,
        Switches.Default);

    public static Gen<Vec3> Vector(Gen<double> number) => Gen.Select(number, number, number).Select((x, y, z) => new Vec3(x, y, z));

    /// <summary>One of some values.</summary>
    public static Gen<T> Of<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    public static Node Box(string id, string? parent, Placement? placement = null, double rank = 0) => new(
        id, id, NodeKind.Shape, parent, rank, placement ?? Placement.Default, new Box(new Vec3(1, 2, 3)), null, [], null, null, Switches.Default);

    public static SceneDocument Scene(params Entity[] all) => new("scene", "Test", "m", 0, all, NoGeometries.Instance);

    public static Change Run(this SceneDocument scene, params Edit[] edits) => Batch.Run(scene, edits).Change;

    /// <summary>Runs edits and keeps them.</summary>
    public static Change Keep(this SceneDocument scene, params Edit[] edits)
    {
        var change = scene.Run(edits);
        scene.Apply(change);
        return change;
    }

    public static Affine World(this SceneDocument scene, string id) => new SceneDraft(scene).World(scene.Find(id)!);

    /// <summary>The same scene with one node placed anew.</summary>
    public static SceneDocument With(this SceneDocument scene, string id, Func<Placement, Placement> place)
    {
        var node = scene.Find(id)!;
        scene.Apply(new([new(id, node, node with { Placement = place(node.Placement) })]));
        return scene;
    }

    public static void Near(Affine expected, Affine actual, double relative = 1e-9)
    {
        var size = 1 + expected.Linear.Norm + expected.Offset.Length;
        var distance = expected.Distance(actual);
        Assert.True(distance <= relative * size, $"differ by {distance:G3} of {size:G3}\n{expected}\n{actual}");
    }

    public static void Near(Vec3 expected, Vec3 actual, double tolerance = 1e-9) =>
        Assert.True((expected - actual).Length <= tolerance * (1 + expected.Length), $"{expected} and {actual}");

    /// <summary>The refusal of an edit that cannot be done; the scene stays as it is.</summary>
    public static Refusal Refused(this SceneDocument scene, Edit edit)
    {
        var before = scene.Nodes.ToList();
        var refusal = Assert.Throws<Refusal>(() => scene.Keep(edit));
        Assert.Equal(before, scene.Nodes);
        return refusal;
    }

    /// <summary>Something is refused, for the reason that is meant, in a sentence.</summary>
    /// <param name="word">Of <see cref="Refusals"/>.</param>
    public static Refusal Refuses(string word, Func<object?> act)
    {
        var refusal = Assert.Throws<Refusal>(() => act());
        Assert.Equal(word, refusal.Word);
        Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
        return refusal;
    }

    private sealed class NoGeometries : IGeometries
    {
        public static readonly NoGeometries Instance = new();

        private readonly System.Collections.Concurrent.ConcurrentDictionary<string, Geometry> _kept = new();

        public Geometry? Find(string hash) => _kept.GetValueOrDefault(hash);

        public void Keep(string hash, Geometry geometry) => _kept[hash] = geometry;
    }
}
