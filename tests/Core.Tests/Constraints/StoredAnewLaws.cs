using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>What goes by a target that is stored anew where it stands does not move: in the scene and in no shot.</summary>
public sealed class StoredAnewLaws
{
    /// <summary>A target that turns with something, a part on which it is looked at by constraints of any kind, and shots in which either stands otherwise.</summary>
    private static readonly Gen<SceneDocument> Watched = Gen.Select(Rig.Bare, Gen.Int[0, 1_000_000], Gen.Int[1, 3]).Select((scene, seed, count) =>
    {
        var random = new Random(seed);
        scene.Tie(new() { Kind = "matchRotation", Target = "carrier", Axes = random.Next(2) == 0 ? "y" : null, Weight = 0.7 }, "target");
        for (var i = 0; i < count; i++)
        {
            var patch = AnyConstraint.Of(random, _ => "target", () => random.Next(3) == 0 ? "up" : "target");
            try
            {
                scene.Keep(new Constrain(["part"], patch));
            }
            catch (Refusal)
            {
                // Up toward what it aims at, say.
            }
        }

        scene.Keep(new MakeShot(new("one")), new MakeShot(new("two")));
        return scene;
    });

    [Fact]
    public void What_goes_by_it_stays() => Gen.Select(Watched, Gen.Int[0, 6], Some.Point).Sample(
        (scene, how, by) => Stays(scene, Anew(how, by)),
        iter: 1000);

    [Fact]
    public void It_stays_in_every_shot_too() => Gen.Select(Watched, Gen.Int[0, 6], Some.Point, Gen.Double[-80, 80], Gen.Bool).Sample(
        (scene, how, by, turn, ofPart) =>
        {
            var part = ofPart ? "part" : "target";
            try
            {
                scene.Apply(Batch.Run(scene, [new Rotate([part], turn, by.Length > 1 ? by : Vec3.UnitX, new WorldSpace(), new AboutOwn())], new("one", Narrow: true)).Change);
                scene.Apply(Batch.Run(scene, [new Move([part], by, new WorldSpace())], new("two", Narrow: true)).Change);
            }
            catch (Refusal)
            {
                // What turns it does not let it.
                return;
            }

            Stays(scene, Anew(how, by));
        },
        iter: 1000);

    [Fact]
    public void What_is_stored_anew_itself_stays_in_every_shot_or_it_is_said() => Gen.Select(Rig.Tied, Gen.Int[0, 6], Some.Point, Gen.Double[-80, 80], Gen.Int[0, 2]).Sample(
        (scene, how, by, turn, which) =>
        {
            scene.Keep(new MakeShot(new("one")), new MakeShot(new("two")));
            var cheating = which switch { 0 => "part", 1 => "base", _ => "target" };
            try
            {
                scene.Apply(Batch.Run(scene, [new Rotate([cheating], turn, by.Length > 1 ? by : Vec3.UnitX, new WorldSpace(), new AboutOwn())], new("one", Narrow: true)).Change);
                scene.Apply(Batch.Run(scene, [new Move([cheating], by, new WorldSpace())], new("two", Narrow: true)).Change);
            }
            catch (Refusal)
            {
                // What turns it does not let it.
                return;
            }

            Stays(scene, Anew(how, by, "part"));
        },
        iter: 1000);

