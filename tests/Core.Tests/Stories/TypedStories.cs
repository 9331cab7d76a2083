using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>What is typed does once what it says, to each of what is picked.</summary>
public sealed class TypedStories
{
    private static SceneDocument Arms() => Some.Scene(
        Some.Box("arm", null, Placement.Default with { Position = new(1, 0, 0), Rotation = new(0, 30, 0), Scale = new(2, 2, 2) }, 1),
        Some.Box("hand", "arm", Placement.Default with { Position = new(1, 0, 0) }, 1),
        Some.Box("desk", null, Placement.Default with { Position = new(4, 0, 0) }, 2));

    private static Edit Tried(SceneDocument scene, Edit template, Space space, string text, bool to = false, params bool[] axes)
    {
        using var evaluator = new Evaluator(scene);
        var trial = new Trial(scene, evaluator, template, space);
        trial.TryTyped(text, axes, to);
        return trial.Edits[0];
    }

    [Fact]
    public void In_the_sentence_an_amount_a_value_and_a_factor_are_told_apart()
    {
        var scene = Arms();
        var (parent, about) = (new ParentSpace(), new AboutOwn());
        var move = new Move(["arm"], Vec3.Zero, parent);
        Assert.Equal(new Vec3(0, 2, 0), Assert.IsType<Move>(Tried(scene, move, parent, "by 2", false, false, true, false)).By);
        Some.Near(new Vec3(0.3556, 0, 0.3556), Assert.IsType<Move>(Tried(scene, move, parent, "1ft 2in", false, true, false, true)).By, 1e-9);
        Assert.Equal([3, null, null], Assert.IsType<SetChannel>(Tried(scene, move, parent, "=3", false, true, false, false)).Values);
        Assert.Equal([3, null, null], Assert.IsType<SetChannel>(Tried(scene, move, parent, "3", true, true, false, false)).Values);
        Assert.Equal(new Vec3(3, 0, 0), Assert.IsType<Move>(Tried(scene, move, parent, "+3", true, true, false, false)).By);
        var twice = Assert.IsType<SetChannel>(Tried(scene, move, parent, "*2", false, true, false, false));
        Assert.Equal((AmountMode.Multiply, ChannelName.Position), (twice.Mode, twice.Channel));
        Assert.Equal(new Vec3(2, 1, 1), Assert.IsType<Scale>(Tried(scene, new Scale(["arm"], Vec3.One, new OwnSpace(), about), new OwnSpace(), "*2", false, true, false, false)).By);
        Assert.Equal(45, Assert.IsType<Rotate>(Tried(scene, new Rotate(["arm"], 0, Vec3.UnitY, parent, about), parent, "45", false, false, true, false)).By);
        Assert.Equal([null, 60, null], Assert.IsType<SetChannel>(Tried(scene, new Rotate(["arm"], 0, Vec3.UnitY, parent, about), parent, "=60", false, false, true, false)).Values);
    }

    [Fact]
    public void A_change_moves_a_child_once_when_its_parent_is_picked_too()
    {
        var scene = Arms();
        var hand = scene.World("hand");
        scene.Keep(new SetChannel(["arm", "hand", "desk"], ChannelName.Position, [5, null, null], AmountMode.Add));
        Some.Near(hand.Offset + new Vec3(5, 0, 0), scene.World("hand").Offset);
        Assert.Equal(1, scene.Find("hand")!.Placement.Position.X);
        Assert.Equal(9, scene.Find("desk")!.Placement.Position.X);
        scene.Keep(new SetChannel(["hand", "arm"], ChannelName.Scale, [2, 2, 2], AmountMode.Multiply));
        Assert.Equal((new Vec3(4, 4, 4), Vec3.One), (scene.Find("arm")!.Placement.Scale, scene.Find("hand")!.Placement.Scale));
        scene.Keep(new SetChannel(["arm", "hand"], ChannelName.Position, [7, null, null]));
        Assert.Equal((7, 7), (scene.Find("arm")!.Placement.Position.X, scene.Find("hand")!.Placement.Position.X));
    }

    [Fact]
    public void Pivot_values_are_set_or_changed_for_all_that_is_picked()
    {
        var scene = Arms();
        var (arm, hand) = (scene.World("arm"), scene.World("hand"));
        scene.Keep(new MovePivot(["arm", "hand"], new(Own: new(0.1, 0.2, 0.3))));
        var edit = new MovePivot(["arm", "hand"], new(Parts: [null, 0.5, null]));
        Assert.Equal("Put the pivot of 2 objects to Y 0.5 m in its own frame", edit.Say(new(scene)));
        scene.Keep(edit);
        Assert.Equal(new Vec3(0.1, 0.5, 0.3), scene.Find("hand")!.Placement.Pivot);
        scene.Keep(new MovePivot(["arm", "hand"], new(Parts: [1, null, null]), Mode: AmountMode.Add));
        Assert.Equal(new Vec3(1.1, 0.5, 0.3), scene.Find("arm")!.Placement.Pivot);
        scene.Keep(new MovePivot(["arm", "hand"], TurnParts: [null, null, 20]));
        Assert.Equal(new Vec3(0, 0, 20), scene.Find("arm")!.Placement.PivotTurn);
        Some.Near(arm, scene.World("arm"));
        Some.Near(hand, scene.World("hand"));
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new MovePivot(["arm"], new(Parts: [1]))).Word);
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new MovePivot(["arm"], TurnParts: [double.NaN, null, null])).Word);
    }

    [Fact]
    public void A_new_place_among_siblings_is_said_as_such()
    {
        var scene = Some.Scene(Some.Box("A", null, rank: 1), Some.Box("B", null, rank: 2), Some.Box("C", null, rank: 3), Some.Box("D", "A"));
        string Kept(Edit edit)
        {
            var (change, said) = Batch.Run(scene, [edit]);
            scene.Apply(change);
            return said;
        }

        Assert.Equal("Moved C before A", Kept(new PutUnder(["C"], null, 0)));
        Assert.Equal(["C", "A", "B"], scene.Children(null));
        Assert.Equal("Moved C after B", Kept(new PutUnder(["C"], null, 2)));
        Assert.Equal("Left D where it was", Kept(new PutUnder(["D"], "A", 0)));
        Assert.Equal("Took D out", Kept(new PutUnder(["D"], null, 1)));
        Assert.Equal(["A", "D", "B", "C"], scene.Children(null));
    }

    [Fact]
    public void What_is_out_already_stays_where_it_is_among_the_others()
    {
        var scene = Arms();
        Assert.True(scene.Run(new PutUnder(["arm"], null)).IsEmpty);
        Assert.True(scene.Run(new PutUnder(["hand"], "arm")).IsEmpty);
        scene.Keep(new PutUnder(["arm", "hand"], null));
        Assert.Equal(["arm", "desk"], scene.Children(null));
    }
}
