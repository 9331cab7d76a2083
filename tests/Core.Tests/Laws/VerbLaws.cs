using System.Collections.Concurrent;
using CalmPivot.Core.Edits;
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
                var desk = new Desk(room);
                var states = new Stack<List<Node>>();
                foreach (var (verb, seed) in verbs)
                {
                    var before = desk.Now;
                    if (!desk.Do("ada", verb, seed))
                    {
                        Assert.Equal(before, desk.Now);
                        continue;
                    }

                    Done.AddOrUpdate(verb, 1, (_, count) => count + 1);
                    var after = desk.Now;
                    Assert.True(desk.Undo("ada"));
                    Assert.Equal(before, desk.Now);
                    Assert.True(desk.Redo("ada"));
                    Assert.Equal(after, desk.Now);
                    states.Push(before);
                }

                while (states.TryPop(out var state))
                {
                    Assert.True(desk.Undo("ada"));
                    Assert.Equal(state, desk.Now);
                }
            },
            iter: 500);
        Assert.DoesNotContain(AnyEdit.Verbs, verb => Done.GetValueOrDefault(verb) < 5);
    }

    [Fact]
    public void Among_two_every_part_is_what_the_last_standing_step_left() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Some.Of("ada", "ben"), Gen.Int[0, 4], AnyVerb).Array[40]).Sample(
            (room, moments) =>
            {
                var desk = new Desk(room);
                foreach (var (by, act, (verb, seed)) in moments)
                {
                    var before = desk.Now;
                    var done = act switch
                    {
                        0 or 1 => desk.Do(by, verb, seed),
                        2 or 3 => desk.Undo(by),
                        _ => desk.Redo(by),
                    };
                    if (!done)
                    {
                        Assert.Equal(before, desk.Now);
                    }

                    foreach (var (expected, now) in desk.Expected().Zip(desk.Now.ConvertAll(desk.Belonging)))
                    {
                        Assert.True(expected == now, $"{expected.Id}: {new NodeChange(now.Id, expected, now).Written()}\n{string.Join("\n", desk.History.Steps.Select(s => $"{s.Number} {s.By} {s.Sentence} {(s.Undone ? "undone" : "")} {string.Join(" ", s.Writes.Where(w => w.Node == now.Id).Select(w => w.Fields))}"))}");
                    }

                    Assert.Equal(desk.Expected(), desk.Now.ConvertAll(desk.Belonging));
                    Assert.All(desk.Now, n => Assert.True(n.Parent is null || desk.Scene.Find(n.Parent) is not null));
                }
            },
            iter: 400);

    /// <summary>A scene with its history, as the server keeps them.</summary>
    private sealed class Desk(int room)
    {
        private readonly Dictionary<long, Change> _changes = [];
        private readonly List<Node> _start = [.. AnyEdit.Room(room).Nodes];

        public SceneDocument Scene { get; } = AnyEdit.Room(room);

        public SceneHistory History { get; } = new([]);

        public List<Node> Now => [.. Scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal)];

        public bool Do(string by, string verb, int seed) => Tried(() =>
        {
            var (change, sentence) = Batch.Run(Scene, [AnyEdit.Of(verb, Scene, seed)]);
            var step = new Step(History.NextNumber, sentence, by, DateTimeOffset.UnixEpoch, Step.WritesOf(change));
            _changes[step.Number] = change;
            History.Add(step);
            Scene.Apply(change);
        });

        public bool Undo(string by) => Tried(() =>
        {
            var step = History.ToUndo(by, id => id);
            Scene.Apply(History.Undoing(Scene, step, number => _changes[number]));
            History.Mark(step.Number, undone: true);
        });

        public bool Redo(string by) => Tried(() =>
        {
            var step = History.ToRedo(by, id => id);
            Scene.Apply(SceneHistory.Restoring(Scene, _changes[step.Number]));
            History.Mark(step.Number, undone: false);
        });

        /// <summary>The scene as its standing steps leave it, one after the other, each in the parts that it wrote.</summary>
        public List<Node> Expected()
        {
            var nodes = _start.ToDictionary(n => n.Id);
            foreach (var change in History.Steps.Where(s => s.Standing).SelectMany(s => _changes[s.Number].Nodes))
            {
                var (id, before, after) = change;
                if (after is null)
                {
                    nodes.Remove(id);
                }
                else if (before is null)
                {
                    nodes[id] = after;
                }
                else if (nodes.TryGetValue(id, out var present))
                {
                    nodes[id] = present.Taking(change.Written(), after);
                }
            }

            return [.. nodes.Values.OrderBy(n => n.Id, StringComparer.Ordinal).Select(Belonging)];
        }

        /// <summary>Without memberships in collections that are gone: these go with them.</summary>
        public Node Belonging(Node node) =>
            node with { Collections = node.Collections.RemoveAll(c => Scene.Find(c) is null) };

        private static bool Tried(Action act)
        {
            try
            {
                act();
                return true;
            }
            catch (Refusal refusal)
            {
                Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
                return false;
            }
        }
    }
}
