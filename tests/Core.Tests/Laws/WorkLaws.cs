using System.Text.RegularExpressions;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What makes long calls short computes the same as the long way, and what would still be long is refused with the figure.</summary>
public sealed class WorkLaws
{
    [Fact]
    public void Patterns_fit_what_the_framework_s_own_fit() =>
        Gen.Select(Gen.String[Gen.Char["abAB*?"], 0, 12], Gen.String[Gen.Char["abAB é"], 0, 14], Gen.Int[0, 90]).Sample((pattern, text, more) =>
        {
            // Patterns of more than 64 characters take more than one word.
            (pattern, text) = (new string('a', more) + pattern, new string('A', more) + text);
            if (pattern.Length == 0)
            {
                return;
            }

            var regex = "\\A" + string.Concat(pattern.Select(c => c switch { '*' => ".*", '?' => ".", _ => Regex.Escape(c.ToString()) })) + "\\z";
            var wanted = Regex.IsMatch(text, regex, RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.Singleline | RegexOptions.NonBacktracking);
            Assert.Equal(wanted, new Rule(Name: pattern).Fits(Some.Scene(), Some.Box("it", null) with { Name = text }));
        });

    [Fact]
    public void Things_fall_to_where_they_would_if_each_were_held_against_every_other() =>
        Gen.Select(Gen.Select(Some.Point, Some.Angles, Gen.Double[0.1, 3]).Array[2, 25], Some.Direction).Sample(
            (things, along) =>
            {
                Node Box(int i) => Some.Box($"n{i}", null, Placement.Default with { Position = things[i].Item1 * 3, Rotation = things[i].Item2, Scale = new(things[i].Item3, things[i].Item3, things[i].Item3) }, i);
                var scene = Some.Scene([.. Enumerable.Range(0, things.Length).Select(Box)]);
                var contacts = new Contacts(along);
                var draft = new SceneDraft(scene);
                var shape = Extents.Of(new Box(new(1, 2, 3)));
                contacts.AddFalling(shape, draft.World(draft.Get("n0")));
                foreach (var other in Enumerable.Range(1, things.Length - 1))
                {
                    contacts.AddStill(shape, draft.World(draft.Get($"n{other}")));
                }

                if (contacts.Distance() is not { } way)
                {
                    Assert.Equal(Refusals.NotFound, Assert.Throws<Refusal>(() => scene.Run(new Drop(["n0"], along))).Word);
                    return;
                }

                var from = scene.Find("n0")!.Placement.Position;
                var to = scene.Run(new Drop(["n0"], along)).Nodes.Select(n => n.After!.Placement.Position).DefaultIfEmpty(from).First();
                Some.Near(from + along * way, to, 1e-9);
            },
            iter: 300);

    [Fact]
    public void Things_fall_as_far_whether_triangles_are_looked_up_or_looked_through() =>
        Gen.Select(Gen.Select(Some.Point, Some.Angles, Gen.Double[0.1, 3]).Array[2, 25], Some.Direction).Sample(
            (things, along) =>
            {
                double? Way(bool indexed)
                {
                    var (shape, contacts) = (new Box(new(1, 2, 3)).Tessellate(), new Contacts(along));
                    if (indexed)
                    {
                        Assert.NotNull(shape.Triangles);
                    }

                    Assert.Equal(indexed, shape.IsIndexed);
                    for (var i = 0; i < things.Length; i++)
                    {
                        var (at, turn, size) = things[i];
                        var world = (Placement.Default with { Position = at * 3, Rotation = turn, Scale = new(size, size, size) }).Local();
                        if (i == 0)
                        {
                            contacts.AddFalling(shape, world);
                        }
                        else
                        {
                            contacts.AddStill(shape, world);
                        }
                    }

                    return contacts.Distance();
                }

                var (through, up) = (Way(false), Way(true));
                Assert.Equal(through is null, up is null);
                Assert.Equal(through ?? 0, up ?? 0, tolerance: 1e-9 * (1 + Math.Abs(through ?? 0)));
            },
            iter: 300);

