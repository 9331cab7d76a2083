using System.Collections.Concurrent;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What holds for every verb: it can be taken back and done again to the letter, by one person and among two.</summary>
public sealed class VerbLaws
{
    private static readonly ConcurrentDictionary<string, int> Done = new();

    private static readonly Gen<(string Verb, int Seed)> AnyVerb = Gen.Select(Gen.Int[0, AnyEdit.Verbs.Count - 1].Select(i => AnyEdit.Verbs[i]), Gen.Int[0, 1_000_000]);

    [Fact]
    public void Every_edit_is_taken_back_and_done_again_to_the_letter()
    {
        Gen.Select(Gen.Int[0, 1_000_000], AnyVerb.Array[12]).Sample(
            (room, verbs) =>
            {
                var desk = new Desk(AnyEdit.Room(room));
                var states = new Stack<List<Entity>>();
                foreach (var (verb, seed) in verbs)
                {
                    var before = desk.Now;
                    if (!desk.Tried(() => desk.Do("ada", AnyEdit.Of(verb, desk.Scene, seed), AnyEdit.ScopeOf(desk.Scene, seed))))
                    {
                        continue;
                    }

                    Done.AddOrUpdate(verb, 1, (_, count) => count + 1);
                    var after = desk.Now;
                    Assert.All(after.OfType<Arranged>(), one => Assert.True(one is Node { Kind: NodeKind.Shape } || one.Switches.Drawn != DrawnAs.Controller, one.Name));
                    desk.Undo("ada");
                    Assert.Equal(before, desk.Now);
                    desk.Redo("ada");
                    Assert.Equal(after, desk.Now);
                    states.Push(before);
                }

                while (states.TryPop(out var state))
                {
                    desk.Undo("ada");
                    Assert.Equal(state, desk.Now);
                }
            },
            iter: 500);
        Assert.DoesNotContain(AnyEdit.Verbs, verb => Done.GetValueOrDefault(verb) < 5);
    }

    [Fact]
    public void What_somebody_else_made_meanwhile_is_not_made_twice()
    {
        var desk = new Desk(Some.Scene(Some.Box("board", null, Placement.Default)));
        Edit copy = new Duplicate(["board"], Ids: [["copy"]]);
        desk.Do("ben", copy);
        desk.Undo("ben");
        desk.Do("ada", copy);
        desk.Undo("ada");
        desk.Redo("ben");
        Assert.False(desk.Tried(() => desk.Redo("ada")));
        desk.Do("ben", new Remove(["copy"]));
        desk.Undo("ben");
        desk.Undo("ben");
        Assert.Null(desk.Scene.Find("copy"));
    }

    [Fact]
    public void Among_two_every_part_is_what_the_last_standing_step_left() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Some.Of("ada", "ben"), Gen.Int[0, 4], AnyVerb).Array[40]).Sample(
            (room, moments) =>
            {
                var desk = new Desk(AnyEdit.Room(room));
                foreach (var (by, act, (verb, seed)) in moments)
                {
                    desk.Tried(act switch
                    {
                        0 or 1 => () => desk.Do(by, AnyEdit.Of(verb, desk.Scene, seed), AnyEdit.ScopeOf(desk.Scene, seed)),
                        2 or 3 => () => desk.Undo(by),
                        _ => () => desk.Redo(by),
                    });
                    foreach (var (expected, now) in desk.Expected().Zip(desk.Now.ConvertAll(desk.Belonging)))
                    {
                        Assert.True(expected == now, $"{expected.Id}: {new EntityChange(now.Id, expected, now).Written()}\n{string.Join("\n", desk.History.Steps.Select(s => $"{s.Number} {s.By} {s.Sentence} {(s.Undone ? "undone" : "")} {string.Join(" ", s.Writes.Where(w => w.Node == now.Id).Select(w => w.Fields))}"))}");
                    }

                    Assert.Equal(desk.Expected(), desk.Now.ConvertAll(desk.Belonging));
                    Assert.All(desk.Now.OfType<Arranged>(), n => Assert.True(n.Parent is null || desk.Scene.FindAny(n.Parent) is not null));
                }
            },
            iter: 400);
}
