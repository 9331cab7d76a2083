using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Trials;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>What would jump is said before it does, with figures and as data.</summary>
public sealed class JumpStories
{
    private static SceneDocument Tube(Up? up = null)
    {
        var scene = Some.Scene(
            Some.Box("tube", null),
            Some.Box("plate", null, Placement.Default with { Rotation = new(0, 0, 40), Position = new(0, 0, 9) }, 1),
            Some.Box("sun", null, Placement.Default with { Position = new(3, 4, 5) }, 2));
        return scene.Tie(new() { Kind = "aim", Target = "sun", Axis = "+y", UpAxis = "+z", Up = up }, "tube");
    }

    [Fact]
    public void Moving_the_pivot_of_what_aims_says_by_how_much_it_turns()
    {
        var scene = Tube();
        var edit = new MovePivot(["tube"], new(Own: new(0, 1, 0.5)));
        Assert.Matches(@"^This makes tube jump: by [\d.]+° and by [\d.]+ m\.$|^This makes tube jump: by [\d.]+°\.$", edit.Foretell(scene));
        var foretold = Foretelling.Of(scene, [edit]);
        Assert.Equal(foretold.Jumps[0].Turned, Jump.Of(scene.Find("tube")!.Placement.ToOwn(), scene.World("tube"), Kept(scene, edit)).Turned, 1e-3);
        Assert.Equal("aim", Assert.Single(foretold.Held).Link);
        Assert.Equal(["off", "bake", "target"], foretold.Held[0].Ways);
    }

    [Fact]
    public void Under_a_turned_parent_up_by_the_parent_is_another_and_that_is_said()
    {
        var scene = Tube(new(Parent: new SignedAxis(1)));
        Assert.Matches("^This makes tube jump: by ", new PutUnder(["tube"], "plate").Foretell(scene));
        Assert.Null(Tube().Run(new PutUnder(["tube"], "plate")) is { } ? new PutUnder(["tube"], "plate").Foretell(Tube()) : "");
    }

    [Fact]
    public void Switching_and_taking_off_say_what_they_do()
    {
        var scene = Tube();
        Assert.Matches("^This makes tube jump: by ", new SetConstraint([new("tube", "aim")], Enabled: false).Foretell(scene));
        Assert.Matches("^This makes tube jump: by ", new Unconstrain([new("tube")]).Foretell(scene));
        Assert.Null(new SetConstraint([new("tube", "aim")], Weight: 1).Foretell(scene));
        Assert.Equal("tube: Aim at sun off, weight 30 %", new SetConstraint([new("tube", "aim")], false, 0.3).Say(new(scene)));
        Assert.Equal("Took Aim at sun off tube", new Unconstrain([new("tube", "aim")]).Say(new(scene)));
        Assert.Equal("Baked the constraints of tube, left off", new Bake(["tube"], Off: true).Say(new(scene)));
    }

    [Fact]
    public void A_controller_is_in_no_picture_and_no_bounds_and_only_shapes_are()
    {
        var scene = Some.Scene(Node.Bare("rig", "Rig", NodeKind.Group, null, Placement.Default), Some.Box("knob", "rig", Placement.Default with { Position = new(0, 50, 0) }), Some.Box("body", "rig", rank: 2));
        scene.Keep(new Draw(["knob"], DrawnAs.Controller));
        var draft = new SceneDraft(scene);
        Assert.True(Spaces.Extents.OfBranch(draft, draft.Get("rig"), Affine.Identity).High.Y < 2);
        Assert.False(Seeing.Seen.Of(scene, scene.Find("knob")!).Final);
        Assert.True(Seeing.Seen.Of(scene, scene.Find("body")!).Final);
        Assert.Contains("only shapes", scene.Refused(new Draw(["rig"], DrawnAs.Controller)).Message, StringComparison.Ordinal);
    }

    private static Affine Kept(SceneDocument scene, Edit edit)
    {
        var draft = new SceneDraft(scene);
        edit.ApplyTo(draft);
        return draft.World(draft.Get("tube"));
    }
}
