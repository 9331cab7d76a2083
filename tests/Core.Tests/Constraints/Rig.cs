using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>A part on a base that looks at a target (both of them carried, mirrored, sheared at random), something that is up, and a mark.</summary>
internal static class Rig
{
    public static readonly Gen<SceneDocument> Bare = Some.Placements.Array[6].Select(p => Some.Scene(
        Some.Box("base", null, p[0]),
        Some.Box("part", "base", p[1]),
        Some.Box("tip", "part", p[2]),
        Some.Box("carrier", null, p[3], 1),
        Some.Box("target", "carrier", p[4]),
        Some.Box("up", null, p[5], 2),
        Some.Mark("mark", "carrier", new(1, 2, -3), new(20, 30, 40))));

    /// <summary>The same with one to four constraints on the part, of any kind, weight and switch.</summary>
    public static readonly Gen<SceneDocument> Tied = Gen.Select(Bare, Gen.Int[0, 1_000_000], Gen.Int[1, 4]).Select((scene, seed, count) =>
    {
        var random = new Random(seed);
        for (var i = 0; i < count; i++)
        {
            var patch = AnyConstraint.Of(random, _ => Target(random), () => Target(random));
            try
            {
                scene.Keep(new Constrain(["part"], patch with { Offset = random.Next(2) == 0 ? patch.Offset : Offset(patch.Kind!, random) ?? patch.Offset }));
            }
            catch (Refusal)
            {
                // Up toward what it aims at, say.
            }
        }

        return scene;
    });

    public static Node Part(this IScene scene) => scene.Find("part")!;

    public static SceneDocument Tie(this SceneDocument scene, ConstraintPatch patch, string node = "part")
    {
        scene.Keep(new Constrain([node], patch));
        return scene;
    }

    /// <summary>The own axes of a node where it stands.</summary>
    public static Mat3 Axes(this SceneDocument scene, string id) => scene.Find(id)!.Placement.OwnAxes(scene.World(id).Linear);

    public static Vec3 Pivot(this SceneDocument scene, string id) => new SceneDraft(scene).PivotOf(scene.Find(id)!);

    public static LinkWarning[] Warnings(this SceneDocument scene, string id = "part") => [.. new SceneDraft(scene).Warnings(scene.Find(id)!).Select(w => w.Warning)];

    private static string Target(Random random) => random.Next(5) switch { 0 => "up", 1 => "mark", 2 => "carrier", _ => "target" };

    private static double[]? Offset(string kind, Random random) => kind switch
    {
        "follow" => [random.Next(-3, 4), 1, random.NextDouble()],
        "matchRotation" => [random.Next(-90, 90), 20, random.NextDouble() * 100],
        "matchScale" => [0.5 + random.NextDouble(), 1, 2],
        _ => null,
    };
}
