using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Undo and redo of several people, whatever they do in whatever order.</summary>
public sealed class HistoryLaws
{
    private static readonly string[] Ids = ["a", "b", "c", "d"];

    private static readonly Gen<Edit> Edits = Gen.Select(
        Gen.Int[0, 5],
        Some.Of(Ids),
        Some.Of(Ids),
        Some.Point,
        Edit (kind, node, other, by) => kind switch
        {
            0 => new Move([node], by, new ParentSpace()),
            1 => new Rename(node, $"{other} {by.X:F1}"),
            2 => new PutUnder([node], other),
            3 => new Remove([node]),
            4 => new See([node], Working: by.X > 0),
            _ => new MovePivot([node], new(Own: by)),
        });

    private static readonly Gen<(string By, int Act, Edit Edit)> Moments = Gen.Select(Some.Of("ada", "ben"), Gen.Int[0, 3], Edits);

    [Fact]
    public void Alone_everything_can_be_taken_back_and_done_again_to_the_bit() => Edits.Array[15].Sample(
        edits =>
        {
            var desk = new Desk();
            foreach (var edit in edits)
            {
                desk.Do("ada", edit);
            }

            var (count, end) = (desk.History.Steps.Count, desk.Now);
            for (var i = 0; i < count; i++)
            {
                Assert.True(desk.Undo("ada"));
            }

            Assert.Equal(new Desk().Now, desk.Now);
            Assert.False(desk.Undo("ada"));
            for (var i = 0; i < count; i++)
            {
                Assert.True(desk.Redo("ada"));
            }

            Assert.Equal(end, desk.Now);
            Assert.False(desk.Redo("ada"));
        },
        iter: 300);

    [Fact]
    public void Together_no_undo_ever_breaks_the_tree_and_a_refused_one_changes_nothing() => Moments.Array[40].Sample(
        moments =>
        {
            var desk = new Desk();
            foreach (var (by, act, edit) in moments)
            {
                var before = desk.Now;
                var done = act switch
                {
                    0 or 1 => desk.Do(by, edit),
                    2 => desk.Undo(by),
                    _ => desk.Redo(by),
                };
                if (!done)
                {
                    Assert.Equal(before, desk.Now);
                }

                Assert.Equal(desk.Scene.Count, desk.Scene.Branch(null).Count());
                Assert.All(desk.Scene.Nodes, n => Assert.True(n.Parent is null || desk.Scene.Find(n.Parent) is not null));
            }
        },
        iter: 400);

    [Fact]
    public void An_undo_and_a_redo_with_nothing_between_change_nothing() => Moments.Array[20].Sample(moments =>
    {
        var desk = new Desk();
        foreach (var (by, _, edit) in moments)
        {
            desk.Do(by, edit);
        }

        var before = desk.Now;
        foreach (var by in new[] { "ada", "ben" })
        {
            if (desk.Undo(by))
            {
                Assert.True(desk.Redo(by));
                Assert.Equal(before, desk.Now);
            }
        }
    });

    /// <summary>A scene with its history, as the server keeps them.</summary>
    private sealed class Desk
    {
        private readonly Dictionary<long, Change> _changes = [];

        public SceneDocument Scene { get; } = Some.Scene([.. Ids.Select((id, i) => Some.Box(id, null, rank: i))]);

        public SceneHistory History { get; } = new([]);

        public List<Node> Now => [.. Scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal)];

        public bool Do(string by, Edit edit) => Tried(() =>
        {
            var (change, sentence) = Batch.Run(Scene, [edit]);
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
