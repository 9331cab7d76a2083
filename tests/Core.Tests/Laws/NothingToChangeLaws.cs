using CalmPivot.Core.Edits;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>An edit that asks for what is so already changes nothing at all, so that it makes no step.</summary>
public sealed class NothingToChangeLaws
{
    /// <summary>Verbs that say how something is to be; what they say twice is so already. (Others go on from where things are.)</summary>
    private static readonly string[] Absolute =
        ["rename", "place", "see", "lock", "setNormals", "setOrder", "setTakes", "setRule", "label", "draw", "collect", "assign", "setTiming", "setSurroundings", "setShot", "seeIn", "setCamera", "setShape", "dropShear"];

    [Fact]
    public void What_is_asked_twice_is_so_already() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000], Gen.Int[0, Absolute.Length - 1]).Sample(
        (room, seed, verb) =>
        {
            var scene = AnyEdit.Room(room);
            Edit edit;
            try
            {
                edit = AnyEdit.Of(Absolute[verb], scene, seed);
                edit = edit switch
                {
                    SetSurroundings set => set with { Mode = Core.Amounts.AmountMode.Set },
                    SetCamera set => set with { Mode = Core.Amounts.AmountMode.Set },
                    _ => edit,
                };
                scene.Keep(edit);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                return;
            }

            Assert.Equal([], Batch.Run(scene, [edit]).Change.All.Select(one => $"{Absolute[verb]} {one.Id} {one.Written()}"));
        },
        iter: 2000);
}
