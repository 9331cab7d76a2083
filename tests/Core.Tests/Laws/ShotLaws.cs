using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Nobody ever changes a shot that was not meant. See model.md, Shots.</summary>
public sealed class ShotLaws
{
    private static readonly Gen<(string Verb, int Seed)> AnyVerb = Gen.Select(Gen.Int[0, AnyEdit.Verbs.Count - 1].Select(i => AnyEdit.Verbs[i]), Gen.Int[0, 1_000_000]);

    private static readonly string[] OfShots = ["shot", "setShot", "copyShot", "removeShot", "renumber", "setTiming", "seeIn", "takeBack", "everywhere", "carryAlong", "takeFrom", "ownCamera", "shotList", "setMaterial", "removeMaterial", "mergeMaterials", "clearMaterials"];

    /// <summary>Verbs that promise to keep the world, and some that do not, so that promises are broken where they can be.</summary>
    private static readonly string[] Placing = ["move", "rotate", "scale", "mirror", "set", "movePivot", "putUnder", "setOrder", "setTakes", "group", "ungroup", "remove", "place", "setShape", "align", "faceWith", "steer", "turnTo"];

    private static readonly Gen<(string Verb, int Seed)> AnyPlacing = Gen.Select(Some.Of(Placing), Gen.Int[0, 1_000_000]);

    [Fact]
    public void Without_cheats_every_shot_is_the_scene_to_the_bit() => Gen.Int[0, 1_000_000].Sample(
        seed =>
        {
            var scene = AnyEdit.Room(seed);
            scene.Keep(new MakeShot(new("plain")));
            using Evaluator there = new(scene), here = new(new ShotScene(scene, "plain"));
            Assert.All(scene.All(), node =>
            {
                Assert.Equal(there.World(node.Id), here.World(node.Id));
                Assert.Same(node, new ShotScene(scene, "plain").Find(node.Id));
            });
        },
        iter: 100);

    [Fact]
    public void An_edit_in_one_shot_changes_no_other_and_not_the_scene() => Gen.Select(Gen.Int[0, 1_000_000], AnyVerb.Array[8]).Sample(
        (room, verbs) =>
        {
            var scene = AnyEdit.Room(room);
            AnyEdit.Shoot(scene, room);
            foreach (var (verb, seed) in verbs.Where(v => !OfShots.Contains(v.Verb)))
            {
                var before = Contexts(scene);
                if (Made(scene, AnyEdit.Of(verb, new ShotScene(scene, "one"), seed), new("one", Narrow: true)) is not { } change)
                {
                    continue;
                }

                foreach (var (context, was) in before.Where(c => c.Key != "one"))
                {
                    var now = Pictured(Of(scene, context));
                    foreach (var (id, picture) in was)
                    {
                        Assert.True(now.TryGetValue(id, out var then) && then.World == picture.World && then.Lens == picture.Lens, $"{verb} moved {id} in {context}");
                        Assert.True(picture.Seen == then.Seen || MayBeSeenElse(change), $"{verb} changed whether {id} is seen in {context}");
                    }

                    Assert.All(now.Where(n => !was.ContainsKey(n.Key) && scene.Find(n.Key)!.Kind.IsInTree()), n => Assert.False(n.Value.Seen, $"{verb}: {n.Key} is seen in {context}"));
                }

                CheckNoPhantoms(change);
            }
        },
        iter: 250);

    [Fact]
    public void An_edit_in_every_shot_moves_nothing_in_any_that_was_not_meant() => Gen.Select(Gen.Int[0, 1_000_000], AnyPlacing.Array[6]).Sample(
        (room, verbs) =>
        {
            var scene = Plain(room);
            AnyEdit.Shoot(scene, room, "move", "rotate", "scale", "mirror", "set");
            foreach (var (verb, seed) in verbs)
            {
                var (before, scope) = (Contexts(scene), seed % 3 == 0 ? Scope.Every : new Scope(seed % 3 == 1 ? "one" : "two"));
                var worked = scope.Shot ?? "";
                if (Made(scene, AnyEdit.Of(verb, Of(scene, worked), seed), scope) is not { } change)
                {
                    continue;
                }

                // Meant is what moved where it was looked at, of itself and not because of what carries it, and all that rides on it.
                var shown = Pictured(Of(scene, worked));
                var written = change.Nodes.Where(n => n.Before is { } was && n.After is { } now && !was.Placement.Equals(now.Placement) || n.Before?.Parent != n.After?.Parent).Select(n => n.Id).ToList();
                var meant = Edges.Dependents(scene, written.Where(id => before[worked].TryGetValue(id, out var was) && shown.TryGetValue(id, out var now) && !IsSame(was.World, now.World)));
                foreach (var (context, was) in before)
                {
                    var after = Pictured(Of(scene, context));
                    foreach (var (id, picture) in was)
                    {
                        Assert.True(!after.TryGetValue(id, out var now) || meant.Contains(id) || IsSame(picture.World, now.World), $"{verb} in {worked} moved {id} in {context}");
                    }
                }

                CheckNoPhantoms(change);
            }
        },
        iter: 400);

