using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever others do while something is tried: what is shown is what keeping would yield, and put back is as never tried.</summary>
public sealed class TryoutLaws
{
    [Fact]
    public void What_is_tried_ends_where_it_would_have_ended_without_the_others_before_it() =>
        Gen.Select(Some.Chains, Some.Placements, Some.Point, Gen.Int[0, 5], Gen.Int[0, 3]).Sample((scene, elsewhere, amount, kind, whose) =>
        {
            using var replica = new Replica(scene);
            var tryout = new Tryout(() => replica);
            Space space = kind % 2 == 0 ? new ParentSpace() : new WorldSpace();
            Edit template = kind switch
            {
                0 or 1 => new Move(["child"], Vec3.Zero, space),
                2 or 3 => new Rotate(["child"], 0, Vec3.UnitY, space, new AboutOwn()),
                _ => new Scale(["child"], Vec3.One, new OwnSpace(), new AboutOwn()),
            };
            var by = kind >= 4 ? new Vec3(1.5, 1, 0.75) : amount;
            tryout.Begin(template, space);
            if (!Tried(() => tryout.Trial!.Try(by)))
            {
                return;
            }

            var id = new[] { "grand", "parent", "child", "other" }[whose];
            var node = scene.Find(id)!;
            var went = tryout.During(() => replica.Hear(1, [node with { Placement = elsewhere }], [], null, out _))!;
            if (!went.Goes)
            {
                // The others made it impossible: everything is as the scene has it.
                Shows(replica);
                return;
            }

            Assert.Equal(whose == 2, went.Said?.StartsWith("child was changed meanwhile.", StringComparison.Ordinal) ?? false);
            Assert.Equal(by, tryout.Trial!.Amount);
            var shown = Worlds(replica);
            var edits = tryout.Trial.Edits;
            tryout.PutBack();
            Shows(replica);
            replica.Keep(edits);
            Assert.Equal(shown, Worlds(replica));
            Shows(replica);
        });

    private static bool Tried(Action act)
    {
        try
        {
            act();
            Tally.Done();
            return true;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return false;
        }
    }

    private static Affine[] Worlds(Replica replica) => [.. replica.Scene.Nodes.Select(n => n.Id).Order(StringComparer.Ordinal).Select(replica.Evaluator.World)];

    /// <summary>The evaluator shows the scene, to the bit.</summary>
    private static void Shows(Replica replica)
    {
        using var fresh = new Evaluator(replica.Scene);
        foreach (var node in replica.Scene.Nodes)
        {
            Assert.Equal(fresh.World(node.Id), replica.Evaluator.World(node.Id));
        }
    }
}
