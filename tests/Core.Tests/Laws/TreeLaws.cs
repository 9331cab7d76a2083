using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever is put under, taken out, added and removed: the tree stays a tree, and nothing is displaced.</summary>
public sealed class TreeLaws
{
    private static readonly string[] Ids = ["a", "b", "c", "d", "e", "f"];

    private static readonly Gen<Edit> Edits = Gen.Select(
        Gen.Int[0, 5],
        Some.Of(Ids),
        Some.Of(Ids),
        Gen.Int[-2, 6],
        Gen.Bool,
        Edit (kind, node, other, index, flag) => kind switch
        {
            0 => new PutUnder([node], other, flag ? index : null),
            1 => new PutUnder([node, other], null, flag ? index : null),
            2 => new Remove([node], flag ? RemovedChildren.Lift : RemovedChildren.With),
            3 => new Create(new() { Id = node, Name = node, Kind = NodeKind.Group }, flag ? other : null, index),
            4 => new Remove([node, other], RemovedChildren.Lift),
            _ => new PutUnder([node, other], other == "a" ? "b" : "a"),
        });

    /// <summary>Six boxes, turned and scaled evenly at random, so that no chain becomes too thin to compute with.</summary>
    private static readonly Gen<SceneDocument> Scenes = Gen.Select(
            Some.Point,
            Some.Angles,
            Some.Point,
            (position, rotation, pivot) => Placement.Default with { Position = position, Rotation = rotation, Pivot = pivot })
        .Array[6]
        .Select(p => Some.Scene([.. Ids.Select((id, i) => Some.Box(id, i is 0 or 3 ? null : Ids[i - 1], p[i], i))]));

    [Fact]
    public void A_tree_stays_a_tree_and_its_order_stays_an_order() => Gen.Select(Scenes, Edits.Array[25]).Sample(
        (scene, edits) =>
        {
            foreach (var edit in edits)
            {
                TryKeep(scene, edit);
                CheckTree(scene);
            }
        },
        iter: 200);

    [Fact]
    public void A_draft_and_a_scene_that_followed_each_edit_have_the_order_of_one_made_anew() => Gen.Select(Scenes, Edits.Array[15]).Sample(
        (scene, edits) =>
        {
            var draft = new SceneDraft(scene);
            foreach (var edit in edits)
            {
                var trial = new SceneDraft(draft);
                try
                {
                    edit.ApplyTo(trial);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    continue;
                }

                edit.ApplyTo(draft);
            }

            var change = draft.ToChange();
            var ordered = draft.Branch(null).Select(n => n.Id).ToList();
            scene.Apply(change);
            Assert.Equal(ordered, scene.Branch(null).Select(n => n.Id));
            Assert.Equal(ordered, Some.Scene([.. scene.Nodes]).Branch(null).Select(n => n.Id));
            Assert.Equal(scene.Count, draft.Count);
        },
        iter: 200);

    [Fact]
    public void Who_is_put_elsewhere_stays_where_it_is_in_the_world() => Gen.Select(Scenes, Edits.Array[15]).Sample(
        (scene, edits) =>
        {
            var worlds = Ids.ToDictionary(id => id, scene.World);
            foreach (var edit in edits.Where(e => e is PutUnder or Remove))
            {
                TryKeep(scene, edit);
            }

            Assert.All(scene.Nodes, node => Some.Near(worlds[node.Id], scene.World(node.Id), 1e-8));
        },
        iter: 200);

    [Fact]
    public void A_sibling_stands_at_the_index_it_was_put_at() => Gen.Select(Gen.Int[0, 4], Gen.Int[0, 4], Gen.Int[0, 30]).Sample((from, to, times) =>
    {
        var scene = Some.Scene([.. Enumerable.Range(0, 5).Select(i => Some.Box($"n{i}", null, rank: i))]);
        for (var i = 0; i <= times; i++)
        {
            var moved = scene.Children(null)[from];
            scene.Keep(new PutUnder([moved], null, to));
            Assert.Equal(moved, scene.Children(null)[to]);
        }
    });

    [Fact]
    public void However_often_siblings_change_places_none_is_lost_or_out_of_order() => Gen.Select(Gen.Int[0, 4], Gen.Int[0, 4], Gen.Bool).Sample(
        (from, to, two) =>
        {
            // After some fifty moves to one place no number is left between two neighbours, and all are numbered anew.
            var scene = Some.Scene([.. Enumerable.Range(0, 6).Select(i => Some.Box($"n{i}", null, rank: i))]);
            for (var i = 0; i < 150; i++)
            {
                var expected = scene.Children(null).ToList();
                List<string> moved = two ? [expected[from], expected[from + 1]] : [expected[from]];
                expected.RemoveAll(moved.Contains);
                expected.InsertRange(Math.Min(to, expected.Count), moved);
                var draft = new SceneDraft(scene);
                new PutUnder(moved, null, to).ApplyTo(draft);
                Assert.Equal(expected, draft.Children(null));
                scene.Apply(draft.ToChange());
                Assert.Equal(expected, scene.Children(null));
                CheckTree(scene);
            }
        },
        iter: 40);

    [Fact]
    public void The_evaluator_follows_every_change_of_the_tree() => Gen.Select(Scenes, Edits.Array[20]).Sample(
        (scene, edits) =>
        {
            using var evaluator = new Evaluator(scene);
            var done = new Stack<Change>();
            foreach (var edit in edits)
            {
                if (TryKeep(scene, edit) is { } change)
                {
                    evaluator.Follow(scene, change);
                    done.Push(change);
                    CheckWorlds(scene, evaluator);
                }
            }

            while (done.TryPop(out var change))
            {
                scene.Apply(change.Reversed());
                evaluator.Follow(scene, change.Reversed());
            }

            CheckWorlds(scene, evaluator);
            evaluator.Sweep();
            CheckWorlds(scene, evaluator);
        },
        iter: 150);

    private static void CheckWorlds(SceneDocument scene, Evaluator evaluator) =>
        Assert.All(scene.Nodes, node => Some.Near(scene.World(node.Id), evaluator.World(node.Id), 1e-9));

    private static void CheckTree(SceneDocument scene)
    {
        var reached = new HashSet<string>();
        foreach (var node in scene.Branch(null))
        {
            Assert.True(reached.Add(node.Id), $"{node.Id} is met twice");
            Assert.True(node.Parent is null || reached.Contains(node.Parent), $"{node.Id} comes before its parent");
        }

        Assert.Equal(scene.Count, reached.Count);
        foreach (var parent in scene.Nodes.Select(n => n.Parent).Distinct())
        {
            var ranks = scene.Children(parent).Select(id => scene.Find(id)!.Rank).ToList();
            Assert.Equal(ranks.Order(), ranks);
            Assert.All(ranks, rank => Assert.True(double.IsFinite(rank)));
        }
    }

    private static Change? TryKeep(SceneDocument scene, Edit edit)
    {
        try
        {
            var change = scene.Keep(edit);
            Tally.Done();
            return change;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.Contains(refusal.Word, new[] { Refusals.NotFound, Refusals.WouldLoop, Refusals.NotUnderstood });
            return null;
        }
    }
}
