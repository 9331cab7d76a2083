using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>What holds of constraints of every kind, in any order, on any rig.</summary>
public sealed class ConstraintLaws
{
    [Fact]
    public void After_any_edits_the_flat_worlds_are_those_of_a_fresh_evaluation_to_the_bit() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Gen.Int[0, 4], Gen.Int[0, AnyEdit.Verbs.Count + 5], Gen.Int[0, 1_000_000]).Array[14]).Sample(
            (room, moments) =>
            {
                var desk = new Desk(AnyEdit.Room(room));
                using var evaluator = new Evaluator(desk.Scene);
                foreach (var (act, verb, seed) in moments)
                {
                    var before = desk.Scene.Everything.ToDictionary(e => e.Id);
                    var word = verb < AnyEdit.Verbs.Count ? AnyEdit.Verbs[verb] : "constrain";
                    desk.Tried(act switch { 0 => () => desk.Undo("ada"), 1 => () => desk.Redo("ada"), _ => () => desk.Do("ada", AnyEdit.Of(word, desk.Scene, seed)) });
                    var changed = desk.Scene.Everything.Select(e => e.Id).Union(before.Keys)
                        .Where(id => !Equals(before.GetValueOrDefault(id), desk.Scene.FindAny(id)) && (desk.Scene.FindAny(id) ?? before[id]) is Node).ToList();
                    evaluator.Follow(desk.Scene, changed);
                    Same(desk.Scene, evaluator);
                }
            },
            iter: 300);

    [Fact]
    public void Drafts_and_flat_worlds_agree() => Rig.Tied.Sample(
        scene =>
        {
            using var evaluator = new Evaluator(scene);
            foreach (var node in scene.Nodes)
            {
                Assert.True(evaluator.World(node.Id).IsFinite);

                // They multiply in another order, and near a pole a constraint makes more of the last bit.
                Some.Near(scene.World(node.Id), evaluator.World(node.Id), 1e-7);
            }
        },
        iter: 1000);

    [Fact]
    public void Trying_an_edit_and_putting_it_back_leaves_every_bit() => Gen.Select(Rig.Tied, Some.Point).Sample(
        (scene, by) =>
        {
            using var evaluator = new Evaluator(scene);
            var draft = new SceneDraft(scene);
            new Move(["carrier", "part"], by, new WorldSpace()).ApplyTo(draft);
            var preview = new Trials.Preview(scene, evaluator);
            preview.Show(draft);
            Some.Near(draft.World(draft.Get("tip")), evaluator.World("tip"));
            preview.PutBack();
            Same(scene, evaluator);
        },
        iter: 300);

    [Fact]
    public void Baking_moves_nothing() => Gen.Select(Rig.Tied, Gen.Bool, Gen.Int[-1, 3]).Sample(
        (scene, off, upTo) =>
        {
            var entries = scene.Part().Constraints;
            if (entries.IsEmpty)
            {
                return;
            }

            var before = Some.Scene([.. scene.Everything]);
            var (part, tip) = (scene.World("part"), scene.World("tip"));
            var bake = new Bake(["part"], upTo < 0 || upTo >= entries.Length ? null : entries[upTo].Id, off);
            var draft = new SceneDraft(scene);
            bake.ApplyTo(draft);
            scene.Keep(bake);
            if (draft.Held.Count > 0)
            {
                // Next to nothing, where what turns it hardly says how far; or facing along its hinge but for the last places.
                if (draft.Held.All(h => h.Off.Turned < 1e-4 && h.Off.Moved < 1e-6)
                    || LinkThread.Of(new(scene), scene.Part()).Any(t => t.Hinge is { } arc && Math.Abs(arc.Axis.Dot(t.Points!.Value)) > 1 - 1e-9))
                {
                    return;
                }

                // Later entries that read single angles read them near the stored ones, which are others now: the jump is said.
                Assert.True(upTo >= 0 && draft.Part().Constraints.Any(c => c.Pulls && c is MatchRotation or Limit { Of: Limited.Rotation }));
                Assert.NotNull(bake.Foretell(before));
                return;
            }

            Some.Near(part, scene.World("part"), 1e-8);
            Some.Near(tip, scene.World("tip"), 1e-8);
            Assert.True(off ? scene.Part().Constraints.Length == entries.Length : scene.Part().Constraints.Length < entries.Length);
            if (upTo < 0 && off)
            {
                Assert.DoesNotContain(scene.Part().Constraints, c => c.Enabled);
            }
        },
        iter: 1000);

    [Fact]
    public void What_is_off_or_weighs_nothing_leaves_every_bit() => Gen.Select(Rig.Tied, Gen.Bool).Sample(
        (scene, off) =>
        {
            var node = scene.Part();
            if (node.Constraints.IsEmpty)
            {
                return;
            }

            var bare = scene.Run(new Unconstrain([new("part")]));
            scene.Keep([.. node.Constraints.Select(c => new SetConstraint([new("part", c.Id)], off ? false : null, off ? null : 0))]);
            var draft = new SceneDraft(scene);
            Assert.Equal(draft.Placed(scene.Part()), draft.World(scene.Part()));
            draft.Take(bare);
            Assert.Equal(scene.World("tip"), draft.World(draft.Get("tip")));
        },
        iter: 300);

    [Fact]
    public void An_edit_moves_what_is_seen_by_exactly_its_amount_or_says_what_keeps_it() =>
        Gen.Select(Rig.Tied, Some.Direction.Select(Gen.Double[0.5, 9], (v, k) => v * k), Gen.Double[-100, 100], Gen.Int[0, 3]).Sample(
            (scene, by, turn, how) =>
            {
                var before = scene.World("part");
                var pivot = scene.Pivot("part");
                Edit edit = how switch
                {
                    0 => new Move(["part"], by, new WorldSpace()),
                    1 => new Rotate(["part"], turn, by, new WorldSpace(), new AboutOwn()),
                    2 => new Rotate(["part"], turn, by, new WorldSpace(), new AboutPoint(by)),
                    _ => new Scale(["part"], new(1.2, 0.9, 1.1), new WorldSpace(), new AboutOwn()),
                };
                var wanted = how switch
                {
                    0 => before with { Offset = before.Offset + by },
                    1 => Affine.About(pivot, Mat3.Rotation(by.Unit(), turn)) * before,
                    2 => Affine.About(by, Mat3.Rotation(by.Unit(), turn)) * before,
                    _ => Affine.About(pivot, Mat3.Diagonal(new(1.2, 0.9, 1.1))) * before,
                };
                var draft = new SceneDraft(scene);
                try
                {
                    edit.ApplyTo(draft);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    Assert.Contains(refusal.Word, new[] { Refusals.Held, Refusals.TooThin });
                    return;
                }

                var now = draft.World(draft.Get("part"));
                Assert.True(now.IsFinite);
                Assert.True((draft.Get("part").Constraints.Length, draft.Get("part").Constraints.Select(c => c.Id).Distinct().Count()) == (scene.Part().Constraints.Length, scene.Part().Constraints.Length));
                if (draft.Held.Count == 0)
                {
                    // What the edit does not write may follow as it will: an aim from where it is now.
                    var promised = how switch { 0 => Writes.Place, 1 => Writes.Turn, _ => Writes.All };
                    Assert.Equal(Writes.Nothing, Differ(draft.Get("part").Placement.ToOwn(), wanted, now, 1e-7) & promised & Differ(draft.Get("part").Placement.ToOwn(), before, wanted, 1e-7));
                }
                else
                {
                    Assert.Contains(scene.Part().Constraints, c => c.Id == draft.Held[0].Link);
                    Assert.EndsWith(".", Words.ConstraintWords.Held(draft.Held[0], new(scene)), StringComparison.Ordinal);
                }
            },
            iter: 2000);

    [Fact]
    public void Offsets_alone_take_up_every_edit() =>
        Gen.Select(Rig.Bare, Some.Of("follow", "rideOn", "matchRotation", "matchScale"), Gen.Double[0.05, 1], Some.Direction, Gen.Double[-40, 40]).Sample(
            (scene, kind, weight, by, turn) =>
            {
                scene.Tie(new() { Kind = kind, Target = "target" });
                scene.Keep(new SetConstraint([new("part", kind)], Weight: weight));
                foreach (var (edit, lead) in new (Edit, Func<Affine, Affine>)[]
                {
                    (new Move(["part"], by, new WorldSpace()), w => w with { Offset = w.Offset + by }),
                    (new Rotate(["part"], turn * weight, by, new WorldSpace(), new AboutOwn()), w => Affine.About(w.Point(scene.Part().Placement.Pivot), Mat3.Rotation(by.Unit(), turn * weight)) * w),
                })
                {
                    var wanted = lead(scene.World("part"));
                    scene.Keep(edit);
                    Some.Near(wanted, scene.World("part"), 1e-7);
                }
            },
            iter: 600);

    [Fact]
    public void What_promises_to_keep_the_world_keeps_it_or_says_by_how_much() => Gen.Select(Rig.Tied, Gen.Int[0, 6], Some.AllTakes).Sample(
        (scene, how, takes) =>
        {
            var worlds = scene.Nodes.ToDictionary(n => n.Id, n => scene.World(n.Id));
            var draft = new SceneDraft(scene);
            Edit edit = how switch
            {
                0 => new PutUnder(["part"], "up"),
                1 => new PutUnder(["part"]),
                2 => new Group(["part", "up"], Id: "group"),
                3 => new Remove(["base"], RemovedChildren.Lift),
                4 => new SetTakes(["part"], new(takes.Position, takes.Rotation, takes.Scale)),
                5 => new MovePivot(["part"], new(Own: new(0.3, 0.4, -2))),
                _ => new Move(["base"], new(1, 2, 3), new WorldSpace(), ChildrenMode.Stay),
            };
            try
            {
                edit.ApplyTo(draft);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.Contains(refusal.Word, new[] { Refusals.Held, Refusals.TooThin, Refusals.WouldLoop });
                return;
            }

            if (draft.Held.Count > 0 || scene.Part().Constraints.Any(c => c.Names.Contains("base")))
            {
                return;
            }

            foreach (var id in new[] { "part", "tip" })
            {
                Some.Near(worlds[id], draft.World(draft.Get(id)), 1e-7);
            }
        },
        iter: 2000);

    [Fact]
    public void A_part_that_is_picked_with_its_target_moves_once() => Gen.Select(Rig.Bare, Some.Point, Some.Of("follow", "rideOn")).Sample(
        (scene, by, kind) =>
        {
            scene.Tie(new() { Kind = kind, Target = "carrier" }).Tie(new() { Kind = "aim", Target = "target" });
            var part = scene.World("part");
            scene.Keep(new Move(["part", "carrier"], by, new WorldSpace()));
            Some.Near(part with { Offset = part.Offset + by }, scene.World("part"), 1e-7);
        },
        iter: 300);

    [Fact]
    public void Adding_moves_nothing_where_there_is_an_offset() =>
        Gen.Select(Rig.Tied, Some.Of("follow", "rideOn", "matchRotation", "matchScale"), Some.Of<string?>(null, "xz"), Some.Of<string?>(null, "parent")).Sample(
            (scene, kind, axes, frame) =>
            {
                var before = scene.World("part");
                var patch = new ConstraintPatch { Kind = kind, Target = "target", Id = "new" };
                scene.Tie(patch with { Axes = kind == "rideOn" ? null : axes, Frame = kind is "follow" or "matchRotation" ? frame : null });

                // Where it shares with the one before, that one has its part.
                var made = scene.Part().Constraints.Single(c => c.Id == "new");
                if (!scene.Part().Constraints.Any(c => c.Id != "new" && c.Shares(made)))
                {
                    Some.Near(before, scene.World("part"), 1e-7);
                }
            },
            iter: 600);

    private static unsafe Writes Differ(Own own, Affine a, Affine b, double tolerance)
    {
        double* x = stackalloc double[Stances.Size], y = stackalloc double[Stances.Size], flat = stackalloc double[Flat.Size];
        Flat.Write(a, flat);
        Assert.True(Stances.Split(flat, own, x));
        Flat.Write(b, flat);
        Assert.True(Stances.Split(flat, own, y));
        return Stances.Differ(x, y, tolerance);
    }

    private static void Same(SceneDocument scene, Evaluator evaluator)
    {
        using var fresh = new Evaluator(scene);
        foreach (var node in scene.Nodes)
        {
            Assert.Equal(fresh.World(node.Id), evaluator.World(node.Id));
            Assert.True(fresh.World(node.Id).IsFinite);
        }
    }
}
