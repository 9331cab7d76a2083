using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>A shape of another size stays standing where its pivot stands.</summary>
public sealed class ShapeSizeLaws
{
    private static readonly Gen<(ShapePatch From, ShapePatch To)> Sizes = Gen.OneOf(
        Gen.Double[0.1, 9].Array[6].Select(v => (new ShapePatch { Type = "box", Size = v[..3] }, new ShapePatch { Size = v[3..] })),
        Gen.Double[0.1, 9].Array[4].Select(v => (new ShapePatch { Type = "cylinder", Radius = v[0], Height = v[1] }, new ShapePatch { Radius = v[2], Height = v[3] })),
        Gen.Double[0.1, 9].Array[2].Select(v => (new ShapePatch { Type = "ball", Radius = v[0] }, new ShapePatch { Radius = v[1], Segments = 7 })),
        Gen.Double[0.1, 9].Array[4].Select(v => (new ShapePatch { Type = "plane", Size = v[..2] }, new ShapePatch { Size = v[2..] })),
        Gen.Double[0.1, 9].Array[2].Select(v => (new ShapePatch { Type = "box" }, new ShapePatch { Type = "cone", Radius = v[0], Height = v[1] })));

    private static readonly Gen<Vec3> TheAnchors = Some.Vector(Gen.Int[-1, 1].Select(i => (double)i));

    [Fact]
    public void A_pivot_on_one_of_the_27_points_stays_on_it_and_stays_where_it_is() =>
        Gen.Select(Sizes, TheAnchors, Some.Placements, Some.Placements, Gen.Bool).Sample((sizes, anchor, above, placement, shares) =>
        {
            var shape = Shape.Default(sizes.From.Type!).With(sizes.From);
            var pivot = Extents.Of(shape).OwnBounds.Anchor(anchor);
            var node = Some.Box("thing", "above", placement with { Pivot = pivot }) with { Shape = shape, Shares = shares ? "key" : null };
            var scene = Some.Scene(Some.Box("above", null, above), node, Some.Box("mate", null, placement with { Pivot = Some.Point.Single() }) with { Shape = shape, Shares = shares ? "key" : null });
            var (stood, mate) = (scene.World("thing").Point(pivot), scene.Find("mate")!.Placement);
            scene.Keep(new SetShape("thing", sizes.To));
            var after = scene.Find("thing")!;
            var bounds = Extents.Of(after.Shape!).OwnBounds;
            Some.Near(stood, scene.World("thing").Point(after.Placement.Pivot), 1e-9);
            // Where a side has no extent, all its points are one.
            var kept = Anchors.At(bounds, after.Placement.Pivot);
            Assert.NotNull(kept);
            for (var i = 0; i < 3; i++)
            {
                Assert.True(kept.Value[i] == anchor[i] || Extents.Of(shape).OwnBounds.Size[i] < 1e-9 || bounds.Size[i] < 1e-9);
            }

            Assert.Equal(placement with { Pivot = Vec3.Zero }, after.Placement with { Pivot = Vec3.Zero });
            if (Anchors.At(Extents.Of(shape).OwnBounds, mate.Pivot) is null)
            {
                Assert.Equal(mate, scene.Find("mate")!.Placement);
            }
        });

    [Fact]
    public void A_pivot_elsewhere_keeps_its_numbers() =>
        Gen.Select(Sizes, Some.Point, Some.Placements).Sample((sizes, pivot, placement) =>
        {
            var shape = Shape.Default(sizes.From.Type!).With(sizes.From);
            if (Anchors.At(Extents.Of(shape).OwnBounds, pivot) is not null)
            {
                return;
            }

            var scene = Some.Scene(Some.Box("thing", null, placement with { Pivot = pivot }) with { Shape = shape });
            scene.Keep(new SetShape("thing", sizes.To));
            Assert.Equal(placement with { Pivot = pivot }, scene.Find("thing")!.Placement);
        });

    [Fact]
    public void The_27_points_are_found_again_and_nothing_else_is() =>
        Gen.Select(Some.Point, Some.Vector(Gen.Double[0.001, 50]), TheAnchors, Gen.Double[0.001, 0.4], Gen.Int[0, 2]).Sample((low, size, anchor, off, axis) =>
        {
            var bounds = new Bounds(low, low + size);
            Assert.Equal(anchor, Anchors.At(bounds, bounds.Anchor(anchor)));
            Assert.Null(Anchors.At(bounds, bounds.Anchor(anchor) + Vec3.Axis(axis) * (off * size.Length)) is { } other && other == anchor ? other : null);
        });

    [Fact]
    public void It_says_where_it_is_kept()
    {
        var scene = Some.Scene(Some.Box("Drum", null, Placement.Default with { Pivot = new(0, -1, 0) }), Some.Box("Free", null, Placement.Default with { Pivot = new(0.3, 0, 0) }));
        string Say(Edit edit) => edit.Say(new(scene));
        Assert.Equal("Changed the shape of Drum: size 1 m × 5 m × 3 m, kept at the middle of the base", Say(new SetShape("Drum", new() { Size = [1, 5, 3] })));
        Assert.Equal("Changed the shape of Free: size 1 m × 5 m × 3 m", Say(new SetShape("Free", new() { Size = [1, 5, 3] })));
        Assert.Equal("Changed the shape of Drum: segments 12", Say(new SetShape("Drum", new() { Segments = 12 })));
    }
}
