using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Somebody else works on the scene while something is being tried.</summary>
public sealed class TryoutStories : IDisposable
{
    private static readonly Move Along = new(["child"], Vec3.Zero, new WorldSpace());
    private static readonly View Above = new(new Affine(new(Vec3.UnitX, -Vec3.UnitZ, Vec3.UnitY), new(0, 10, 0)), false);

    private Replica _replica = new(Scene());
    private readonly Tryout _tryout;

    public TryoutStories() => _tryout = new(() => _replica);

    public void Dispose() => _replica.Dispose();

    [Fact]
    public void A_drag_goes_on_with_its_amount_when_something_else_is_changed()
    {
        Grab();
        _tryout.Trial!.DragTo(Down(2.5), fine: false, step: null);
        var amount = _tryout.Trial.Amount;
        var shown = _replica.Evaluator.World("child");

        Assert.Equal(new WentOn(true, null), Elsewhere("other", new(9, 0, 0)));
        Assert.Equal(amount, _tryout.Trial.Amount);
        Assert.Equal(shown, _replica.Evaluator.World("child"));
        Assert.Equal(new(9, 0, 0), _replica.Evaluator.World("other").Offset);

        // And on it goes under the same hand.
        _tryout.Trial.DragTo(Down(3), fine: false, step: null);
        Some.Near(new Vec3(amount.X + 0.5, 0, 0), _tryout.Trial.Amount);
        var edits = _tryout.Trial.Edits;
        _tryout.PutBack();
        _replica.Keep(edits);
        Some.Near(new Vec3(amount.X + 0.5 + 1, 2, 0), _replica.Evaluator.World("child").Offset);
    }

    [Fact]
    public void A_drag_of_what_somebody_else_moves_goes_on_from_there_and_says_so()
    {
        Grab();
        _tryout.Trial!.DragTo(Down(2), fine: false, step: null);
        var amount = _tryout.Trial.Amount;
        var went = Elsewhere("child", new(0, 0, 5));
        Assert.Equal(new WentOn(true, "child was changed meanwhile. It goes on from there."), went);
        Assert.Equal(amount, _tryout.Trial.Amount);
        Some.Near(new Vec3(amount.X, 2, 5), _replica.Evaluator.World("child").Offset);
    }

    [Fact]
    public void A_typed_amount_follows_a_parent_that_somebody_else_moves()
    {
        _tryout.Begin(Along, new WorldSpace());
        _tryout.Trial!.Try(new(4, 0, 0));
        Assert.Equal(new WentOn(true, null), Elsewhere("parent", new(0, 0, -3)));
        Some.Near(new Vec3(5, 0, -3), _replica.Evaluator.World("child").Offset);
        _tryout.PutBack();
        Some.Near(new Vec3(1, 0, -3), _replica.Evaluator.World("child").Offset);
    }

    [Fact]
    public void A_value_typed_to_is_reached_all_the_same()
    {
        _tryout.Begin(new Move(["child"], Vec3.Zero, new ParentSpace()), new ParentSpace());
        _tryout.Trial!.TryTyped("=7", [true, false, false], to: false);
        Assert.Equal("child was changed meanwhile. It goes on from there.", Elsewhere("child", new(3, 3, 3))!.Said);
        Assert.Equal(new(7, 3, 3), _tryout.Trial.Lead!.Placement.Position);
    }

    [Fact]
    public void What_is_removed_ends_what_was_tried_with_a_sentence_and_everything_in_its_place()
    {
        _tryout.Begin(Along, new WorldSpace());
        _tryout.Trial!.Try(new(4, 0, 0));
        var went = _tryout.During(() => _replica.Hear(1, [], ["child"], null, out _));
        Assert.Equal(new WentOn(false, "child was removed meanwhile. What was being tried is put back."), went);
        Assert.Null(_tryout.Trial);
        Assert.Null(_replica.Scene.Find("child"));
    }

