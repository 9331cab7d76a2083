using System.Globalization;
using System.Text.RegularExpressions;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What the line of the history counts is what an edit changed: whoever kept its own, or was held, is said by itself.</summary>
public sealed class CountingLaws
{
    /// <summary>Five things of which some stand elsewhere in a shot, and some are held where they are.</summary>
    private static readonly Gen<(SceneDocument Scene, bool[] Own, bool[] Held)> Some5 = Gen.Select(Gen.Bool.Array[5], Gen.Bool.Array[5]).Select((own, held) =>
    {
        var scene = Some.Scene([.. Enumerable.Range(0, 5).Select(i => Some.Box($"n{i}", null, Placement.Default with { Position = new(i, 0, 0) }, i))]);
        scene.Keep(new MakeShot(new("one", "010", "One")));
        for (var i = 0; i < 5; i++)
        {
            if (own[i])
            {
                scene.Apply(Batch.Run(scene, [new Move([$"n{i}"], new(0, 1, 0), new WorldSpace())], new("one", Narrow: true)).Change);
            }
            else if (held[i])
            {
                scene.Keep(new Constrain([$"n{i}"], new() { Kind = "limit", Of = "position", Low = [null, -1, null], High = [null, 0, null] }));
            }
        }

        return (scene, own, held);
    });

    [Fact]
    public void A_move_counts_who_moved_and_names_who_did_not() => Gen.Select(Some5, Gen.Bool).Sample((some, inShot) =>
    {
        var (scene, own, held) = (some.Scene, some.Own.ToArray(), some.Held.ToArray());
        string[] ids = [.. Enumerable.Range(0, 5).Select(i => $"n{i}")];
        Affine[] Worlds() => [.. ids.Select(id => new SceneDraft(inShot ? new ShotScene(scene, "one") : scene) is var draft ? draft.World(draft.Get(id)) : default)];
        var before = Worlds();
        string sentence;
        try
        {
            (var change, sentence) = Batch.Run(scene, [new Move(ids, new(0, 3, 0), new WorldSpace())], inShot ? new("one") : null);
            scene.Apply(change);
        }
        catch (Refusal refusal)
        {
            // All of them have of their own what would be written.
            Tally.Refused(refusal);
            Assert.True(inShot && own.All(o => o));
            return;
        }

        Tally.Done();
        var moved = ids.Where((_, i) => Worlds()[i] != before[i]).ToList();
        var kept = inShot ? ids.Where((_, i) => own[i]).ToList() : [];
        var stayed = ids.Except(moved).Except(kept).ToList();
        Assert.True(ids.Where((_, i) => held[i] && !own[i]).SequenceEqual(stayed), $"{string.Join(",", stayed)} {string.Join(",", held)} {string.Join(",", own)} {inShot}: {sentence}");
        Assert.Equal(moved.Count, moved.Count == 0 ? 0 : Counted(sentence, "^Moved (\\d+ objects|n\\d) "));
        Assert.Equal(moved.Count == 0 ? 0 : kept.Count, Counted(sentence, "; (\\d+ objects|n\\d) kept (its|their) own in 010 One"));
        Assert.Equal(moved.Count == 0 ? 0 : stayed.Count, Counted(sentence, "(\\d+ objects|n\\d) stayed"));
    });

    private static int Counted(string sentence, string pattern) =>
        Regex.Match(sentence, pattern) is { Success: true } match ? match.Groups[1].Value is ['n', ..] ? 1 : int.Parse(match.Groups[1].Value.Split(' ')[0], CultureInfo.InvariantCulture) : 0;
}