    [Fact]
    public void A_shot_shows_what_its_draft_showed() => Gen.Select(Gen.Int[0, 1_000_000], AnyVerb.Array[8], Gen.Bool).Sample(
        (room, verbs, narrow) =>
        {
            var scene = AnyEdit.Room(room);
            AnyEdit.Shoot(scene, room);
            foreach (var (verb, seed) in verbs.Where(v => !OfShots.Contains(v.Verb) && v.Verb is not ("see" or "remove")))
            {
                var (scope, layer) = (new Scope("one", narrow), new ShotScene(scene, "one"));
                var edit = AnyEdit.Of(verb, layer, seed);
                SceneDraft draft;
                try
                {
                    draft = Layered.Draft(scope, [edit], leftOut => new(layer) { LeftOut = leftOut });
                    var shown = draft.Written.Where(w => w.Value is not null).ToDictionary(w => w.Key, w => draft.World(w.Value!));
                    var change = Batch.Run(scene, [edit], scope).Change;
                    scene.Apply(change);
                    var now = new SceneDraft(new ShotScene(scene, "one"));
                    foreach (var (id, world) in shown.Where(s => scene.Find(s.Key) is not null))
                    {
                        Assert.True(now.World(now.Get(id)).Distance(world) <= 1e-9 * Math.Max(1, Math.Max(world.Linear.Norm, world.Offset.Length)), $"{verb}: {id} by {now.World(now.Get(id)).Distance(world)}: {string.Join(" ", change.All.Select(c => c.Id))}");
                    }
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                }
            }
        },
        iter: 250);

    [Fact]
    public void What_is_taken_back_is_as_the_scene_has_it() => Gen.Int[0, 1_000_000].Sample(
        seed =>
        {
            var scene = AnyEdit.Room(seed);
            AnyEdit.Shoot(scene, seed);
            if (Made(scene, new TakeBack("one"), Scope.Every) is null)
            {
                return;
            }

            Assert.All(scene.CheatsOf("one"), cheat => Assert.True(cheat.IsSeen));
            Assert.Equal(Pictured(scene).Select(p => (p.Key, p.Value.World, p.Value.Lens)), Pictured(new ShotScene(scene, "one")).Select(p => (p.Key, p.Value.World, p.Value.Lens)));
        },
        iter: 200);

