using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Undo and redo, by person and field by field.</summary>
public sealed class HistoryStories
{
    private readonly Desk _desk = new(Some.Scene(Some.Box("lamp", null, rank: 1), Some.Box("desk", null, rank: 2), Some.Box("arm", "lamp", rank: 1)));

    [Fact]
    public void Each_takes_back_the_own_latest_step()
    {
        Do("ada", new Rename("lamp", "First"));
        Do("ben", new Rename("desk", "Second"));
        Undo("ada");
        Assert.Equal("lamp", _desk.Scene.Find("lamp")!.Name);
        Assert.Equal("Second", _desk.Scene.Find("desk")!.Name);
        Redo("ada");
        Assert.Equal("First", _desk.Scene.Find("lamp")!.Name);
    }

    [Fact]
    public void A_join_is_taken_back_and_done_again_to_the_letter()
    {
        List<Node> All() => [.. _desk.Scene.Nodes.OrderBy(n => n.Id, StringComparer.Ordinal)];
        var before = All();
        Do("ada", new Join(["desk", "lamp"]));
        var joined = All();
        Assert.Equal(NodeKind.Mesh, _desk.Scene.Find("lamp")!.Kind);
        Undo("ada");
        Assert.Equal(before, All());
        Redo("ada");
        Assert.Equal(joined, All());
    }

    [Fact]
    public void A_later_step_on_another_field_stays_when_an_earlier_one_is_taken_back()
    {
        Do("ada", new Move(["lamp"], new(1, 0, 0), new WorldSpace()));
        Do("ben", new Rename("lamp", "Standard lamp"));
        Undo("ada");
        Assert.Equal(Vec3.Zero, _desk.Scene.Find("lamp")!.Placement.Position);
        Assert.Equal("Standard lamp", _desk.Scene.Find("lamp")!.Name);
    }

    [Fact]
    public void What_somebody_wrote_later_is_not_taken_away_under_their_hands()
    {
        Do("ada", new Move(["lamp"], new(1, 0, 0), new WorldSpace()));
        Do("ben", new Move(["lamp"], new(0, 1, 0), new WorldSpace()));
        var refusal = Assert.Throws<Refusal>(() => Undo("ada"));
        Assert.Equal(Refusals.ChangedMeanwhile, refusal.Word);
        Assert.Contains("lamp", refusal.Message, StringComparison.Ordinal);
        Assert.Equal(new Vec3(1, 1, 0), _desk.Scene.Find("lamp")!.Placement.Position);
    }

    [Fact]
    public void A_new_edit_drops_the_own_redo_only()
    {
        Do("ada", new Rename("lamp", "A"));
        Do("ben", new Rename("desk", "B"));
        Undo("ada");
        Undo("ben");
        Do("ada", new Rename("arm", "C"));
        Assert.Equal(Refusals.NothingToUndo, Assert.Throws<Refusal>(() => Redo("ada")).Word);
        Redo("ben");
        Assert.Equal("B", _desk.Scene.Find("desk")!.Name);
    }

    [Fact]
    public void A_removed_branch_comes_back_where_it_was()
    {
        Do("ada", new Remove(["lamp"]));
        Assert.Null(_desk.Scene.Find("arm"));
        Undo("ada");
        Assert.Equal(["lamp", "desk"], _desk.Scene.Children(null));
        Assert.Equal(["arm"], _desk.Scene.Children("lamp"));
        Redo("ada");
        Assert.Equal(["desk"], _desk.Scene.Children(null));
    }

    [Fact]
    public void A_node_that_now_carries_something_is_not_taken_away()
    {
        Do("ada", new Create(new() { Id = "shelf", Name = "Shelf", Kind = NodeKind.Group }));
        Do("ben", new PutUnder(["desk"], "shelf"));
        var refusal = Assert.Throws<Refusal>(() => Undo("ada"));
        Assert.Contains("desk", refusal.Message, StringComparison.Ordinal);
        Assert.NotNull(_desk.Scene.Find("shelf"));
    }

    [Fact]
    public void A_step_on_a_node_that_is_gone_cannot_be_done_again()
    {
        Do("ada", new Create(new() { Id = "shelf", Name = "Shelf", Kind = NodeKind.Group }));
        Do("ben", new Rename("shelf", "Board"));
        Undo("ben");
        Undo("ada");
        var refusal = Assert.Throws<Refusal>(() => Redo("ben"));
        Assert.Equal(Refusals.ChangedMeanwhile, refusal.Word);
        Assert.Contains("“Renamed Shelf", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_gone_is_named_by_what_took_it_away()
    {
        Do("ada", new Move(["lamp"], new(1, 0, 0), new WorldSpace()));
        Do("ben", new Remove(["lamp"]));
        var refusal = Assert.Throws<Refusal>(() => _desk.History.ToUndo("ada", id => _desk.Scene.FindAny(id)?.Name ?? ""));
        Assert.Equal(Refusals.ChangedMeanwhile, refusal.Word);
        Assert.Contains("“Removed lamp", refusal.Message, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain("“”", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void An_undo_restores_what_holds_without_the_step()
    {
        Do("ada", new Rename("lamp", "of Ada"));
        Do("ben", new Rename("lamp", "of Ben"));
        Undo("ben");
        Undo("ada");
        Redo("ben");
        Assert.Equal("of Ben", _desk.Scene.Find("lamp")!.Name);
        Undo("ben");
        Assert.Equal("lamp", _desk.Scene.Find("lamp")!.Name);
    }

    [Fact]
    public void What_was_made_by_a_step_that_is_taken_back_does_not_return_with_the_undo_of_its_removal()
    {
        Do("ada", new Create(new() { Id = "shelf", Name = "Shelf", Kind = NodeKind.Group }));
        Do("ben", new Remove(["shelf"]));
        Undo("ben");
        Undo("ada");
        Redo("ben");
        Undo("ben");
        Assert.Null(_desk.Scene.Find("shelf"));
        Redo("ada");
        Assert.NotNull(_desk.Scene.Find("shelf"));
    }

    [Fact]
    public void Steps_can_be_named()
    {
        Do("ada", new Rename("lamp", "A"));
        _desk.History.Name(1, "before the client came");
        Assert.Equal("before the client came", _desk.History.Steps[0].Name);

        // Of a step that is not at hand, the store keeps the name.
        _desk.History.Name(99, "of long ago");
        Assert.Equal("before the client came", Assert.Single(_desk.History.Steps).Name);
    }

    private void Do(string by, Edit edit) => _desk.Do(by, edit);

    private void Undo(string by) => _desk.Undo(by);

    private void Redo(string by) => _desk.Redo(by);
}
