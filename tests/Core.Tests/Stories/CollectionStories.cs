using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Scaffold and set dressing: what is seen, what is locked, and why.</summary>
public sealed class CollectionStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("tower", null, rank: 1),
        Some.Box("plank", "tower", rank: 1),
        Some.Box("rod 1", null, rank: 2),
        Some.Box("rod 2", null, rank: 3));

    public CollectionStories() => _scene.Keep(
        new Gather("Building", "building", Color: "#3C7A8C"),
        new Gather("Scaffold", "scaffold", "building", Nodes: ["tower", "rod 1"]),
        new Gather("Rods", "rods", Rule: new(Name: "ROD*")));

    [Fact]
    public void A_node_is_seen_when_one_of_its_collections_is_on()
    {
        Assert.True(IsSeen("rod 1"));
        _scene.Keep(new See(["scaffold"], Working: false));
        Assert.True(IsSeen("rod 1"));
        Assert.False(IsSeen("tower"));
        Assert.False(IsSeen("plank"));
        _scene.Keep(new See(["rods"], Working: false));
        Assert.False(IsSeen("rod 1"));
        Assert.False(IsSeen("rod 2"));
        _scene.Keep(new See(["scaffold"], Working: true));
        Assert.True(IsSeen("rod 1"));
        _scene.Keep(new See(["building"], Working: false));
        Assert.False(IsSeen("rod 1"));
    }

    [Fact]
    public void Who_goes_out_of_sight_or_comes_back_is_said_beforehand()
    {
        var into = new Collect(["rod 2", "tower"], "scaffold");
        Assert.Null(into.Foretell(_scene));
        _scene.Keep(new See(["building"], Working: false));
        Assert.Null(into.Foretell(_scene));
        _scene.Keep(new Create(new() { Id = "ball", Name = "Ball", Kind = NodeKind.Shape }));
        Assert.Equal("Ball goes out of sight in the working view.", new Collect(["ball", "tower"], "scaffold").Foretell(_scene));
        Assert.Equal("tower comes back in sight in the working view.", new Collect(["tower", "ball"], "scaffold", false).Foretell(_scene));
        Assert.Null(new Collect(["ball"], "gone").Foretell(_scene));
        Assert.Null(new Collect(["rods"], "scaffold").Foretell(_scene));
    }

    [Fact]
    public void Members_and_what_they_carry_have_the_first_colour_of_their_collections()
    {
        using var evaluator = new Evaluator(_scene);
        var sight = new Sight(_scene, evaluator);
        string? ColorOf(string id)
        {
            var (palette, of) = sight.Colors();
            return of[evaluator.SlotOf(id)] is >= 0 and var at ? palette[at] : null;
        }

        // “Scaffold” has none of its own and lies in “Building”; “Rods” has none at all.
        Assert.Equal("#3C7A8C", ColorOf("tower"));
        Assert.Equal("#3C7A8C", ColorOf("plank"));
        Assert.Equal("#3C7A8C", ColorOf("rod 1"));
        Assert.Null(ColorOf("rod 2"));

        Follow(new SetLabel(["rods"], Color: "#A8576B"));
        Assert.Equal("#3C7A8C", ColorOf("rod 1"));
        Assert.Equal("#A8576B", ColorOf("rod 2"));
        Follow(new SetLabel(["scaffold"], Color: "#5F8A57"), new Collect(["plank"], "rods"));
        Assert.Equal("#5F8A57", ColorOf("tower"));
        Assert.Equal("#A8576B", ColorOf("plank"));
        Follow(new Remove(["scaffold"]), new PutUnder(["rod 2"], "plank"));
        Assert.Null(ColorOf("tower"));
        Assert.Equal("#A8576B", ColorOf("rod 2"));

        void Follow(params Edit[] edits)
        {
            var change = _scene.Keep(edits);
            evaluator.Follow(_scene, change);
            sight.Follow(_scene, change);
        }
    }

    [Fact]
    public void The_reasons_name_link_by_link_the_switch_that_would_show_it()
    {
        _scene.Keep(new See(["building"], Working: false), new See(["plank"], Working: false));
        var seen = Seen.Of(_scene, _scene.Find("plank")!);
        Assert.False(seen.Working);
        Assert.True(seen.Final);
        Assert.Equal(
            [
                new Reason("hidden in the working view: it is switched off", false, "plank", "plank"),
                new Reason("hidden in the working view: “tower”, which carries it, is in “Scaffold” only, and “Building” around it is off", false, "tower", "building"),
            ],
            seen.Reasons);

        // Each named switch thrown, it is seen.
        _scene.Keep(new See([.. seen.Reasons.Select(r => r.Switch)], Working: true));
        Assert.True(IsSeen("plank"));
    }

    [Fact]
    public void All_collections_are_named_when_all_are_off()
    {
        _scene.Keep(new See(["scaffold", "rods"], Final: false));
        var reason = Assert.Single(Seen.Of(_scene, _scene.Find("rod 1")!).Reasons);
        Assert.Equal("hidden in the final picture: it is in “Scaffold” and “Rods” only, and all of them are off", reason.Text);
        Assert.True(reason.Final);
    }

    [Fact]
    public void A_locked_collection_locks_its_members_and_what_they_carry()
    {
        _scene.Keep(new LockNodes(["building"], true));
        foreach (Edit edit in new Edit[] { new Move(["plank"], Vec3.One, new WorldSpace()), new Rename("tower", "x"), new Remove(["rod 1"]), new Place("plank", new()) })
        {
            var refusal = _scene.Refused(edit);
            Assert.Equal(Refusals.Locked, refusal.Word);
            Assert.Contains("by the collection “Building”", refusal.Message, StringComparison.Ordinal);
        }

        _scene.Keep(new Move(["rod 2"], Vec3.One, new WorldSpace()));
    }

    [Fact]
    public void A_rule_stays_up_to_date()
    {
        string[] Members() => [.. Membership.MembersOf(_scene, _scene.FindCollection("rods")!).Select(n => n.Id)];
        Assert.Equal(["rod 1", "rod 2"], Members());
        _scene.Keep(new Rename("rod 2", "Pole"), new Rename("plank", "rod of the tower"));
        Assert.Equal(["plank", "rod 1"], Members());
        _scene.Keep(new SetRule("rods", new(Under: "tower")));
        Assert.Equal(["plank"], Members());
        _scene.Keep(new SetRule("rods", new(Kind: NodeKind.Camera)));
        Assert.Empty(Members());
        _scene.Keep(new MakeMaterial("stone", "Stone", MaterialChoice.Of(new("#CFC8BB")), Nodes: ["tower"]));
        _scene.Keep(new SetRule("rods", new(Material: "#cfc8bb", Name: "t*e?")));
        Assert.Equal("stone", Assert.Single(_scene.FindCollection("rods")!.Rule!.Materials!.Value));
        Assert.Equal(["tower"], Members());
        _scene.Keep(new SetRule("rods"));
        Assert.Empty(Members());
    }

    [Theory]
    [InlineData("Rod 12", "rod*", true)]
    [InlineData("Rod 12", "*1?", true)]
    [InlineData("Rod 12", "Rod", false)]
    [InlineData("aaab", "*a*b", true)]
    [InlineData("aaab", "*a*bc", false)]
    [InlineData("", "*", true)]
    [InlineData("x", "", false)]
    public void Patterns_know_stars_and_question_marks(string name, string pattern, bool fits) =>
        Assert.Equal(fits, new Rule(Name: pattern).Fits(Some.Scene(), Some.Box("it", null) with { Name = name }));

    [Fact]
    public void Collections_lie_in_each_other_and_never_in_themselves()
    {
        _scene.Keep(new PutUnder(["rods"], "scaffold"));
        Assert.Equal(["rods"], _scene.Children("scaffold"));
        var loop = _scene.Refused(new PutUnder(["building"], "rods"));
        Assert.Equal(Refusals.WouldLoop, loop.Word);
        Assert.Contains("“Rods” lies in “Building”", loop.Message, StringComparison.Ordinal);
        Assert.Equal(Refusals.WouldLoop, _scene.Refused(new PutUnder(["rods"], "rods")).Word);
        Assert.Contains("is an object", _scene.Refused(new PutUnder(["rods"], "tower")).Message, StringComparison.Ordinal);
        Assert.Contains("carries nothing", _scene.Refused(new PutUnder(["tower"], "rods")).Message, StringComparison.Ordinal);
        Assert.Contains("together", _scene.Refused(new PutUnder(["tower", "rods"])).Message, StringComparison.Ordinal);
        _scene.Keep(new PutUnder(["rods"], null, 0));
        Assert.Equal(["rods", "building"], _scene.Collections);
    }

    [Fact]
    public void A_collection_has_no_place_and_carries_nothing()
    {
        foreach (Edit edit in new Edit[] { new Move(["rods"], Vec3.One, new WorldSpace()), new Place("rods", new()), new Duplicate(["rods"]), new Create(new() { Name = "x", Kind = NodeKind.Group }, "rods") })
        {
            Assert.Contains("ollection", _scene.Refused(edit).Message, StringComparison.Ordinal);
        }

        Assert.Contains("itself", _scene.Refused(new Collect(["rods"], "scaffold")).Message, StringComparison.Ordinal);
        Assert.Equal(Refusals.NotFound, _scene.Refused(new Collect(["tower"], "plank")).Word);
    }

    [Fact]
    public void Membership_is_put_in_taken_out_and_kept_by_the_rule()
    {
        _scene.Keep(new Collect(["plank", "rod 2"], "scaffold"));
        Assert.Equal("scaffold", Assert.Single(_scene.Find("plank")!.Collections));
        _scene.Keep(new Collect(["plank", "tower"], "scaffold", Member: false));
        Assert.Empty(_scene.Find("plank")!.Collections);
        Assert.Contains("by its rule", _scene.Refused(new Collect(["rod 2"], "rods", Member: false)).Message, StringComparison.Ordinal);
        Assert.Empty(_scene.Run(new Collect(["plank"], "scaffold", Member: false)).Nodes);
    }

    [Fact]
    public void A_removed_collection_lets_its_members_go_and_comes_back_with_them()
    {
        var before = _scene.Nodes.OrderBy(n => n.Id).ToList();
        var change = _scene.Keep(new Remove(["building"]));
        Assert.Null(_scene.Find("scaffold"));
        Assert.Empty(_scene.Find("tower")!.Collections);
        _scene.Apply(SceneHistory.Restoring(_scene, change.Reversed()));
        Assert.Equal(before, _scene.Nodes.OrderBy(n => n.Id));
    }

    [Fact]
    public void The_making_of_a_collection_cannot_be_undone_under_its_later_members()
    {
        var made = _scene.Keep(new Gather("Late", "late"));
        _scene.Keep(new Collect(["plank"], "late"));
        var refusal = Assert.Throws<Refusal>(() => SceneHistory.Restoring(_scene, made.Reversed()));
        Assert.Contains("“plank” has joined", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Rules_that_say_nothing_are_refused()
    {
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new SetRule("rods", new())).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new SetRule("rods", new(Kind: NodeKind.Mark))).Word);
        Assert.Equal(Refusals.NotFound, _scene.Refused(new SetRule("rods", new(Under: "gone"))).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new SetRule("rods", new(Name: ""))).Word);
    }

    private bool IsSeen(string id) => Seen.IsSeen(_scene, _scene.Find(id)!);
}
