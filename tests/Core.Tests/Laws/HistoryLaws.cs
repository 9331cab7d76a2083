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
            var desk = Four();
            foreach (var edit in edits)
            {
                desk.Tried(() => desk.Do("ada", edit));
            }

            var (count, end) = (desk.History.Steps.Count, desk.Now);
            for (var i = 0; i < count; i++)
            {
                Assert.True(desk.Tried(() => desk.Undo("ada")));
            }

            Assert.Equal(Four().Now, desk.Now);
            Assert.False(desk.Tried(() => desk.Undo("ada")));
            for (var i = 0; i < count; i++)
            {
                Assert.True(desk.Tried(() => desk.Redo("ada")));
            }

            Assert.Equal(end, desk.Now);
            Assert.False(desk.Tried(() => desk.Redo("ada")));
        },
        iter: 300);

    [Fact]
    public void Together_no_undo_ever_breaks_the_tree_and_a_refused_one_changes_nothing() => Moments.Array[40].Sample(
        moments =>
        {
            var desk = Four();
            foreach (var (by, act, edit) in moments)
            {
                desk.Tried(act switch
                {
                    0 or 1 => () => desk.Do(by, edit),
                    2 => () => desk.Undo(by),
                    _ => () => desk.Redo(by),
                });

                Assert.Equal(desk.Scene.Count, desk.Scene.Branch(null).Count());
                Assert.All(desk.Scene.Nodes, n => Assert.True(n.Parent is null || desk.Scene.Find(n.Parent) is not null));
            }
        },
        iter: 400);

    [Fact]
    public void An_undo_and_a_redo_with_nothing_between_change_nothing() => Moments.Array[20].Sample(moments =>
    {
        var desk = Four();
        foreach (var (by, _, edit) in moments)
        {
            desk.Tried(() => desk.Do(by, edit));
        }

        var before = desk.Now;
        foreach (var by in new[] { "ada", "ben" })
        {
            if (desk.Tried(() => desk.Undo(by)))
            {
                Assert.True(desk.Tried(() => desk.Redo(by)));
                Assert.Equal(before, desk.Now);
            }
        }
    });

    private static Desk Four() => new(Some.Scene([.. Ids.Select((id, i) => Some.Box(id, null, rank: i))]));
}