    [Fact]
    public void What_is_locked_meanwhile_ends_it_too()
    {
        _tryout.Begin(Along, new WorldSpace());
        _tryout.Trial!.Try(new(4, 0, 0));
        var child = _replica.Scene.Find("child")!;
        var went = _tryout.During(() => _replica.Hear(1, [child with { Switches = child.Switches with { Locked = true } }], [], null, out _))!;
        Assert.False(went.Goes);
        Assert.StartsWith("child was changed meanwhile.", went.Said, StringComparison.Ordinal);
        Some.Near(new Vec3(1, 2, 0), _replica.Evaluator.World("child").Offset);
    }

    [Fact]
    public void Edits_shown_as_they_are_stay_shown_and_follow_what_they_are_about()
    {
        _tryout.TryEdits([new Align(["child"], "other", new(X: new(AlignPlace.Middle, AlignPlace.Middle)), new WorldSpace())]);
        Some.Near(new Vec3(-4, 2, 0), _replica.Evaluator.World("child").Offset);
        Assert.True(Elsewhere("other", new(-6, 0, 0))!.Goes);
        Some.Near(new Vec3(-6, 2, 0), _replica.Evaluator.World("child").Offset);
        _tryout.PutBack();
        Some.Near(new Vec3(1, 2, 0), _replica.Evaluator.World("child").Offset);
    }

    [Fact]
    public void An_own_edit_that_is_refused_later_does_not_end_the_next_drag()
    {
        var (kept, _) = _replica.Keep([new Move(["other"], new(1, 0, 0), new WorldSpace())]);
        _tryout.Begin(Along, new WorldSpace());
        _tryout.Trial!.Try(new(4, 0, 0));
        Assert.Equal(new WentOn(true, null), _tryout.During(() => _replica.Drop(kept.Ticket, out _)));
        Some.Near(new Vec3(5, 2, 0), _replica.Evaluator.World("child").Offset);
        Some.Near(new Vec3(-4, 0, 0), _replica.Evaluator.World("other").Offset);
    }

    [Fact]
    public void A_drag_goes_on_when_the_scene_is_opened_anew()
    {
        Grab();
        _tryout.Trial!.DragTo(Down(2), fine: false, step: null);
        var (amount, shown) = (_tryout.Trial.Amount, _replica.Evaluator.World("child"));
        var went = _tryout.During(() =>
        {
            _replica.Dispose();
            _replica = new(Scene());
        });
        Assert.Equal(new WentOn(true, null), went);
        Assert.Equal(amount, _tryout.Trial.Amount);
        Assert.Equal(shown, _replica.Evaluator.World("child"));
    }

    [Fact]
    public void With_nothing_tried_there_is_nothing_to_say() => Assert.Null(Elsewhere("other", Vec3.Zero));

    private static SceneDocument Scene() => Some.Scene(
        Some.Box("parent", null, Placement.Default with { Position = new(0, 2, 0) }),
        Some.Box("child", "parent", Placement.Default with { Position = new(1, 0, 0) }),
        Some.Box("other", null, Placement.Default with { Position = new(-4, 0, 0) }));

    private void Grab()
    {
        _tryout.Begin(Along, new WorldSpace());
        _tryout.Trial!.Grab(new(HandlePart.Needle, 0), Above, 1, Down(1));
    }

    /// <summary>A ray from the eye above to a point of the plane in which the child lies.</summary>
    private static Ray Down(double x) => new(new(0, 10, 0), new Vec3(x, -8, 0).Unit());

    /// <summary>Somebody else puts a node elsewhere.</summary>
    private WentOn? Elsewhere(string id, Vec3 to)
    {
        var node = _replica.Scene.Find(id)!;
        var moved = node with { Placement = node.Placement with { Position = to } };
        return _tryout.During(() => _replica.Hear(_replica.Scene.Revision + 1, [moved], [], null, out _));
    }
}
