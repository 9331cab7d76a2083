using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>New objects go where the work is: inside, beside or around each of the picked.</summary>
public sealed class AddStories
{
    private static readonly NewNode Box = new() { Name = "Knob", Kind = NodeKind.Shape, Shape = new() { Type = "box" } };

    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("desk", null, Placement.Default with { Position = new(1, 2, 3), Rotation = new(10, 30, 0), Scale = new(2, 1, 1) }, 1),
        Some.Box("drawer", "desk", Placement.Default with { Position = new(0, 1, 0), Rotation = new(0, 0, 20) }, 1),
        Some.Box("shelf", "desk", null, 2),
        Some.Box("lamp", null, null, 2) with { Switches = Switches.Default with { Locked = true } },
        Some.Mark("corner", null, new(5, 5, 5), new(0, 90, 0)));

    [Fact]
    public void Inside_it_is_the_last_child_of_each()
    {
        var change = Batch.Run(_scene, [new Add(Box, ["drawer", "shelf"], AddWhere.Inside, ["one", "two"])]);
        Assert.Equal("Added Knob inside each of 2 objects", change.Sentence);
        _scene.Apply(change.Change);
        Assert.Equal(["one"], _scene.Children("drawer"));
        Assert.Equal(["two"], _scene.Children("shelf"));
        Assert.Equal("Knob", _scene.Find("two")!.Name);
    }

    [Fact]
    public void Beside_it_stands_right_after_each_with_a_name_of_its_own()
    {
        _scene.Keep(new Add(Box, ["drawer", "shelf"], AddWhere.Beside, ["one", "two"]));
        Assert.Equal(["drawer", "one", "shelf", "two"], _scene.Children("desk"));
        Assert.Equal(["Knob", "Knob 2"], new[] { "one", "two" }.Select(id => _scene.Find(id)!.Name));
        _scene.Keep(new Add(Box, ["desk"], AddWhere.Beside, ["three"]));
        Assert.Equal(["desk", "three", "lamp"], _scene.Children(null));
    }

    [Fact]
    public void Around_it_takes_the_seat_and_carries_what_stays_where_it_is()
    {
        var (desk, drawer) = (_scene.World("desk"), _scene.World("drawer"));
        _scene.Keep(new Add(new() { Name = "Rig", Kind = NodeKind.Group }, ["desk", "drawer"], AddWhere.Around, ["rig"]));
        Assert.Equal(["rig", "lamp"], _scene.Children(null));
        Assert.Equal(["desk"], _scene.Children("rig"));
        _scene.Keep(new Add(new() { Name = "Rail", Kind = NodeKind.Group }, ["drawer"], AddWhere.Around, ["rail"]));
        Assert.Equal(["rail", "shelf"], _scene.Children("desk"));
        Some.Near(desk, _scene.World("desk"));
        Some.Near(drawer, _scene.World("drawer"));
        Some.Near(drawer.Point(Vec3.Zero), _scene.World("rail").Offset);
    }

    [Fact]
    public void At_a_mark_it_stands_there_whatever_carries_it()
    {
        _scene.Keep(new Add(Box, ["shelf"], AddWhere.Inside, ["one"], new(Mark: "corner")));
        Some.Near(new Vec3(5, 5, 5), _scene.World("one").Offset);
    }

    [Fact]
    public void What_is_added_next_goes_to_each_of_the_new_ones()
    {
        _scene.Keep(new Add(Box, ["drawer", "shelf"], AddWhere.Inside, ["one", "two"]));
        _scene.Keep(new Add(Box, ["one", "two"], AddWhere.Inside));
        Assert.Single(_scene.Children("one"));
        Assert.Single(_scene.Children("two"));
    }

    [Fact]
    public void What_will_ride_is_said_beforehand()
    {
        Assert.Equal("drawer rides on what is added; nothing moves.", new Add(Box, ["drawer"], AddWhere.Around).Foretell(_scene));
        Assert.Equal("They ride on what is added; nothing moves.", new Add(Box, ["drawer", "shelf"], AddWhere.Around).Foretell(_scene));
        Assert.Null(new Add(Box, ["drawer"], AddWhere.Inside).Foretell(_scene));
        Assert.Equal("Added Knob around drawer", new Add(Box, ["drawer"], AddWhere.Around).Say(new Speaker(_scene)));
    }

    [Fact]
    public void What_cannot_be_is_refused_and_nothing_has_changed()
    {
        Assert.Equal(Refusals.NothingPicked, _scene.Refused(new Add(Box, [], AddWhere.Inside)).Word);
        Assert.Equal(Refusals.NotFound, _scene.Refused(new Add(Box, ["gone"], AddWhere.Inside)).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Add(Box, ["corner"], AddWhere.Beside)).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Add(Box, ["desk", "drawer"], AddWhere.Inside, ["a", "b"])).Word);
        Assert.Equal(Refusals.Locked, _scene.Refused(new Add(Box, ["desk", "lamp"], AddWhere.Around)).Word);
    }
}
