using System.Globalization;
using System.Text.RegularExpressions;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever makes geometry says what it moves in shots in which it is not made, and moves no more than it says.</summary>
public sealed class JoiningLaws
{
    private static readonly string[] Ids = ["a", "b", "lead"];

    /// <summary>Two boxes and their lead on a turntable; in two shots some of them stand elsewhere, are made of something else, or are not seen.</summary>
    private static readonly Gen<SceneDocument> Rooms = Gen.Select(Some.Placements.Array[4], Gen.Int[0, 1_000_000]).Select((at, seed) =>
    {
        var r = new Random(seed);
        var scene = Some.Scene(
            new Material("oak", "Oak"),
            new Material("tin", "Tin"),
            Node.Bare("table", "Table", NodeKind.Group, null, at[3] with { Scale = new(1, 1, 1), Shear = Vec3.Zero }),
            Some.Box("a", r.Next(2) == 0 ? "table" : null, at[0], 1) with { Materials = ["oak"] },
            Some.Box("b", null, at[1], 2),
            Some.Box("lead", r.Next(2) == 0 ? "table" : null, at[2], 3) with { Materials = ["tin"] });
        foreach (var shot in new[] { "one", "two" })
        {
            scene.Keep(new MakeShot(new(shot, shot, "Shot")));
            foreach (var id in new[] { "a", "b", "lead", "table" })
            {
                Edit? own = r.Next(8) switch
                {
                    0 => new Move([id], new(0, 1, 0), new WorldSpace()),
                    1 => new Rotate([id], 30, Vec3.UnitY, new ParentSpace(), new AboutOwn()),
                    2 => new See([id], Final: false),
                    3 when id != "table" => new Assign([id], r.Next(2) == 0 ? "oak" : "tin"),
                    _ => null,
                };
                if (own is not null)
                {
                    scene.Apply(Batch.Run(scene, [own], new(shot, Narrow: true)).Change);
                }
            }
        }

        return scene;
    });

    private static readonly Gen<string?> Working = Gen.Int[0, 2].Select(i => i switch { 0 => null, 1 => "one", _ => "two" });

    [Fact]
    public void Joined_corners_that_move_in_a_shot_are_counted_and_it_is_named() => Gen.Select(Rooms, Working).Sample((scene, working) =>
    {
        var before = Layers(scene).ToDictionary(l => l.Name, l => Ids.ToDictionary(id => id, id => (Corners: Corners(l.Scene, id), Seen: IsSeen(l.Scene, id), Stuff: Stuff(l.Scene, id))));
        var here = new SceneDraft(working is null ? scene : new ShotScene(scene, working));
        var back = here.World(here.Get("lead")).Inverse();
        var by = Ids.ToDictionary(id => id, id => back * here.World(here.Get(id)));
        var foretold = new Join(Ids).Elsewhere(working is null ? scene : new ShotScene(scene, working), done: false);
        var (change, sentence) = Batch.Run(scene, [new Join(Ids)], working is null ? null : new(working));
        scene.Apply(change);
        var moved = new HashSet<(string, int)>();
        foreach (var (name, layer) in Layers(scene))
        {
            var draft = new SceneDraft(layer);
            var lead = draft.Get("lead");
            var slot = 0;
            foreach (var id in Ids.Prepend("lead").Distinct())
            {
                var was = before[name][id];
                var now = Corners(by[id]).Select(c => draft.World(lead).Point(c)).ToList();
                var away = Enumerable.Range(0, now.Count).Where(i => (now[i] - was.Corners[i]).Length > 1e-8 * Math.Max(1, was.Corners[i].Length)).ToList();
                // What was seen with the lead and moves is counted, and where it is made nothing moves.
                if (was.Seen && before[name]["lead"].Seen && name != (working ?? "the scene"))
                {
                    moved.UnionWith(away.Select(i => (id, i)));
                    Assert.True(away.Count == 0 || sentence.Contains(TitleOf(name), StringComparison.Ordinal), $"{name}, made in {working}: {sentence} {string.Join(",", away)} of {id}, {string.Join("; ", scene.Shots.SelectMany(scene.CheatsOf).Select(c => c.Id))}");
                }

                Assert.True(name != (working ?? "the scene") || away.Count == 0);
                Assert.Equal(was.Stuff, lead.MaterialOf(slot++));
            }
        }

        Assert.Equal(moved.Count, Counted(sentence, @"(\d+) corners? of"));
        Assert.Equal(moved.Count, foretold.Sum(part => Counted(part, @"(\d+) corners? of")));
        Assert.Equal(foretold.Count > 0, sentence.Contains("; ", StringComparison.Ordinal));
    });

