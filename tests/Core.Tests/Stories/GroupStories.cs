using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Two chairs at a desk: grouped, moved, closed, ungrouped.</summary>
public sealed class GroupStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("desk", null, Placement.Default with { Rotation = new(0, 30, 0) }, 1),
        Some.Box("left", "desk", Placement.Default with { Position = new(-2, 0, 0) }, 1),
        Some.Box("right", "desk", Placement.Default with { Position = new(2, 0, 0), Rotation = new(10, 20, 30) }, 2),
        Some.Box("lamp", null, Placement.Default with { Position = new(0, 5, 0) }, 2),
        Some.Box("shelf", null, null, 3));

    [Fact]
    public void A_group_stands_under_the_lowest_common_ancestor_in_the_seat_of_the_first()
    {
        var worlds = Worlds();
        _scene.Keep(new Group(["right", "left"], "Chairs", Id: "g"));
        Assert.Equal("desk", _scene.Find("g")!.Parent);
        Assert.Equal(["left", "right"], _scene.Children("g"));
        Assert.Equal(["g"], _scene.Children("desk"));

        _scene.Keep(new Group(["left", "shelf"], "Odd", Id: "odd"));
        Assert.Null(_scene.Find("odd")!.Parent);
        Assert.Equal(["odd", "desk", "lamp"], _scene.Children(null));
        Assert.Equal(Vec3.Zero, _scene.Find("odd")!.Placement.Rotation);
        Assert.Equal(Vec3.One, _scene.Find("odd")!.Placement.Scale);
        CheckWorlds(worlds);
    }

    [Theory]
    [InlineData(GroupAt.Middle, 0, 2.5)]
    [InlineData(GroupAt.Base, 0, -1)]
    [InlineData(GroupAt.Zero, 0, 0)]
    [InlineData(GroupAt.Lead, 0, 5)]
    public void Its_pivot_goes_where_it_was_chosen(GroupAt at, double x, double y)
    {
        _scene.Keep(new Group(["shelf", "lamp"], "Both", at, "g"));
        var pivot = _scene.World("g").Point(_scene.Find("g")!.Placement.Pivot);
        Some.Near(new Vec3(x, y, 0), pivot);
    }

    [Fact]
    public void What_has_no_bounds_is_grouped_about_its_pivots()
    {
        _scene.Keep(
            new Create(new() { Id = "one", Name = "One", Kind = NodeKind.Light, Placement = new() { Position = new(2, 0, 0) } }),
            new Create(new() { Id = "two", Name = "Two", Kind = NodeKind.Camera, Placement = new() { Position = new(4, 2, 0) } }),
            new Group(["one", "two"], Id: "g"));
        Some.Near(new Vec3(3, 1, 0), _scene.Find("g")!.Placement.Position);
    }

    [Fact]
    public void Group_move_ungroup_displaces_nothing_and_leaves_nothing_behind()
    {
        var before = _scene.Nodes.Select(n => n.Id).Order().ToList();
        _scene.Keep(new Group(["left", "right"], "Chairs", Id: "g"));
        _scene.Keep(new Move(["g"], new(1, 2, 3), new WorldSpace()));
        var worlds = Worlds();
        worlds.Remove("g");
        _scene.Keep(new Ungroup(["g"]));
        Assert.Equal(before, _scene.Nodes.Select(n => n.Id).Order());
        Assert.Equal(["left", "right"], _scene.Children("desk"));
        CheckWorlds(worlds);
    }

    [Fact]
    public void A_group_of_groups_comes_apart_level_by_level()
    {
        _scene.Keep(new Group(["lamp", "shelf"], Id: "inner"), new Group(["inner", "desk"], Id: "outer"));
        var worlds = Worlds();
        _scene.Keep(new Ungroup(["outer", "inner"]));
        worlds.Remove("outer");
        worlds.Remove("inner");
        Assert.Equal(["desk", "lamp", "shelf"], _scene.Children(null));
        CheckWorlds(worlds);
    }

    [Fact]
    public void What_a_group_hid_stays_hidden_when_it_is_taken_away()
    {
        _scene.Keep(new Group(["lamp", "shelf"], Id: "g"), new See(["g"], Working: false), new Draw(["g"], DrawnAs.Wire));
        _scene.Keep(new Ungroup(["g"]));
        Assert.False(Seen.IsSeen(_scene, _scene.Find("lamp")!));
        Assert.Equal(DrawnAs.Wire, _scene.Find("lamp")!.Switches.Drawn);

        _scene.Keep(new Group(["desk"], Id: "g"), new Gather("Set", "set", Nodes: ["g"]), new Gather("Own", "own", Nodes: ["left"]), new See(["set"], false, false));
        _scene.Keep(new Ungroup(["g"]));
        Assert.Equal("set", Assert.Single(_scene.Find("desk")!.Collections));
        Assert.False(Seen.Of(_scene, _scene.Find("desk")!).Final);
    }

    [Fact]
    public void Only_groups_come_apart_and_only_what_is_in_the_tree_is_grouped()
    {
        Assert.Contains("“desk” is not a group", _scene.Refused(new Ungroup(["desk"])).Message, StringComparison.Ordinal);
        _scene.Keep(new CreateMark("Mark", new(Vec3.Zero), "mark"), new Gather("Set", "set"));
        Assert.Contains("mark “Mark”", _scene.Refused(new Group(["lamp", "mark"])).Message, StringComparison.Ordinal);
        Assert.Contains("“Set” is a collection", _scene.Refused(new Group(["lamp", "set"])).Message, StringComparison.Ordinal);
        Assert.Equal(Refusals.NothingPicked, _scene.Refused(new Group([])).Word);
    }

    [Fact]
    public void Groups_carry_a_colour_and_a_note_and_can_be_closed()
    {
        _scene.Keep(new Group(["lamp"], "Lights", Id: "g"), new SetLabel(["g"], "#C05A3C", "for shot two", true));
        Assert.Equal(new Label("#C05A3C", "for shot two", true), _scene.Find("g")!.Label);
        _scene.Keep(new SetLabel(["g"], Note: "", Closed: false));
        Assert.Equal(new Label("#C05A3C"), _scene.Find("g")!.Label);
        Assert.Contains("no colour", _scene.Refused(new SetLabel(["g"], "red")).Message, StringComparison.Ordinal);
        Assert.Contains("neither a group", _scene.Refused(new SetLabel(["lamp"], "#C05A3C")).Message, StringComparison.Ordinal);
        Assert.Contains("only groups can be closed", _scene.Refused(new SetLabel(["lamp"], Closed: true)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void New_things_get_names_of_their_own_among_their_siblings()
    {
        for (var i = 0; i < 3; i++)
        {
            _scene.Keep(new Create(new() { Name = "Chair 09", Kind = NodeKind.Group }));
        }

        _scene.Keep(new Create(new() { Name = "Chair 09", Kind = NodeKind.Group }, "lamp"), new Create(new() { Name = "lamp", Kind = NodeKind.Group }));
        Assert.Equal(["desk", "lamp", "shelf", "Chair 09", "Chair 10", "Chair 11", "lamp 2"], _scene.Children(null).Select(id => _scene.Find(id)!.Name));
        Assert.Equal("Chair 09", _scene.Find(_scene.Children("lamp")[0])!.Name);
    }

    [Fact]
    public void Many_are_renamed_by_a_pattern()
    {
        string[] Names() => ["lamp", .. _scene.Children("desk")];
        string[] Now() => [.. Names().Select(id => _scene.Find(id)!.Name)];
        _scene.Keep(new RenameMany(["lamp", "left", "right"], "Seat", From: 8, Digits: 2));
        Assert.Equal(["Seat 08", "Seat 09", "Seat 10"], Now());
        _scene.Keep(new RenameMany(["lamp", "left", "right"], Find: "Seat ", Replace: "", Prefix: "Old ", Suffix: " b"));
        Assert.Equal(["Old 08 b", "Old 09 b", "Old 10 b"], Now());
        Assert.Contains("at least one character", _scene.Refused(new RenameMany(["lamp"], "  ")).Message, StringComparison.Ordinal);
        Assert.Contains("1 to 9 figures", _scene.Refused(new RenameMany(["lamp"], From: 1, Digits: 40)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_removing_would_do_is_said_first()
    {
        _scene.Keep(
            new CreateMark("Seat", new(Node: "left"), "mark", Follow: true),
            new Duplicate(["right"], 1, Sharing: true, Ids: [["twin"]]),
            new PutUnder(["twin"], null),
            new Gather("Old", "old", Rule: new(Under: "desk")));
        Assert.Equal(
            "What rides on it goes too: 2 objects; the mark Seat stays where it is and follows nothing any more; 1 other shares its shape and keeps it; the rule of Old then fits nothing.",
            new Remove(["desk"]).Foretell(_scene));
        Assert.Null(new Remove(["shelf"]).Foretell(_scene));
        Assert.Equal("2 objects ride along.", new PutUnder(["desk"], "lamp").Foretell(_scene));
        Assert.Equal("2 objects ride along.", new PutUnder(["left", "desk"], "lamp").Foretell(_scene));
    }

    private Dictionary<string, Affine> Worlds() => _scene.Nodes.ToDictionary(n => n.Id, n => _scene.World(n.Id));

    private void CheckWorlds(Dictionary<string, Affine> worlds)
    {
        foreach (var (id, world) in worlds)
        {
            Some.Near(world, _scene.World(id));
        }
    }
}
