using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever is grouped, ungrouped, put under, copied and collected: nothing is displaced, and undo restores to the bit.</summary>
public sealed class BuildingLaws
{
    private static readonly string[] Ids = ["a", "b", "c", "d", "e", "f"];
    private static readonly string[] Groups = ["g", "h"];
    private static readonly string[] Sets = ["set", "sub"];

    private static readonly Gen<string> Node = Some.Of([.. Ids, .. Groups]);

    private static readonly Gen<Edit> Edits = Gen.Select(Gen.Int[0, 11], Node, Node, Some.Of(Sets), Gen.Int[0, 3], Gen.Bool, Edit (kind, one, other, set, at, flag) => kind switch
    {
        0 or 1 => new Group([one, other], "Group", (GroupAt)at, flag ? "g" : "h"),
        2 => new Ungroup([flag ? "g" : "h"]),
        3 => new PutUnder([one], other, at),
        4 => new PutUnder([one, other], null),
        5 => new Remove([flag ? "g" : "h"], RemovedChildren.Lift),
        6 => new Collect([one, other], set, flag),
        7 => new See([flag ? one : set], Working: at > 1, Final: at % 2 == 0),
        8 => new SetTakes([one], new(flag, at > 1, at % 2 == 0)),
        9 => new PutUnder(["sub"], flag ? "set" : null),
        10 => new Duplicate([one], 1 + at % 2, Sharing: flag),
        _ => new SetRule(set, flag ? new(Name: "g*") : null),
    });

    /// <summary>Turned and evenly scaled, so that no chain becomes too thin to compute with.</summary>
    private static readonly Gen<SceneDocument> Scenes = Gen.Select(
            Some.Point,
            Some.Angles,
            Gen.Double[0.5, 2],
            (position, rotation, scale) => Placement.Default with { Position = position, Rotation = rotation, Scale = new(scale, scale, scale) })
        .Array[6]
        .Select(p =>
        {
            var scene = Some.Scene([.. Ids.Select((id, i) => Some.Box(id, i is 0 or 3 ? null : Ids[i - 1], p[i], i))]);
            scene.Keep(new Gather("Set", "set"), new Gather("Sub", "sub", "set"));
            return scene;
        });

    [Fact]
    public void Every_world_placement_is_kept_and_undo_restores_to_the_bit() => Gen.Select(Scenes, Edits.Array[20]).Sample(
        (scene, edits) =>
        {
            using var evaluator = new Evaluator(scene);
            foreach (var edit in edits)
            {
                var worlds = scene.Nodes.Where(n => n.Kind.IsInTree()).ToDictionary(n => n.Id, n => scene.World(n.Id));
                var before = Stored(scene);
                Change change;
                try
                {
                    change = scene.Keep(edit);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    Assert.Equal(before, Stored(scene));
                    continue;
                }

                evaluator.Follow(scene, change);

                // Where two rotation axes line up, angles in degrees cannot say a rotation to its last digits.
                var linedUp = scene.Nodes.Any(n => Euler.FromLiningUp(n.Placement.Rotation, n.Placement.Order) < 1e-6);
                foreach (var (id, world) in worlds)
                {
                    if (scene.Find(id) is not null)
                    {
                        Some.Near(world, scene.World(id), linedUp ? 3e-8 : 1e-9);
                        Some.Near(world, evaluator.World(id), linedUp ? 3e-8 : 1e-9);
                    }
                }

                scene.Apply(SceneHistory.Restoring(scene, change.Reversed()));
                Assert.Equal(before, Stored(scene));
                scene.Apply(SceneHistory.Restoring(scene, change));
            }
        },
        iter: 300);

    [Fact]
    public void Ungrouping_shows_nothing_that_was_hidden() => Gen.Select(Scenes, Edits.Array[15]).Sample(
        (scene, edits) =>
        {
            foreach (var edit in edits)
            {
                var hidden = scene.Branch(null).Where(n => !Seen.IsSeen(scene, n)).Select(n => n.Id).ToList();
                try
                {
                    scene.Keep(edit);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    continue;
                }

                if (edit is Ungroup)
                {
                    Assert.All(hidden.Where(id => scene.Find(id) is not null), id => Assert.False(Seen.IsSeen(scene, scene.Find(id)!)));
                }
            }
        },
        iter: 300);

    [Fact]
    public void The_named_switches_show_what_is_hidden() => Gen.Select(Scenes, Edits.Array[15], Some.Of(Ids)).Sample(
        (scene, edits, id) =>
        {
            foreach (var edit in edits)
            {
                try
                {
                    scene.Keep(edit);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                }
            }

            // One switch a link is named; throwing them may bring the next one to light, but never one already thrown.
            var thrown = new HashSet<string>();
            while (Seen.Of(scene, scene.Find(id)!) is { Working: false, Reasons: var reasons })
            {
                var next = reasons.First(r => !r.Final);
                Assert.True(thrown.Add(next.Switch));
                scene.Keep(new See([next.Switch], Working: true));
            }

            Assert.True(Seen.IsSeen(scene, scene.Find(id)!));
        },
        iter: 300);

