using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What names what is known at every moment, in the document and in drafts, whatever is edited, undone and done again.</summary>
public sealed class ReferenceLaws
{
    [Fact]
    public void Who_names_something_is_known_after_any_edits() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Gen.Int[0, 3], Gen.Int[0, AnyEdit.Verbs.Count - 1], Gen.Int[0, 1_000_000]).Array[12]).Sample(
            (room, moments) =>
            {
                var desk = new Desk(AnyEdit.Room(room));
                var draft = new SceneDraft(new SceneDocument("s", "S", "m", 1, [.. desk.Scene.Everything], desk.Scene.Geometries));
                foreach (var (act, verb, seed) in moments)
                {
                    var edit = AnyEdit.Of(AnyEdit.Verbs[verb], desk.Scene, seed);
                    desk.Tried(act switch { 0 => () => desk.Undo("ada"), 1 => () => desk.Redo("ada"), _ => () => desk.Do("ada", edit) });
                    Knows(desk.Scene);
                    try
                    {
                        AnyEdit.Of(AnyEdit.Verbs[verb], draft, seed).ApplyTo(draft);
                        Tally.Done();
                    }
                    catch (Refusal refusal)
                    {
                        Tally.Refused(refusal);
                        // What of it was written is known all the same.
                    }

                    Knows(draft);
                }
            },
            iter: 150);

    [Fact]
    public void Nothing_is_left_naming_what_is_gone_but_a_rule_which_says_so() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Select(Gen.Int[0, AnyEdit.Verbs.Count - 1], Gen.Int[0, 1_000_000]).Array[15]).Sample(
            (room, edits) =>
            {
                var desk = new Desk(AnyEdit.Room(room));
                foreach (var (verb, seed) in edits)
                {
                    desk.Tried(() => desk.Do("ada", AnyEdit.Of(AnyEdit.Verbs[verb], desk.Scene, seed), AnyEdit.ScopeOf(desk.Scene, seed)));
                    foreach (var entity in desk.Scene.Everything)
                    {
                        var gone = entity.Names().Where(id => !id.StartsWith('\u0002') && desk.Scene.FindAny(id) is null).ToList();
                        if (gone.Count > 0 && entity is not Shot)
                        {
                            var rule = Assert.IsType<Collection>(entity).Rule!;
                            Assert.Equal([rule.Under!], gone);
                            Assert.Contains("gone", new Words.Speaker(desk.Scene).RuleInWords(rule), StringComparison.Ordinal);
                        }
                    }
                }
            },
            iter: 100);

    [Fact]
    public void Leading_references_on_leads_all_and_leaves_all_else() => Gen.Int[0, 1_000_000].Sample(seed =>
    {
        foreach (var node in AnyEdit.Room(seed).Nodes)
        {
            Assert.Equal(node, NodeReferences.Led(node, (_, id) => id));
            var led = NodeReferences.Led(node, (_, id) => id + "'");
            Assert.Equal(NodeReferences.All.SelectMany(r => r.Of(node)).Select(id => id + "'"), NodeReferences.All.SelectMany(r => r.Of(led)));
            var none = NodeReferences.Led(node, (_, _) => null);
            Assert.Empty(NodeReferences.All.SelectMany(r => r.Of(none)));
            Assert.Equal(Parts.None, new NodeChange(node.Id, node, led).Written() & ~(Parts.Seat | Parts.Collections | Parts.Shape | Parts.Constraints | Parts.Material));
        }
    });

    private static void Knows(IScene scene)
    {
        List<Entity> all = [.. scene.All(), .. scene.BesideNodes()];
        foreach (var id in all.SelectMany(n => n.Names()).Concat(all.Select(n => n.Id)).Distinct())
        {
            var expected = all.Where(n => n.Names().Contains(id) && !(n is Node { Kind: not NodeKind.Mark } node && node.Parent == id && !node.Collections.Contains(id) && !node.Constraints.Any(c => c.Names.Contains(id)) && node.Camera?.FocusOn != id)).Select(n => n.Id);
            Assert.Equal(expected.Order(StringComparer.Ordinal), scene.Referrers(id).Order(StringComparer.Ordinal));
        }
    }
}
