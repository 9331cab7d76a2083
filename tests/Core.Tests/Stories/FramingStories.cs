using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>What is framed is seen whole, and never from a millimetre away.</summary>
public sealed class FramingStories
{
    private static Node Bare(string id, NodeKind kind, Vec3 at, string? parent = null) =>
        Node.Bare(id, id, kind, parent, Placement.Default with { Position = at }) with { Light = kind == NodeKind.Light ? Light.Default : null };

    private static Bounds Framed(SceneDocument scene, params string[] ids) => Framing.Of(new(scene), ids);

    [Fact]
    public void A_thing_without_extent_is_framed_as_one_of_a_sensible_size()
    {
        foreach (var kind in (NodeKind[])[NodeKind.Light, NodeKind.Camera, NodeKind.Mark, NodeKind.Group])
        {
            var alone = Framed(Some.Scene(Bare("it", kind, new(5, 6, 7))), "it");
            Some.Near(new Vec3(5, 6, 7), alone.Middle);
            Assert.Equal(1, alone.Size.X, 1e-12);
        }
    }

    [Fact]
    public void The_size_goes_by_the_scene() =>
        Gen.Double[0.001, 5000].Sample(size =>
        {
            var scene = Some.Scene(
                Some.Box("hall", null) with { Shape = new Box(new Vec3(size, size, size)) },
                Bare("lamp", NodeKind.Light, new(0, size, 0)));
            var framed = Framed(scene, "lamp").Size.X;
            Assert.InRange(framed / size, 0.02, 0.5);
        });

    [Fact]
    public void What_has_an_extent_is_framed_with_its_pivot_and_nothing_more()
    {
        var scene = Some.Scene(Some.Box("arm", null, Placement.Default with { Pivot = new(0, 9, 0), Position = new(0, 9, 0) }), Bare("lamp", NodeKind.Light, new(20, 0, 0)));
        var framed = Framed(scene, "arm");
        Some.Near(new Vec3(-0.5, -1, -1.5), framed.Low);
        Some.Near(new Vec3(0.5, 9, 1.5), framed.High);
        Assert.True(Framed(scene, "arm", "lamp").High.X > 20);
        Assert.True(Framed(scene, "gone").IsEmpty);
        Assert.True(Framed(scene).IsEmpty);
    }
}
