using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>A list of shots brings its own up to date, leaves the others alone, and says beforehand what it will do.</summary>
public sealed class ShotListLaws
{
    private static readonly Gen<NewShot> Listed = Gen.Select(Some.Of("One", "two", " Three ", "Four", "Five"), Some.Of<string?>(null, "010", "020", "x"), Some.Of<int?>(null, 5, 96), Some.Of<string?>(null, "", "slow"))
        .Select((name, number, frames, note) => new NewShot(null, number, name, null, frames, note));

    private static readonly Gen<(SceneDocument Scene, ListShots List)> Any = Gen.Select(Gen.Int[0, 1_000_000], Listed.Array[1, 7], Gen.Int[0, 3]).Select((seed, listed, twice) =>
    {
        var scene = AnyEdit.Room(seed);
        AnyEdit.Shoot(scene, seed);
        for (var i = 0; i < twice; i++)
        {
            // The same name may stand several times.
            scene.Keep(new CopyShot("one", $"copy{i}"), new SetShot($"copy{i}", Name: i == 0 ? "Two" : "One", Index: seed % 3));
        }

        // Where a name stands several times, only numbers tell which is meant.
        bool Once(NewShot l) => listed.Count(o => Same(o.Name, l.Name)) == 1 && scene.AllShots().Count(s => Same(s.Name, l.Name)) < 2;
        return (scene, new ListShots([.. listed.Select((l, i) => l.Number is not null || Once(l) ? l : l with { Number = $"n{i}" })]));
        static bool Same(string? a, string? b) => string.Equals(a?.Trim(), b?.Trim(), StringComparison.OrdinalIgnoreCase);
    });

    [Fact]
    public void Taken_in_twice_it_changes_nothing_the_second_time() => Any.Sample(
        a =>
        {
            a.Scene.Keep(a.List);
            var again = Batch.Run(a.Scene, [a.List]).Change.All;
            Assert.True(!again.Any(), string.Join("; ", a.List.Shots) + " AFTER " + string.Join("; ", a.Scene.AllShots().Select(s => $"{s.Id} {s.Title} {s.Frames} {s.Note}")) + " AGAIN " + string.Join("; ", again));
            Assert.All(a.List.Changes(a.Scene), c => Assert.Empty(c.Changes));
            Assert.False(a.List.IsMoved(a.Scene));
        },
        iter: 200);

    [Fact]
    public void What_it_says_beforehand_is_what_it_does_and_no_other_shot_is_touched() => Any.Sample(
        a =>
        {
            var (said, moved, before) = (a.List.Changes(a.Scene), a.List.IsMoved(a.Scene), a.Scene.AllShots().ToList());
            a.Scene.Keep(a.List);
            var after = a.Scene.AllShots().ToList();
            Assert.Equal(said.Count(c => c.Shot is null), after.Count - before.Count);
            Assert.Equal(moved, !before.Select(s => s.Id).SequenceEqual(after.Select(s => s.Id).Where(id => before.Exists(s => s.Id == id))));
            foreach (var shot in before)
            {
                var now = a.Scene.FindShot(shot.Id)! with { Rank = shot.Rank };
                Assert.Equal(said.Any(c => c.Shot == shot.Id && c.Changes.Count > 0), now != shot);
            }

            // Those of the list follow each other as in the list, all others as they did.
            var listed = said.Select(c => c.Shot).OfType<string>().ToList();
            Assert.Equal(listed, after.Select(s => s.Id).Where(listed.Contains));
            Assert.Equal(before.Select(s => s.Id).Except(listed), after.Select(s => s.Id).Where(id => before.Exists(s => s.Id == id)).Except(listed));
            Assert.Equal(a.List.Shots.Select(s => s.Name!.Trim().ToUpperInvariant()), InOrder(after, said).Select(s => s.Name.ToUpperInvariant()));
        },
        iter: 200);

    /// <summary>The shots of the list as they stand afterwards: those that were there, and those that were made.</summary>
    private static IEnumerable<Shot> InOrder(List<Shot> after, IReadOnlyList<ListedChange> said)
    {
        var there = said.Select(c => c.Shot).OfType<string>().ToHashSet();
        var made = said.Count(c => c.Shot is null);
        var fresh = after.Where(s => s.Id.Length == 32 && !there.Contains(s.Id)).ToList();
        Assert.Equal(made, fresh.Count);
        return after.Where(s => there.Contains(s.Id) || fresh.Contains(s));
    }
}
