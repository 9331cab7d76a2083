using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>The flat evaluator gives what the formulas give, and touches only what it must.</summary>
public sealed class EvaluatorStories
{
    [Fact]
    public void World_matrices_are_those_of_the_formula_after_any_edits() =>
        Gen.Select(Some.Chains, Some.Point.Array[6], Gen.Int[0, 5].Array[6]).Sample(
            (scene, points, kinds) =>
            {
                using var evaluator = new Evaluator(scene);
                for (var i = 0; i < kinds.Length; i++)
                {
                    Edit edit = kinds[i] switch
                    {
                        0 => new PutUnder(["child"], "other"),
                        1 => new PutUnder(["parent"], null, 0),
                        2 => new Remove(["grand"], RemovedChildren.Lift),
                        3 => new Place("child", new() { Takes = new(true, i % 2 == 0, false) }),
                        4 => new Create(new() { Name = "new", Kind = NodeKind.Group, Placement = new() { Position = points[i] } }, "other"),
                        _ => new Move(["parent"], points[i], new WorldSpace()),
                    };
                    try
                    {
                        evaluator.Follow(scene, scene.Keep(edit));
                        Tally.Done();
                    }
                    catch (Refusal refusal)
                    {
                        Tally.Refused(refusal);
                        continue;
                    }

                    foreach (var node in scene.Nodes)
                    {
                        Some.Near(scene.World(node.Id), evaluator.World(node.Id), 1e-9);
                    }
                }

                evaluator.Sweep();
                Assert.All(scene.Nodes, node => Some.Near(scene.World(node.Id), evaluator.World(node.Id), 1e-9));
            },
            iter: 300);

    [Fact]
    public void An_edit_computes_only_what_rides_on_what_it_wrote()
    {
        var nodes = Enumerable.Range(0, 5000).Select(i => Some.Box($"n{i}", i is > 100 and <= 110 ? "n100" : null, rank: i)).ToArray();
        var scene = Some.Scene(nodes);
        using var evaluator = new Evaluator(scene);
        evaluator.Follow(scene, scene.Keep(new Move(["n100"], Vec3.One, new WorldSpace())));
        Assert.Equal(11, evaluator.ChangedCount);
        Some.Near(Vec3.One, evaluator.World("n105").Offset);
    }

    [Fact]
    public void A_chain_a_thousand_deep_is_followed_without_recursion()
    {
        var nodes = Enumerable.Range(0, 1000)
            .Select(i => Some.Box($"n{i}", i == 0 ? null : $"n{i - 1}", Placement.Default with { Position = Vec3.UnitX }))
            .ToArray();
        var scene = Some.Scene(nodes);
        using var evaluator = new Evaluator(scene);
        Some.Near(new Vec3(1000, 0, 0), evaluator.World("n999").Offset);
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => scene.Run(new Create(new() { Name = "x", Kind = NodeKind.Group }, "n999"))).Word);
    }

    [Fact]
    public void Far_from_zero_nothing_is_lost()
    {
        var scene = Some.Scene(Some.Box("far", null, Placement.Default with { Position = new(1e6, 0, 0) }), Some.Box("near", "far"));
        using var evaluator = new Evaluator(scene);
        evaluator.Follow(scene, scene.Keep(new Move(["near"], new(0.0001, 0, 0), new WorldSpace())));
        Assert.Equal(0.0001, evaluator.World("near").Offset.X - 1e6, 1e-9);
    }
}
