using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;
using CsCheck;

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
    public void What_somebody_put_under_another_meanwhile_gets_none_of_its_own()
    {
        var (add, copy) = (new Add(Box, ["drawer", "shelf"], AddWhere.Inside, ["one", "two"]), new Duplicate(["drawer", "shelf"], Ids: [["three", "four"]]));
        _scene.Keep(new PutUnder(["shelf"], "drawer"));
        _scene.Keep(add);
        Assert.Equal(["shelf", "one"], _scene.Children("drawer"));
        Assert.Null(_scene.Find("two"));
        _scene.Keep(copy);
        Assert.Equal(["drawer", "three"], _scene.Children("desk"));
        Assert.Null(_scene.Find("four"));
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => _scene.Keep(add with { Ids = ["five", "six", "seven"] })).Word);
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
    public void Beside_it_touches_nothing_and_stands_on_the_same_floor() =>
        Gen.Select(Some.Placements, Gen.Int[1, 5], Some.Of("desk", "drawer"), Some.Placements).Sample((view, count, host, placement) =>
        {
            var scene = Some.Scene(
                Some.Box("desk", null, placement with { Position = Vec3.Zero }, 1),
                Some.Box("drawer", "desk", Placement.Default with { Position = new(0, 1, 0), Rotation = new(0, 0, 20) }, 1),
                Some.Box("post", null, Placement.Default with { Position = new(3, 0, 0) }, 2),
                Some.Box("wall", null, Placement.Default with { Position = new(0, 0, -4) }, 3));
            for (var i = 0; i < count; i++)
            {
                var draft = new SceneDraft(scene);
                var boxes = draft.Branch(null).Select(n => Extents.Own(draft, n, Affine.Identity)).ToList();
                var beside = Extents.OfBranch(draft, draft.Get(host), Affine.Identity).With(draft.World(draft.Get(host)).Point(draft.Get(host).Placement.Pivot));
                scene.Keep(new Add(Box, [host], AddWhere.Beside, [$"new{i}"], View: view.Local()));
                draft = new SceneDraft(scene);
                var own = Extents.Own(draft, draft.Get($"new{i}"), Affine.Identity);
                var right = view.Local().Linear.X;
                // In a view that lies on its side it goes up or down.
                if (Math.Abs(right.Y) < Math.Max(Math.Abs(right.X), Math.Abs(right.Z)))
                {
                    Assert.Equal(beside.Low.Y, own.Low.Y, 1e-6 * (1 + Math.Abs(beside.Low.Y) + own.Size.Length));
                }

                // What the other stands in is not in the way.
                var free = boxes.Where(b => !Meet(b, beside)).Append(beside);
                Assert.All(free, b => Assert.False(Meet(b, own), $"{own} meets {b}"));
            }
        });

    private static bool Meet(Bounds a, Bounds b) =>
        Enumerable.Range(0, 3).All(i => a.Low[i] < b.High[i] - 1e-9 && b.Low[i] < a.High[i] - 1e-9);

    [Fact]
    public void Beside_it_goes_to_the_right_of_the_view()
    {
        var scene = Some.Scene(Some.Box("desk", null));
        foreach (var (yaw, way) in ((double, Vec3)[])[(0, Vec3.UnitX), (90, -Vec3.UnitZ), (180, -Vec3.UnitX), (-80, Vec3.UnitZ)])
        {
            var draft = new SceneDraft(scene);
            new Add(Box, ["desk"], AddWhere.Beside, ["one"], View: new(Mat3.Rotation(Vec3.UnitY, yaw), new(1, 2, 3))).ApplyTo(draft);
            var at = draft.World(draft.Get("one")).Offset;
            Assert.True(at.Dot(way) > 0.9 * (at with { Y = 0 }).Length && at.Length > 0.5, $"{yaw}: {at}");
        }
    }

    [Fact]
    public void Inside_it_stands_at_the_frames_origin_and_a_press_decides_everything()
    {
        _scene.Keep(new Add(Box, ["drawer"], AddWhere.Inside, ["one"]));
        Assert.Equal(Vec3.Zero, _scene.Find("one")!.Placement.Position);
        var pressed = new Add(Box, ["drawer"], AddWhere.Beside, ["two"], new(Point: new(7, 0, 8)));
        Assert.Equal("Added Knob beside drawer at a pressed point", pressed.Say(new Speaker(_scene)));
        _scene.Keep(pressed);
        Some.Near(new Vec3(7, 0, 8), _scene.World("two").Offset);
        _scene.Keep(new Create(Box with { Id = "three" }, "desk", At: new(Point: new(1, 1, 1))));
        Some.Near(new Vec3(1, 1, 1), _scene.World("three").Offset);
        Assert.Equal(Refusals.NotFinite, _scene.Refused(new Add(Box, ["drawer"], AddWhere.Inside, At: new(Point: new(double.NaN, 0, 0)))).Word);
        Assert.Equal(Refusals.NotFinite, _scene.Refused(new Add(Box, ["drawer"], AddWhere.Beside, View: new(Mat3.Identity, new(double.PositiveInfinity, 0, 0)))).Word);
    }

    [Fact]
    public void A_new_shape_can_have_its_pivot_on_one_of_the_27_points_whatever_its_size()
    {
        _scene.Keep(new Create(new() { Id = "one", Name = "Post", Kind = NodeKind.Shape, Shape = new() { Type = "cylinder", Height = 3 }, Anchor = new(0, -1, 0) }));
        Assert.Equal(new Vec3(0, -1.5, 0), _scene.Find("one")!.Placement.Pivot);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Create(Box with { Anchor = new(0, 2, 0) })).Word);
        _scene.Keep(new Create(new() { Id = "two", Name = "Group", Kind = NodeKind.Group, Anchor = new(0, -1, 0) }));
        Assert.Equal(Vec3.Zero, _scene.Find("two")!.Placement.Pivot);
    }

    [Fact]
    public void In_a_large_scene_only_what_is_beside_is_looked_at()
    {
        var nodes = Enumerable.Range(0, 20_001).Select(i => Some.Box($"n{i}", "far", Placement.Default with { Position = new(i, 0, 0) })).ToList();
        var scene = Some.Scene([.. nodes, Some.Box("far", null, Placement.Default with { Position = new(0, 0, 500) }), Some.Box("desk", null), Some.Box("post", null, Placement.Default with { Position = new(1.5, 0, 0) })]);
        scene.Keep(new Add(Box, ["desk"], AddWhere.Beside, ["new"]));
        var at = scene.World("new").Offset;
        Assert.InRange(at.X, 2.5, 4);
        Assert.Equal(0, at.Z, 1e-9);
    }

    [Fact]
    public void Names_are_said_as_they_are_really_given()
    {
        _scene.Keep(new Create(Box with { Id = "one" }, "desk"));
        string Said(Edit edit) => Batch.Run(_scene, [edit]).Sentence;
        Assert.Equal("Added Knob 2 under desk", Said(new Create(Box, "desk")));
        Assert.Equal("Added Knob 2 beside drawer", Said(new Add(Box, ["drawer"], AddWhere.Beside)));
        Assert.Equal("Added Knob inside drawer", Said(new Add(Box, ["drawer"], AddWhere.Inside)));
        _scene.Keep(new Create(new() { Name = "Group", Kind = NodeKind.Group }, "desk"));
        Assert.Equal("Grouped 2 objects into Group 2, pivot at the middle of the bounds", Said(new Group(["drawer", "shelf"])));
        _scene.Keep(new Gather("Set"));
        Assert.Equal("Made the collection Set 2", Said(new Gather("Set")));
    }

    [Fact]
    public void What_cannot_be_is_refused_and_nothing_has_changed()
    {
        Assert.Equal(Refusals.NothingPicked, _scene.Refused(new Add(Box, [], AddWhere.Inside)).Word);
        Assert.Equal(Refusals.NotFound, _scene.Refused(new Add(Box, ["gone"], AddWhere.Inside)).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Add(Box, ["corner"], AddWhere.Beside)).Word);
        Assert.Equal(Refusals.NotUnderstood, _scene.Refused(new Add(Box, ["desk", "drawer"], AddWhere.Inside, ["a", "b", "c"])).Word);
        Assert.Equal(Refusals.Locked, _scene.Refused(new Add(Box, ["desk", "lamp"], AddWhere.Around)).Word);
    }
}
