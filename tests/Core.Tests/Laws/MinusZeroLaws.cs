using System.Text.RegularExpressions;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>
/// No stored number is minus zero. It is the same number as zero, so that what only differs by it counts as not written; two copies that came to it in different
/// ways would then say different things, and compute different ones from them: half a turn this way or that.
/// </summary>
public sealed partial class MinusZeroLaws
{
    [Fact]
    public void No_edit_leaves_minus_zero_whatever_it_was_asked()
    {
        Gen.Select(Gen.Int, Gen.Int).Sample((seed, which) =>
        {
            var scene = AnyEdit.Room(seed);
            var random = new Random(which);
            for (var i = 0; i < 40; i++)
            {
                var (verb, at) = (AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], random.Next());
                try
                {
                    // As the API reads it, with every nought that it has turned to minus nought.
                    var text = Nought().Replace(WireJson.Write<Edit[]>([AnyEdit.Of(verb, scene, at)]), "-0");
                    scene.Apply(Batch.Run(scene, WireJson.Read<Edit[]>(text), AnyEdit.ScopeOf(scene, at)).Change);
                }
                catch (Exception e) when (e is Refusal or KeyNotFoundException)
                {
                    continue;
                }

                Assert.All(scene.Everything, entity => Assert.DoesNotMatch(MinusNought(), WireJson.Write(new EntityData(entity)) is var said ? $"{verb}: {said}" : ""));
            }
        }, iter: 50);
    }

    [Fact]
    public void A_copy_that_follows_by_the_parts_that_were_written_says_the_same_to_the_letter()
    {
        Gen.Select(Gen.Int, Gen.Int).Sample((seed, which) =>
        {
            var (scene, copy) = (AnyEdit.Room(seed), AnyEdit.Room(seed));
            var random = new Random(which);
            for (var i = 0; i < 60; i++)
            {
                var at = random.Next();
                try
                {
                    var change = Batch.Run(scene, [AnyEdit.Of(AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], scene, at)], AnyEdit.ScopeOf(scene, at)).Change;
                    scene.Apply(change);
                    copy.Apply(PartChange.On(copy, WireJson.Read<PartChange[]>(WireJson.Write(PartChange.Of(change)))));
                }
                catch (Exception e) when (e is Refusal or KeyNotFoundException)
                {
                }
            }

            Assert.Equal(Lines(scene), Lines(copy));
        }, iter: 40);
    }

    private static List<string> Lines(SceneDocument scene) => [.. scene.Everything.OrderBy(e => e.Id, StringComparer.Ordinal).Select(e => WireJson.Write(new EntityData(e)))];

    [GeneratedRegex(@"(?<=[\[,:])0(?:\.0)?(?=[\],}])")]
    private static partial Regex Nought();

    [GeneratedRegex(@"(?<=[\[,:])-0(?:\.0)?(?=[\],}])")]
    private static partial Regex MinusNought();
}
