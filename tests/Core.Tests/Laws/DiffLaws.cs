using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What is not the same in two shots is all that differs, and taking it makes them the same.</summary>
public sealed class DiffLaws
{
    private static readonly Gen<(SceneDocument Scene, string A, string? B)> Pairs = Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 8]).Select((seed, pair) =>
    {
        var scene = AnyEdit.Room(seed);
        AnyEdit.Shoot(scene, seed);
        scene.Keep(new SeeIn(["one"], ["cup", "set"], false), new SeeIn(["two"], ["cup"], true), new SetShot("two", Frames: 7 + pair));
        string?[] sides = ["one", "two", null];
        return (scene, scene.Shots[pair / 3], sides[pair % 3]);
    });

    [Fact]
    public void A_shot_is_as_itself() => Pairs.Sample(
        p =>
        {
            Assert.True(ShotDiff.Of(p.Scene, p.A, p.A).IsEmpty);
            Assert.Empty(DiffReading.Of(p.Scene, p.A, p.A).Things);
        },
        iter: 60);

    [Fact]
    public void Both_ways_it_is_the_same() => Pairs.Sample(
        p =>
        {
            var (there, back) = (ShotDiff.Of(p.Scene, p.A, p.B), ShotDiff.Of(p.Scene, p.B, p.A));
            Assert.Equal(there.Cheats.Select(c => (c.Node, c.Channel, c.A, c.B)).ToHashSet(), back.Cheats.Select(c => (c.Node, c.Channel, c.B, c.A)).ToHashSet());
            Assert.Equal(there.Seen.Select(c => (c.Id, c.A, c.B)).ToHashSet(), back.Seen.Select(c => (c.Id, c.B, c.A)).ToHashSet());
        },
        iter: 60);

    [Fact]
    public void Taking_everything_makes_both_the_same_and_leaves_all_others_as_they_are() => Pairs.Sample(
        p =>
        {
            var others = p.Scene.Shots.Where(s => s != p.A).ToDictionary(s => s, s => Worlds(p.Scene, s));
            var before = ShotDiff.Of(p.Scene, p.A, p.B);
            if (before.IsEmpty)
            {
                Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => p.Scene.Keep(new TakeFrom(p.A, p.B))).Word);
                return;
            }

            try
            {
                p.Scene.Keep(new TakeFrom(p.A, p.B));
                Tally.Done();
            }
            catch (Refusal refusal) when (refusal.Word == Refusals.Locked)
            {
                Tally.Refused(refusal);
                return;
            }

            Assert.True(ShotDiff.Of(p.Scene, p.A, p.B).IsEmpty);
            Assert.All(others, o => Assert.Equal(o.Value, Worlds(p.Scene, o.Key)));

            // What they show is the same, too, though one may have of its own what the other has of the scene.
            Assert.Equal(Worlds(p.Scene, p.A).Keys, Worlds(p.Scene, p.B).Keys);
            Assert.All(Worlds(p.Scene, p.A), w => Assert.True(w.Value.Distance(Worlds(p.Scene, p.B)[w.Key]) <= 1e-9 * Math.Max(1, w.Value.Linear.Norm + w.Value.Offset.Length)));
        },
        iter: 150);

    [Fact]
    public void Taking_one_thing_takes_that_alone() => Gen.Select(Pairs, Gen.Int[0, 100]).Sample(
        (p, pick) =>
        {
            var diff = ShotDiff.Of(p.Scene, p.A, p.B);
            if (diff.Cheats.Count == 0)
            {
                return;
            }

            var one = diff.Cheats[pick % diff.Cheats.Count];
            try
            {
                p.Scene.Keep(new TakeFrom(p.A, p.B, [one.Node], [one.Channel]));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                return;
            }

            var after = ShotDiff.Of(p.Scene, p.A, p.B);
            Assert.Equal(diff.Cheats.Where(c => (c.Node, c.Channel) != (one.Node, one.Channel)), after.Cheats);
            Assert.Equal(diff.Seen, after.Seen);
            Assert.Equal((diff.Camera, diff.Frames), (after.Camera, after.Frames));
        },
        iter: 150);

    [Fact]
    public void The_table_says_of_each_cell_what_the_shot_says() => Pairs.Sample(
        p =>
        {
            var table = SeenTable.Of(p.Scene, ["cup", "mug", "desk", "cup", "gone"]);
            Assert.Equal(p.Scene.Shots, table.Columns.Select(c => c.Shot));
            Assert.Equal(p.Scene.AllCollections().Count() + 3, table.Rows.Count);
            Assert.Equal(p.Scene.Branch(null).Select(n => n.Id).Where(id => id is "cup" or "mug" or "desk"), table.Rows.Where(r => !r.IsCollection).Select(r => r.Id));
            foreach (var row in table.Rows)
            {
                Assert.Equal(p.Scene.Shots.Select(s => SeenInReading.Of(p.Scene, s, row.Id)!.State), row.Cells.Select(c => c switch { '+' => "on", '-' => "off", _ => "scene" }));
            }
        },
        iter: 40);

    private static Dictionary<string, Numbers.Affine> Worlds(SceneDocument scene, string? shot)
    {
        IScene shown = shot is null ? scene : new ShotScene(scene, shot);
        using var evaluator = new Evaluator(shown);
        return scene.All().ToDictionary(n => n.Id, n => evaluator.World(n.Id));
    }
}