    [Fact]
    public void The_flat_sight_says_the_same_as_the_reasons() => Gen.Select(Scenes, Edits.Array[15]).Sample(
        (scene, edits) =>
        {
            using var evaluator = new Evaluator(scene);
            var sight = new Sight(scene, evaluator);
            foreach (var edit in edits.Append(new LockNodes(["set"], true)).Append(new Draw(["sub", "b"], DrawnAs.Wire)))
            {
                try
                {
                    var change = scene.Keep(edit);
                    evaluator.Follow(scene, change);
                    sight.Follow(scene, change);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                }

                foreach (var node in scene.Branch(null))
                {
                    var (bits, seen) = (sight.Of(node.Id), Seen.Of(scene, node));
                    Assert.Equal(seen.Working, bits.HasFlag(SightBits.Working));
                    Assert.Equal(seen.Final, bits.HasFlag(SightBits.Final) && !bits.HasFlag(SightBits.Controller));
                    Assert.Equal(node.Switches.Locked || Membership.LockOf(scene, node) is not null, bits.HasFlag(SightBits.Locked));
                    Assert.False(bits.HasFlag(SightBits.LeftOut));
                }
            }
        },
        iter: 200);

    [Fact]
    public void The_colour_of_a_node_is_that_of_the_nearest_member_above_it() => Gen.Select(Scenes, Edits.Array[15]).Sample(
        (scene, edits) =>
        {
            using var evaluator = new Evaluator(scene);
            var sight = new Sight(scene, evaluator);
            foreach (var edit in edits.Prepend(new SetLabel(["set"], Color: "#336699")).Append(new SetLabel(["sub"], Color: "#993366")))
            {
                try
                {
                    var change = scene.Keep(edit);
                    evaluator.Follow(scene, change);
                    sight.Follow(scene, change);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                }

                var (palette, of) = sight.Colors();
                Assert.Equal(palette.Distinct(), palette);
                foreach (var node in scene.Branch(null))
                {
                    var said = of[evaluator.SlotOf(node.Id)] is >= 0 and var at ? palette[at] : null;
                    Assert.Equal(ColorOf(scene, node), said);
                }
            }
        },
        iter: 150);

    private static string? ColorOf(SceneDocument scene, Node node) => scene.Ancestors(node).Prepend(node)
        .Select(carrier => Membership.Of(scene, carrier)
            .Select(c => scene.Ancestors(c).Prepend(c).Select(around => around.Label.Color).FirstOrDefault(color => color is not null))
            .FirstOrDefault(color => color is not null))
        .FirstOrDefault(color => color is not null);

    [Theory]
    [InlineData(0, 2, 4)]
    [InlineData(5)]
    [InlineData(4, 3, 2, 1, 0)]
    [InlineData(1, 5, 3)]
    public void A_document_that_lost_and_gained_many_has_the_order_of_one_made_anew(params int[] moved)
    {
        var scene = Some.Scene([.. Enumerable.Range(0, 6).Select(i => Some.Box($"n{i}", null, rank: i)), Some.Box("host", null, rank: 9)]);
        var ids = moved.Select(i => $"n{i}").ToArray();
        var change = scene.Keep(new PutUnder(ids, "host", Keep: Keep.Numbers));
        Assert.Equal(ids, scene.Children("host"));
        Assert.Equal([.. Enumerable.Range(0, 6).Except(moved).Select(i => $"n{i}"), "host"], scene.Children(null));
        scene.Apply(change.Reversed());
        Assert.Equal([.. Enumerable.Range(0, 6).Select(i => $"n{i}"), "host"], scene.Children(null));
        Assert.Empty(scene.Children("host"));

        scene.Keep(new Remove(ids));
        Assert.Equal([.. Enumerable.Range(0, 6).Except(moved).Select(i => $"n{i}"), "host"], scene.Children(null));
        Assert.Equal(7 - moved.Length, scene.Count);
    }

    [Fact]
    public void Isolation_leaves_out_all_but_the_chosen() => Gen.Select(Scenes, Some.Of(Ids), Gen.Bool).Sample((scene, id, withBranch) =>
    {
        using var evaluator = new Evaluator(scene);
        var sight = new Sight(scene, evaluator);
        sight.Isolate([id], withBranch);
        var shown = withBranch ? scene.Branch(id).Select(n => n.Id).ToHashSet() : [id];
        // Lamps go on shining on what is shown.
        Assert.All(scene.Branch(null), n => Assert.Equal(!shown.Contains(n.Id) && n.Kind != NodeKind.Light, sight.Of(n.Id).HasFlag(SightBits.LeftOut)));
        sight.Isolate([], withBranch);
        Assert.All(scene.Branch(null), n => Assert.False(sight.Of(n.Id).HasFlag(SightBits.LeftOut)));
    });

    private static List<Node> Stored(SceneDocument scene) => [.. scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal)];
}