    [Fact]
    public void What_cannot_stay_in_a_shot_is_said_with_the_shot_and_by_how_much()
    {
        var scene = Some.Scene(
            Some.Box("base", null),
            Some.Box("target", null, Placement.Default with { Position = new(5, 0, 0) }),
            Some.Box("part", "base", Placement.Default with { Position = new(0, 0, 2) }));
        scene.Tie(new() { Kind = "limit", Of = "rotation", Low = [null, 0, null], High = [null, 20, null], Frame = "parent" });
        scene.Keep(new MakeShot(new("one")), new MakeShot(new("two")));
        scene.Apply(Batch.Run(scene, [new Rotate(["base"], 50, Vec3.UnitY, new WorldSpace(), new AboutOwn())], new("one", Narrow: true)).Change);
        var draft = Batch.Draft(scene, [new PutUnder(["part"], "target")]);

        // Turned by 50° with its carrier in that shot, of which the limit lets 20 through under another.
        Assert.EndsWith($"In {scene.FindShot("one")!.Title} this makes part jump: by 30°.", StayingWords.Of(draft), StringComparison.Ordinal);
        Assert.Null(StayingWords.Of(Batch.Draft(scene, [new Move(["part"], new(1, 0, 0), new WorldSpace())])));
    }

    [Fact]
    public void A_gear_stays_whatever_is_done_to_how_its_driver_is_stored()
    {
        foreach (var how in Enumerable.Range(0, 7))
        {
            var scene = Some.Scene(
                Some.Box("base", null, Placement.Default with { Rotation = new(0, 30, 0) }),
                Some.Box("target", "base", Placement.Default with { Rotation = new(0, 29, 0), Position = new(1, 0, 0) }),
                Some.Box("up", null, Placement.Default with { Rotation = new(10, 70, 0), Scale = new(2, 1, 1) }),
                Some.Box("part", null, Placement.Default with { Position = new(4, 0, 0) }),
                Some.Box("tip", "part"));
            scene.Tie(new() { Kind = "matchRotation", Target = "up", Weight = 0.5 }, "target");
            scene.Tie(new() { Kind = "matchRotation", Target = "target", Axes = "y", Factor = 2 });
            Stays(scene, Anew(how, new(0.3, 1, -2)));
        }
    }

    [Fact]
    public void What_aims_keeps_the_place_that_it_looked_at_also_when_that_moves_on()
    {
        var scene = Some.Scene(Some.Box("target", null), Some.Box("up", null, Placement.Default with { Position = new(0, 5, 0) }), Some.Box("part", null, Placement.Default with { Position = new(4, 0, 0) }));
        scene.Tie(new() { Kind = "aim", Target = "target", Axis = "+x", UpAxis = "+y", Up = new(Toward: "up") });
        scene.Keep(new MovePivot(["target", "up"], new(Own: new(1, 2, 3))));
        var aim = Assert.IsType<Aim>(Assert.Single(scene.Part().Constraints));
        Assert.Equal((Vec3.Zero, Vec3.Zero), (aim.Point, aim.Up.Point));

        // With the target turned, it is a place on the target, not one of the world; another target is aimed at by its pivot.
        scene.Keep(new Move(["target"], new(0, 0, 2), new WorldSpace()));
        Some.Near((new Vec3(0, 0, 2) - new Vec3(4, 0, 0)).Unit(), scene.Axes("part").X, 1e-9);
        scene.Keep(new SetConstraint([new("part", "aim")], Target: "up", Up: new(World: new SignedAxis(1))));
        Assert.Null(((Aim)scene.Part().Constraints[0]).Point);
    }

    [Fact]
    public void What_is_locked_or_switched_off_is_told_as_well()
    {
        var scene = Some.Scene(Some.Box("target", null), Some.Box("part", null) with { Switches = new(Locked: true) });
        scene.Keep(new LockNodes(["part"], false), new Constrain(["part"], new() { Kind = "follow", Target = "target", Enabled = false }), new LockNodes(["part"], true));
        scene.Keep(new MovePivot(["target"], new(Own: new(1, 2, 3))));
        Some.Near(new Vec3(-1, -2, -3), ((Follow)scene.Part().Constraints[0]).Away);
    }

    private static Edit Anew(int how, Vec3 by, string node = "target") => how switch
    {
        0 => new MovePivot([node], new(Own: by)),
        1 => new MovePivot([node], Turn: by * 20),
        2 => new SetOrder([node], by.X > 0 ? EulerOrder.ZXY : EulerOrder.YZX),
        3 => new PutUnder([node], "up"),
        4 => new PutUnder([node]),
        5 => new Group([node], Id: "group"),
        _ => new Bake([node]),
    };