    [Fact]
    public void Made_so_everywhere_with_others_keeping_no_picture_changes() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Bool).Sample(
        (seed, keep) =>
        {
            var scene = AnyEdit.Room(seed);
            AnyEdit.Shoot(scene, seed);
            var before = Contexts(scene);
            if (Made(scene, new Everywhere("one", Others: keep ? OtherShots.Keep : OtherShots.Follow), Scope.Every) is null)
            {
                return;
            }

            var after = Contexts(scene);
            Assert.Equal(before["one"].Select(p => (p.Key, p.Value)), after["one"].Select(p => (p.Key, p.Value)));
            Assert.All(scene.CheatsOf("one"), c => Assert.True(c.IsSeen));
            if (keep)
            {
                Assert.Equal(before["two"].Select(p => (p.Key, p.Value)), after["two"].Select(p => (p.Key, p.Value)));
                Assert.Equal(before["three"].Select(p => (p.Key, p.Value)), after["three"].Select(p => (p.Key, p.Value)));
            }
        },
        iter: 200);

    [Fact]
    public void A_change_through_a_shot_is_what_the_shot_becomes() => Gen.Select(Gen.Int[0, 1_000_000], AnyVerb.Array[8]).Sample(
        (room, verbs) =>
        {
            var scene = AnyEdit.Room(room);
            AnyEdit.Shoot(scene, room);
            var layer = new ShotScene(scene, "one");
            using var evaluator = new Evaluator(layer);
            var sight = new Sight(layer, evaluator);
            foreach (var (verb, seed) in verbs.Where(v => v.Verb != "removeShot"))
            {
                Change change;
                try
                {
                    change = Batch.Run(scene, [AnyEdit.Of(verb, layer, seed)], AnyEdit.ScopeOf(scene, seed)).Change;
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    continue;
                }

                var seen = layer.Through(change);
                scene.Apply(change);
                layer.Take(change);
                evaluator.Follow(layer, seen);
                sight.Follow(layer, seen);
                var fresh = new ShotScene(scene, "one");
                using var anew = new Evaluator(fresh);
                var sights = new Sight(fresh, anew);
                Assert.All(scene.All(), node =>
                {
                    Assert.Equal(fresh.Find(node.Id), layer.Find(node.Id));
                    Assert.Equal(anew.World(node.Id), evaluator.World(node.Id));
                    Assert.Equal(sights.Of(node.Id), sight.Of(node.Id));
                    Assert.Equal(node.Kind.IsInTree() ? Seen.Of(fresh, fresh.Find(node.Id)!).Final : sight.Of(node.Id).HasFlag(SightBits.Final), sight.Of(node.Id).HasFlag(SightBits.Final) && !fresh.Find(node.Id)!.IsController);
                });
                Assert.All(seen.All, one => Assert.Equal(one.After, fresh.FindAny(one.Id)));
            }
        },
        iter: 200);

    [Fact]
    public void No_undo_of_three_who_interleave_moves_what_stays_in_the_scene() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Some.Of("ada", "ben", "cleo"), Gen.Int[0, 3], AnyPlacing).Array[20]).Sample(
        (room, moments) =>
        {
            var scene = Plain(room);
            AnyEdit.Shoot(scene, room, "move", "rotate");
            var desk = new Desk(scene);
            foreach (var (by, act, (verb, seed)) in moments)
            {
                var before = Contexts(scene);
                Change? change = null;
                desk.Applied = made => change = made;
                if (desk.Tried(act switch
                {
                    0 or 1 => () => desk.Do(by, AnyEdit.Of(verb, scene, seed), AnyEdit.ScopeOf(scene, seed)),
                    2 => () => desk.Undo(by),
                    _ => () => desk.Redo(by),
                }) && act >= 2)
                {
                    var after = Contexts(scene);
                    var cheated = change!.Entities.Select(e => (e.After ?? e.Before) as Cheat).OfType<Cheat>().Select(c => c.Of);
                    var meant = Edges.Dependents(scene, change.Nodes.Where(n => before[""].TryGetValue(n.Id, out var was) && after[""].TryGetValue(n.Id, out var now) && !IsSame(was.World, now.World)).Select(n => n.Id).Concat(cheated));
                    foreach (var (context, was) in before.Where(c => after.ContainsKey(c.Key)))
                    {
                        Assert.All(was, picture => Assert.True(!after[context].TryGetValue(picture.Key, out var now) || meant.Contains(picture.Key) || IsSame(picture.Value.World, now.World), $"{picture.Key} in {context}"));
                    }
                }
            }
        },
        iter: 200);

    private static SceneDocument Plain(int seed)
    {
        var scene = AnyEdit.Room(seed);
        foreach (var shot in scene.Shots.ToList())
        {
            scene.Keep(new RemoveShot(shot));
        }

        if (scene.Constrained.Count > 0)
        {
            scene.Keep(new Unconstrain([.. scene.Constrained.Select(id => new EntryOf(id))]));
        }

        return scene;
    }

    /// <summary>No cheat comes that says what the shot showed already, and none is written to the same.</summary>
    private static void CheckNoPhantoms(Change change) => Assert.All(change.Entities, e => Assert.False(e.Before is Cheat before && e.After is Cheat after && before.Value == after.Value));

    /// <summary>Memberships, rules, and how a thing is drawn count everywhere, and say so.</summary>
    private static bool MayBeSeenElse(Change change) =>
        change.Entities.Any(e => e.After is Collection || e.Before is Collection)
        || change.Nodes.Any(n => n is { Before: { } was, After: { } now } && (was.Collections != now.Collections || was.Name != now.Name || was.Switches.Drawn != now.Switches.Drawn || was.Kind != now.Kind));

    private static Change? Made(SceneDocument scene, Edit edit, Scope scope)
    {
        try
        {
            var change = Batch.Run(scene, [edit], scope).Change;
            scene.Apply(change);
            Tally.Done();
            return change;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
            return null;
        }
    }

    private static IScene Of(SceneDocument scene, string context) => context.Length == 0 ? scene : new ShotScene(scene, context);

    private static Dictionary<string, Dictionary<string, Picture>> Contexts(SceneDocument scene) =>
        scene.Shots.Prepend("").ToDictionary(context => context, context => Pictured(Of(scene, context)));

    private static Dictionary<string, Picture> Pictured(IScene scene)
    {
        var draft = new SceneDraft(scene);
        return scene.All().ToDictionary(n => n.Id, n => new Picture(draft.World(n), (n.Camera, n.Light), Seen.Of(scene, n).Final));
    }

    private static bool IsSame(Affine a, Affine b) => a.Distance(b) <= 1e-9 * Math.Max(1, Math.Max(a.Linear.Norm, a.Offset.Length));

    private sealed record Picture(Affine World, (Camera?, Light?) Lens, bool Seen);
}
