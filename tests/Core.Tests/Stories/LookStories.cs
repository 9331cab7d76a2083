using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>What nodes look like, said once for all that look alike.</summary>
public sealed class LookStories
{
    [Fact]
    public void What_looks_alike_is_said_once()
    {
        var scene = Some.Scene(
            Some.Box("a", null),
            Some.Box("b", "a", Placement.Default with { Position = Vec3.One }),
            Some.Box("brass", null) with { Materials = ["brass"] },
            Some.Box("ball", null) with { Shape = new Ball(1, 24, 12) });
        var looks = Looks.From(scene, ["b", "ball", "a", "gone", "brass"], Nowhere);
        Assert.Equal([0, 1, 0, -1, 2], looks.Of);
        Assert.Equal(3, looks.Distinct.Count);
        Assert.Equal(new Box(new Vec3(1, 2, 3)), looks.Distinct[0].Shape);
        Assert.Equal("brass", Assert.Single(looks.Distinct[2].Materials));
    }

    private static Affine Nowhere(string id) => Affine.Identity;

    [Fact]
    public void Another_shape_or_other_normals_are_another_look()
    {
        var scene = Some.Scene(Some.Box("a", null), Some.Box("b", null), Some.Box("c", null));
        Assert.Single(Looks.From(scene, ["a", "b", "c"], Nowhere).Distinct);
        scene.Keep(new SetShape("b", new() { Size = [2, 2, 2] }));
        Assert.Equal([0, 1, 0], Looks.From(scene, ["a", "b", "c"], Nowhere).Of);
        scene.Keep(new SetNormals(["c"], SurfaceLook.Facets));
        Assert.Equal([0, 1, 2], Looks.From(scene, ["a", "b", "c"], Nowhere).Of);
    }
}
