using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What is kept of a change is its written parts only, as text; nothing more is needed to follow it, to take it back, or to know it.</summary>
public sealed class LogLaws
{
    private static readonly Gen<(string By, int Act, string Verb, int Seed)> Moments = Gen.Select(
        Some.Of("ada", "ben", "cleo"), Gen.Int[0, 4], Gen.Int[0, AnyEdit.Verbs.Count - 1].Select(i => AnyEdit.Verbs[i]), Gen.Int[0, 1_000_000]);

    [Fact]
    public void The_log_leads_from_the_start_to_the_end_and_back_to_the_letter() => Gen.Select(Gen.Int[0, 1_000_000], Moments.Array[40]).Sample(
        (room, moments) =>
        {
            var desk = new Desk(AnyEdit.Room(room));
            var (start, log) = (desk.Now, new List<PartChange[]>());
            desk.Applied = change =>
            {
                var kept = WireJson.Read<PartChange[]>(WireJson.Write(PartChange.Of(change)));
                Assert.Equal(Digest.Of(change), Digest.Of(PartChange.Sparse(kept)));
                Assert.Equal(change.All.Select(c => (c.Id, c.Written())), kept.Select(k => (k.Id, k.Parts)));
                log.Add(kept);
            };
            Act(desk, moments);
            var other = AnyEdit.Room(room);
            log.ForEach(written => other.Apply(PartChange.On(other, written)));
            Assert.Equal(desk.Now, Sorted(other));
            log.Reverse();
            log.ForEach(written => other.Apply(PartChange.On(other, written.Reverse().Select(w => w with { Was = w.Is, Is = w.Was }))));
            Assert.Equal(start, Sorted(other));
        },
        iter: 200);

    [Fact]
    public void A_page_that_was_away_catches_up_by_the_log_with_its_own_edits_on_top() => Gen.Select(Gen.Int[0, 1_000_000], Moments.Array[20], Moments.Array[3]).Sample(
        (room, moments, own) =>
        {
            var desk = new Desk(AnyEdit.Room(room));
            using var page = new Replica(AnyEdit.Room(room));
            foreach (var (_, _, verb, seed) in own)
            {
                try
                {
                    page.Keep([AnyEdit.Of(verb, page.Scene, seed)]);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    // Then it has one fewer.
                }
            }

            var revision = page.Scene.Revision;
            desk.Applied = change =>
            {
                page.Hear(++revision, WireJson.Read<PartChange[]>(WireJson.Write(PartChange.Of(change))), null, out _);
                Assert.Equal(revision, page.Scene.Revision);
            };
            Act(desk, moments);
            foreach (var pending in page.Unanswered.Reverse().ToList())
            {
                page.Drop(pending.Ticket, out _);
            }

            Assert.Equal(desk.Now, Sorted(page.Scene));
            using var anew = new Core.Evaluation.Evaluator(page.Scene);
            Assert.All(page.Scene.Nodes, n => Assert.Equal(anew.World(n.Id), page.Evaluator.World(n.Id)));
        },
        iter: 200);

    [Fact]
    public void What_does_not_follow_on_is_refused_and_nothing_is_half_done()
    {
        var scene = Some.Scene(Some.Box("a", null), Some.Box("b", null));
        using var page = new Replica(scene);
        page.Keep([new Rename("a", "Mine")]);
        var before = Sorted(page.Scene);
        Assert.Throws<InvalidOperationException>(() => page.Hear(scene.Revision + 2, [], null, out _));
        Assert.Throws<InvalidOperationException>(() => page.Hear(scene.Revision + 1, [new("gone", Parts.Name, Some.Box("gone", null), Some.Box("gone", null))], null, out _));
        Assert.Equal(before, Sorted(page.Scene));
        Assert.Single(page.Unanswered);
    }

    private static List<Entity> Sorted(SceneDocument scene) => [.. scene.Everything.OrderBy(n => n.Id, StringComparer.Ordinal)];

    private static void Act(Desk desk, IEnumerable<(string By, int Act, string Verb, int Seed)> moments)
    {
        foreach (var (by, act, verb, seed) in moments)
        {
            desk.Tried(act switch
            {
                0 or 1 or 2 => () => desk.Do(by, AnyEdit.Of(verb, desk.Scene, seed)),
                3 => () => desk.Undo(by),
                _ => () => desk.Redo(by),
            });
        }
    }
}