    [Fact]
    public void What_differs_stays_an_object_of_its_own_and_then_nothing_moves() => Gen.Select(Rooms, Working).Sample((scene, working) =>
    {
        var before = Layers(scene).ToDictionary(l => l.Name, l => Ids.ToDictionary(id => id, id => (Corners: Corners(l.Scene, id), Seen: IsSeen(l.Scene, id))));
        var here = new SceneDraft(working is null ? scene : new ShotScene(scene, working));
        var by = Ids.ToDictionary(id => id, id => here.World(here.Get("lead")).Inverse() * here.World(here.Get(id)));
        try
        {
            var (change, sentence) = Batch.Run(scene, [new Join(Ids, OtherShots.Keep)], working is null ? null : new(working));
            scene.Apply(change);
            var apart = Ids.Count(id => scene.Find(id) is not null) - 1;
            Assert.Equal(apart, Regex.Match(sentence, "; (a|b) stays an object of its own") is { Success: true } ? 1 : 0);
            Assert.StartsWith($"Joined {3 - apart} objects into lead", sentence, StringComparison.Ordinal);
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.Equal(Refusals.Cheated, refusal.Word);
            return;
        }

        Tally.Done();
        foreach (var (name, layer) in Layers(scene))
        {
            var draft = new SceneDraft(layer);
            foreach (var id in Ids)
            {
                var (node, corners) = draft.Find(id) is { } own && id != "lead" ? (own, Corners(draft, id)) : (draft.Get("lead"), [.. Corners(by[id]).Select(c => draft.World(draft.Get("lead")).Point(c))]);
                Assert.True(before[name][id].Seen == Seen.IsSeen(draft, node, final: true), $"{id} in {name}, made in {working}: {string.Join("; ", scene.Shots.SelectMany(scene.CheatsOf).Select(c => c.Id))}");
                Assert.True(!before[name][id].Seen || corners.Zip(before[name][id].Corners).All(c => (c.First - c.Second).Length < 1e-8 * Math.Max(1, c.Second.Length)), $"{id} moved in {name}");
            }
        }
    });

    [Fact]
    public void Separated_pieces_stand_and_look_in_every_shot_as_before() => Gen.Select(Rooms, Working).Sample((scene, working) =>
    {
        // One mesh of three pieces, with all that shots have of the lead.
        scene.Apply(Batch.Run(scene, [new Join(Ids)], working is null ? null : new(working)).Change);
        var before = Layers(scene).ToDictionary(l => l.Name, l => (Corners: Drawn(l.Scene, "lead"), Seen: IsSeen(l.Scene, "lead")));
        var (change, sentence) = Batch.Run(scene, [new Separate(["lead"])], working is null ? null : new(working));
        scene.Apply(change);
        Assert.DoesNotContain(";", sentence, StringComparison.Ordinal);
        List<string> pieces = [.. scene.All().Where(n => n.Kind == NodeKind.Mesh).Select(n => n.Id)];
        Assert.Equal(3, pieces.Count);
        foreach (var (name, layer) in Layers(scene))
        {
            Assert.All(pieces, id => Assert.Equal(before[name].Seen, IsSeen(layer, id)));
            Assert.Equal(before[name].Corners, pieces.SelectMany(id => Drawn(layer, id)).ToHashSet());
        }
    });

    [Theory]
    [InlineData("mirror")]
    [InlineData("dropShear")]
    public void Where_it_comes_out_otherwise_than_if_it_were_made_there_is_said(string verb) => Gen.Select(Rooms, Gen.Bool).Sample((scene, whole) =>
    {
        Edit edit = verb == "mirror" ? new Mirror(["a", "b"], Vec3.UnitX, whole ? new WorldSpace() : new ParentSpace(), new AboutOwn()) : new DropShear(["a", "b"]);
        var wanted = new Dictionary<string, Affine[]>();
        foreach (var shot in new[] { "one", "two" })
        {
            var draft = new SceneDraft(new ShotScene(scene, shot));
            edit.ApplyTo(draft);
            wanted[shot] = [draft.World(draft.Get("a")), draft.World(draft.Get("b"))];
        }

        var (change, sentence) = Batch.Run(scene, [edit]);
        scene.Apply(change);
        var differing = wanted.Where(w =>
        {
            var draft = new SceneDraft(new ShotScene(scene, w.Key));
            return !Same(draft.World(draft.Get("a")), w.Value[0]) || !Same(draft.World(draft.Get("b")), w.Value[1]);
        }).Select(w => w.Key).ToList();
        Assert.All(wanted.Keys, shot => Assert.Equal(differing.Contains(shot), sentence.Contains(TitleOf(shot), StringComparison.Ordinal)));
    });

    private static IEnumerable<(string Name, IScene Scene)> Layers(SceneDocument scene) =>
        [("the scene", scene), ("one", new ShotScene(scene, "one")), ("two", new ShotScene(scene, "two"))];

    private static string TitleOf(string name) => name == "the scene" ? name : $"{name} Shot";

    private static bool IsSeen(IScene scene, string id) => new SceneDraft(scene) is var draft && Seen.IsSeen(draft, draft.Get(id), final: true);

    private static bool Same(Affine a, Affine b) => a.Distance(b) <= 1e-8 * Math.Max(1, Math.Max(b.Linear.Norm, b.Offset.Length));

    private static string Stuff(IScene scene, string id) => scene.Find(id)!.MaterialOf(0);

    /// <summary>The eight corners that all of them have in their own frame.</summary>
    private static readonly Vec3[] Own = [.. Pieces.CornersOf(Extents.GeometryOf(Some.Scene(), Some.Box("a", null))!)];

    private static IEnumerable<Vec3> Corners(Affine by) => Own.Select(by.Point);

    private static Vec3[] Corners(IScene scene, string id) => new SceneDraft(scene) is var draft ? [.. Corners(draft.World(draft.Get(id)))] : [];

    private static HashSet<(double, double, double, string)> Drawn(IScene scene, string id)
    {
        var draft = new SceneDraft(scene);
        var node = draft.Get(id);
        return [.. Extents.GeometryOf(draft, node)!.Parts.SelectMany(part => Pieces.CornersOf(new Geometry([part])).Select(draft.World(node).Point).Select(p => (p.X, p.Y, p.Z, node.MaterialOf(part.Slot))))];
    }

    private static int Counted(string sentence, string pattern) =>
        Regex.Match(sentence, pattern) is { Success: true } match ? int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture) : 0;
}