    [Fact]
    public void Seats_are_the_same_however_many_move_to_them() =>
        Gen.Select(Gen.Int[2, 12], Gen.Int[0, 11].Array[1, 6], Gen.Int[-1, 13]).Sample((count, moving, index) =>
        {
            var scene = Some.Scene([.. Enumerable.Range(0, count).Select(i => Some.Box($"n{i}", null, rank: i))]);
            var movers = moving.Where(m => m < count).Distinct().Select(m => $"n{m}").ToList();
            if (movers.Count == 0)
            {
                return;
            }

            scene.Keep(new PutUnder(movers, null, index));
            var rest = Enumerable.Range(0, count).Select(i => $"n{i}").Where(id => !movers.Contains(id)).ToList();
            rest.InsertRange(Math.Clamp(index, 0, rest.Count), movers);
            Assert.Equal(rest, scene.Children(null));
        });

    [Fact]
    public void Groups_are_made_in_the_order_of_the_tree() =>
        Gen.Select(Gen.Int[0, 100_000], Gen.Int[1, 5]).Sample((seed, count) =>
        {
            var (scene, shuffled) = (AnyEdit.Room(seed), new Random(seed));
            var picked = scene.Branch(null).Where(n => n.Kind.IsInTree()).Select(n => n.Id).OrderBy(_ => shuffled.Next()).Take(count).ToList();
            var tops = picked.Where(id => !scene.Ancestors(scene.Find(id)!).Any(a => picked.Contains(a.Id))).ToHashSet();
            var order = scene.Branch(null).Select(n => n.Id).Where(tops.Contains).ToList();
            try
            {
                scene.Keep(new Edits.Group(picked, Id: "group"));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.Contains(refusal.Word, new[] { Refusals.Locked, Refusals.TooThin });
                return;
            }

            Assert.Equal(order, scene.Children("group"));
        });

    [Fact]
    public void A_call_that_would_hold_the_scene_for_long_is_refused_with_the_figure()
    {
        // Each of many edits writes all that share the shape: that counts, and beyond what may be it is refused.
        var scene = Some.Scene([.. Enumerable.Range(0, 15_000).Select(i => Some.Box($"n{i}", null, rank: i) with { Shares = "all" })]);
        var draft = Batch.Draft(scene, [new SetShape("n0", new() { Size = [1, 1, 2] }), new SetShape("n0", new() { Size = [1, 1, 3] })]);
        Assert.InRange(draft.Work, 2 * 15_000, 10 * 15_000);
        var refusal = Assert.Throws<Refusal>(() => draft.Spend(SceneDraft.MostWork));
        Assert.Equal(Refusals.TooLarge, refusal.Word);
        Assert.Contains("10 million", refusal.Message, StringComparison.Ordinal);

        // What artists do with as many at once goes through.
        string[] all = [.. scene.Children(null)];
        scene.Keep(new Move(all, new(0, 1, 0), new WorldSpace()), new Spread(all, SpreadAlong.X, new WorldSpace()), new RenameMany(all, "Stone", From: 1));
        Assert.Equal("Stone 15000", scene.Find("n14999")!.Name);
    }

    [Fact]
    public void From_copy_to_copy_so_many_edits_are_made_and_no_more()
    {
        var scene = Some.Scene(Some.Box("a", null));
        var step = new Move(["a"], new(1, 0, 0), new WorldSpace());
        Assert.Equal(Refusals.TooLarge, scene.Refused(new Duplicate(["a"], 2, [.. Enumerable.Repeat(step, 21)])).Word);
        scene.Keep(new Duplicate(["a"], 2, [.. Enumerable.Repeat(step, 20)], Ids: [["b"], ["c"]]));
        Assert.Equal(new(40, 0, 0), scene.World("c").Offset);
    }
}
