using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>The next place in the tree, and names that nobody has: what the page used to work out by itself.</summary>
public sealed class OrderingStories
{
    private static SceneDocument Shelf() => Some.Scene(
        Some.Box("shelf", null),
        Some.Box("board", "shelf"),
        Some.Box("cup", "board") with { Rank = 1 },
        Some.Box("bowl", "board") with { Rank = 2 },
        Some.Box("jar", "board") with { Rank = 3 },
        Some.Box("table", null) with { Rank = 9 });

    private static IEnumerable<string> Order(SceneDocument scene, string? parent) => scene.Children(parent);

    [Fact]
    public void One_level_out_keeps_the_order_and_stands_right_after_what_carried_it()
    {
        var scene = Shelf();
        scene.Keep([.. Ordering.OneLevelOut(scene, ["jar", "cup", "table"])]);
        Assert.Equal(["board", "cup", "jar"], Order(scene, "shelf"));
        Assert.Equal(["bowl"], Order(scene, "board"));
        scene.Keep([.. Ordering.OneLevelOut(scene, ["board", "bowl"])]);
        Assert.Equal(["shelf", "board", "table"], Order(scene, null));
        Assert.Equal(["bowl"], Order(scene, "board"));
        Assert.Empty(Ordering.OneLevelOut(scene, ["table", "gone"]));
    }

    [Fact]
    public void Nothing_moves_in_the_world_by_a_level_out_or_among_siblings() =>
        Gen.Select(Some.Chains, Gen.Int[-1, 1]).Sample((scene, way) =>
        {
            var before = scene.Nodes.ToDictionary(n => n.Id, n => scene.World(n.Id));
            try
            {
                scene.Keep([.. Ordering.OneLevelOut(scene, ["child"])]);
                Assert.Equal("grand", scene.Find("child")!.Parent);
                if (Ordering.AmongSiblings(scene, "child", way) is { } edit)
                {
                    scene.Keep(edit);
                }
                Tally.Done();
            }
            catch (Refusal refusal) when (refusal.Word is Refusals.TooThin or Refusals.SingularParent)
            {
                Tally.Refused(refusal);
                // Three that are sheared and scaled at random now and then leave no room for it.
            }

            foreach (var (id, world) in before)
            {
                Some.Near(world.Offset, scene.World(id).Offset, 1e-6);
            }
        });

    [Fact]
    public void Among_siblings_each_step_changes_one_place_and_ends_at_the_ends()
    {
        var scene = Shelf();
        scene.Keep(Ordering.AmongSiblings(scene, "cup", 1)!);
        Assert.Equal(["bowl", "cup", "jar"], Order(scene, "board"));
        scene.Keep(Ordering.AmongSiblings(scene, "cup", 1)!);
        Assert.Equal(["bowl", "jar", "cup"], Order(scene, "board"));
        Assert.Null(Ordering.AmongSiblings(scene, "cup", 1));
        scene.Keep(Ordering.AmongSiblings(scene, "cup", -1)!);
        Assert.Equal(["bowl", "cup", "jar"], Order(scene, "board"));
        Assert.Null(Ordering.AmongSiblings(scene, "bowl", -1));
        Assert.Null(Ordering.AmongSiblings(scene, "gone", 1));
    }

    [Fact]
    public void New_marks_get_names_that_none_has_and_namesakes_are_told()
    {
        var scene = Some.Scene(Some.Mark("a", null, Vec3.Zero, Vec3.Zero) with { Name = "Mark 2" }, Some.Box("hinge", null) with { Name = "Hinge" });
        Assert.Equal("Mark 3", Marks.NextName(scene));
        Assert.Equal("Hinge", Marks.NextName(scene, "Hinge"));
        scene.Keep(new CreateMark("Hinge", new(Node: "hinge"), "b"), new CreateMark("Mark 3", new(), "c"));
        Assert.Equal(("Mark 4", "Hinge 2"), (Marks.NextName(scene), Marks.NextName(scene, "Hinge")));
        Assert.False(Ordering.HasNamesake(scene, "b"));
        scene.Keep(new Rename("c", "Hinge"));
        Assert.True(Ordering.HasNamesake(scene, "b"));
        Assert.False(Ordering.HasNamesake(scene, "hinge"));
    }
}
