using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Marks: pinned ones stay, following ones ride along, and none of them is part of the tree.</summary>
public sealed class MarkLaws
{
    [Fact]
    public void A_following_mark_rides_rigidly_and_keeps_unit_directions() =>
        Gen.Select(Some.MarkedChains, Some.Point, Some.Factors).Sample((scene, by, factors) =>
        {
            var parent = scene.World("parent");
            var offset = parent.Inverse().Point(scene.World("following").Offset);
            var pinned = scene.World("pinned");
            scene.Keep(new Move(["grand"], by, new WorldSpace()), new Scale(["grand"], factors.Map(f => 0.5 + Math.Abs(f) / 4), new OwnSpace(), new AboutOwn()));
            var after = scene.World("following");
            Some.Near(offset, scene.World("parent").Inverse().Point(after.Offset), 1e-6);
            Assert.True((after.Linear.Transposed() * after.Linear).Distance(Mat3.Identity) < 1e-9);
            Assert.Equal(pinned, scene.World("pinned"));
        });

    [Fact]
    public void Pinning_and_following_move_no_mark() =>
        Some.MarkedChains.Sample(scene =>
        {
            var (pinned, following) = (scene.World("pinned"), scene.World("following"));
            scene.Keep(new FollowNode("pinned", "child"), new FollowNode("following", null));
            Some.Near(pinned, scene.World("pinned"), 1e-7);
            Some.Near(following, scene.World("following"), 1e-7);
            Assert.Equal("child", scene.Find("pinned")!.Parent);
            Assert.Null(scene.Find("following")!.Parent);
        });

    [Fact]
    public void A_mark_is_pinned_where_it_stands_when_its_source_goes_and_follows_again_after_an_undo() =>
        Some.MarkedChains.Sample(scene =>
        {
            var world = scene.World("following");
            var change = scene.Keep(new Remove(["grand"]));
            Assert.Null(scene.Find("following")!.Parent);
            Some.Near(world, scene.World("following"), 1e-9);
            scene.Apply(change.Reversed());
            Assert.Equal("parent", scene.Find("following")!.Parent);
        });

    [Fact]
    public void Marks_are_listed_beside_the_tree_and_survive_the_wire() =>
        Some.MarkedChains.Sample(scene =>
        {
            Assert.Equal(["pinned", "following"], scene.Marks);
            Assert.DoesNotContain(scene.Branch(null), n => n.Kind == NodeKind.Mark);
            Assert.Equal(4, NodeData.All(scene).Count());
            var read = SceneBinary.Read(SceneBinary.Write(scene), scene.Geometries);
            Assert.Equal(scene.Marks, read.Marks);
            Assert.Equal(scene.Find("following"), read.Find("following"));
        });

    [Fact]
    public void The_evaluator_follows_marks() =>
        Gen.Select(Some.MarkedChains, Some.Point).Sample((scene, by) =>
        {
            using var evaluator = new Evaluator(scene);
            evaluator.Follow(scene, scene.Keep(new Move(["grand"], by, new WorldSpace())));
            Some.Near(scene.World("following"), evaluator.World("following"), 1e-9);
            evaluator.Follow(scene, scene.Keep(new Remove(["parent"], RemovedChildren.Lift)));
            Some.Near(scene.World("following"), evaluator.World("following"), 1e-9);
            evaluator.Follow(scene, scene.Keep(new FollowNode("pinned", "child")));
            evaluator.Follow(scene, scene.Keep(new Move(["child"], by, new WorldSpace())));
            Some.Near(scene.World("pinned"), evaluator.World("pinned"), 1e-9);
        });

    [Fact]
    public void Edits_run_along_a_mark_and_about_it() =>
        Gen.Select(Some.MarkedChains, Some.Direction, Gen.Double[-90, 90]).Sample((scene, axis, degrees) =>
        {
            var mark = scene.World("following");
            var world = scene.World("other");
            scene.Keep(new Rotate(["other"], degrees, axis, new MarkSpace("following"), new AboutMark("following")));
            var turn = Affine.About(mark.Offset, Mat3.Rotation(mark.Linear * axis, degrees));
            Some.Near(turn * world, scene.World("other"), 1e-6);
        });

    [Fact]
    public void A_mark_has_no_size_and_no_place_in_the_tree() =>
        Some.MarkedChains.Sample(scene =>
        {
            scene.Keep(new Scale(["pinned"], new(2, 3, 4), new OwnSpace(), new AboutZero()));
            Assert.Equal(Vec3.One, scene.Find("pinned")!.Placement.Scale);
            Assert.Equal(Refusals.NotUnderstood, scene.Refused(new PutUnder(["pinned"], "other")).Word);
            Assert.Equal(Refusals.NotUnderstood, scene.Refused(new PutUnder(["other"], "pinned")).Word);
            Assert.Equal(Refusals.NotFound, scene.Refused(new Move(["child"], Vec3.UnitX, new MarkSpace("child"))).Word);
        });

    [Fact]
    public void A_mark_is_placed_on_a_face_captured_from_a_node_or_from_a_view()
    {
        var scene = Some.Scene(Some.Box("desk", null, Placement.Default with { Position = new(1, 2, 3), Rotation = new(0, 30, 0), Pivot = new(0, -1, 0) }));
        scene.Keep(
            new CreateMark("Ramp", new(new(5, 0, 0), new(0, 1, 1), Node: "desk"), "ramp"),
            new CreateMark("Desk", new(Node: "desk"), "desk-mark", Follow: true),
            new CreateMark("View", new(new(0, 1, 0), View: new(Mat3.Rotation(1, 90), new(9, 9, 9))), "view"));
        Some.Near(new Vec3(0, 1, 1).Unit(), scene.World("ramp").Linear.Y);
        Some.Near(new Vec3(5, 0, 0), scene.World("ramp").Offset);
        Some.Near(new Vec3(1, 2, 3), scene.World("desk-mark").Offset);
        Some.Near(Mat3.Rotation(1, 30).X, scene.World("desk-mark").Linear.X);
        Some.Near(new Vec3(0, 0, -1), scene.World("view").Linear.X);
        Assert.Equal("desk", scene.Find("desk-mark")!.Parent);
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new CreateMark("Stray", new(), Follow: true)).Word);
    }

    [Fact]
    public void Things_are_brought_to_marks_and_marks_to_things() =>
        Some.MarkedChains.Sample(scene =>
        {
            scene.Keep(new Bring(["child"], new(Mark: "pinned"), Rotation: true));
            var (child, mark) = (scene.Find("child")!, scene.World("pinned"));
            Some.Near(mark.Offset, scene.World("child").Point(child.Placement.Pivot), 1e-6);
            Assert.True(OwnSpace.Of(new SceneDraft(scene), child).Distance(mark.Linear) < 1e-6);
            scene.Keep(new Bring(["pinned"], new(Node: "other")));
            Some.Near(scene.World("other").Point(scene.Find("other")!.Placement.Pivot), scene.World("pinned").Offset, 1e-7);
            scene.Keep(new Bring(["other"], new()));
            Some.Near(Vec3.Zero, scene.World("other").Point(scene.Find("other")!.Placement.Pivot), 1e-7);
            Assert.Equal(Refusals.WouldLoop, scene.Refused(new Bring(["grand"], new(Node: "child"))).Word);
        });
}