    private static void Stays(SceneDocument scene, Edit edit)
    {
        // Near where two axes line up single angles are read less exactly, and what limits them may turn to the other side of it.
        if (new[] { "part", "target" }.Any(id => scene.Warnings(id).Contains(LinkWarning.LinesUp) || scene.Find(id)!.Constraints.Any(c => c is Limit { Of: Limited.Rotation })))
        {
            return;
        }

        var before = Worlds(scene);
        Change change;
        SceneDraft draft;
        try
        {
            draft = Batch.Draft(scene, [edit]);
            change = draft.ToChange();
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.Contains(refusal.Word, new[] { Refusals.WouldLoop, Refusals.TooThin, Refusals.Held, Refusals.NotUnderstood });
            return;
        }

        if (draft.Held.Count > 0)
        {
            // It is known that something does not stay.
            Tally.Refused(new(Refusals.Held, "Held."));
            IsSaid(scene, draft, before);
            return;
        }

        Tally.Done();
        scene.Apply(change);
        foreach (var ((shot, id), world) in before)
        {
            var off = world.Distance(World(scene, shot, id));
            Assert.True(off <= 1e-7 * (1 + world.Linear.Norm + world.Offset.Length), $"{edit.GetType().Name} moves {id} in {shot ?? "the scene"} by {off}: {Told(scene, "part")}; {Told(scene, "target")}; {string.Join(", ", change.All.Select(c => c.Id))}");
        }
    }

    /// <summary>What does not stay in a shot is said with its name, before it is done; what is said to jump there does.</summary>
    private static void IsSaid(SceneDocument scene, SceneDraft draft, Dictionary<(string? Shot, string Id), Affine> before)
    {
        var (said, titles) = (StayingWords.Of(draft), scene.AllShots().ToDictionary(s => s.Id, s => s.Title));
        var jumping = draft.Held.Where(h => h.In is not null).ToList();
        scene.Apply(draft.ToChange());
        foreach (var ((shot, id), world) in before.Where(b => b.Key.Shot is not null))
        {
            var off = world.Distance(World(scene, shot, id));
            if (off > 1e-7 * (1 + world.Linear.Norm + world.Offset.Length))
            {
                // What jumps in the scene is said to jump everywhere.
                Assert.Contains(draft.Held, h => h.In is null || h.In.Shot == shot);
            }
        }

        foreach (var held in jumping.Where(h => before.ContainsKey((h.In!.Shot, h.Node))))
        {
            Assert.NotEqual(0, before[(held.In!.Shot, held.Node)].Distance(World(scene, held.In.Shot, held.Node)));
            Assert.Contains(jumping.Select(h => h.Node).Distinct().Count() == 1 ? $" this makes {scene.Find(held.Node)!.Name} jump: " : " objects jump: by up to ", said!, StringComparison.Ordinal);
            Assert.Contains(titles[held.In.Shot!], said!, StringComparison.Ordinal);
        }
    }

    private static string Told(SceneDocument scene, string id) =>
        $"{id} {string.Join(", ", scene.Find(id)!.Constraints.Select(c => System.Text.Json.JsonSerializer.Serialize(c, Wire.WireJson.Options)))}";

    private static Dictionary<(string? Shot, string Id), Affine> Worlds(SceneDocument scene) => scene.Shots.Cast<string?>().Prepend(null)
        .SelectMany(shot => new[] { "target", "part", "tip" }.Where(id => scene.Find(id) is not null).Select(id => (shot, id)))
        .ToDictionary(at => at, at => World(scene, at.shot, at.id));

    private static Affine World(SceneDocument scene, string? shot, string id)
    {
        var draft = new SceneDraft(shot is null ? scene : new ShotScene(scene, shot));
        return draft.World(draft.Get(id));
    }
}
