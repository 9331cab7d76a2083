using System.Text.Json;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Nothing is lost on the way between page, API and store: every number comes back to the bit.</summary>
public sealed class WireLaws
{
    private static readonly Gen<double> Numbers = Gen.Frequency(
        (3, Gen.Double[-1e6, 1e6]),
        (1, Some.Of(0.0, -0.0, 0.1, 1e-300, 1e15, double.Epsilon, 1.0 / 3)));

    private static readonly Gen<Placement> Placements = Gen.Select(
        Some.Vector(Numbers),
        Some.Vector(Numbers),
        Some.Orders,
        Some.Factors,
        Some.Vector(Numbers),
        Some.Vector(Numbers),
        Some.Vector(Numbers),
        Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool),
        (position, rotation, order, scale, shear, pivot, turn, takes) =>
            new Placement(position, rotation, order, scale, shear, pivot, turn, new(takes.Item1, takes.Item2, takes.Item3)));

    private static readonly Gen<Shape> Shapes = Some.Of("box", "ball", "icoball", "cylinder", "cone", "ring", "plane", "capsule", "disc").Select(Shape.Default);

    private static readonly Gen<string> Names = Gen.String[1, 30].Where(n => n.Trim().Length > 0 && !n.Any(char.IsControl) && !n.Any(char.IsSurrogate));

    private static readonly Gen<Node> Nodes = Gen.Select(
        Names,
        Placements,
        Shapes,
        Numbers,
        Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool),
        Gen.Int[0, 3],
        (name, placement, shape, rank, switches, kind) => kind switch
        {
            0 => Some.Box("id", null, placement, rank) with
            {
                Name = name,
                Shape = shape,
                Normals = switches.Item1 ? new(NormalsHow.Smooth, Math.Abs(rank) % 180) : null,
                Switches = new(switches.Item1, switches.Item2, switches.Item3),
            },
            1 => Some.Box("id", null, placement, rank) with { Name = name, Kind = NodeKind.Group, Shape = null, Materials = [] },
            2 => Some.Box("id", null, placement, rank) with
            {
                Name = name,
                Kind = NodeKind.Camera,
                Shape = null,
                Materials = [],
                Camera = Camera.Default with { Aspect = switches.Item1 ? 2.39 : null, Fov = 12.345678901234567 },
            },
            _ => Some.Box("id", null, placement, rank) with
            {
                Name = name,
                Kind = NodeKind.Light,
                Shape = null,
                Materials = [],
                Light = Light.Default with { Intensity = Math.Abs(rank), Range = switches.Item2 ? 3.3 : null },
            },
        });

    [Fact]
    public void A_node_comes_through_its_json() => Nodes.Sample(node =>
    {
        var json = WireJson.Write(new NodeData(node));
        Assert.Equal(node, WireJson.Read<NodeData>(json).Node);
    });

    [Fact]
    public void A_scene_comes_through_its_bulk_form() => Nodes.Array[1, 12].Sample(nodes =>
    {
        // A chain with branches: every third node rides on the one before it.
        var scene = Some.Scene([.. nodes.Select((n, i) => n with { Id = $"n{i}", Parent = i % 3 == 0 ? null : $"n{i - 1}" })]);
        var read = SceneBinary.Read(SceneBinary.Write(scene), scene.Geometries);
        Assert.Equal(scene.Branch(null), read.Branch(null));
    });

    [Fact]
    public void An_edit_comes_through_its_json_and_does_the_same() => Gen.Select(Some.Chains, Some.Point, Some.Direction, Gen.Int[0, 6]).Sample((scene, by, axis, kind) =>
    {
        Edit edit = kind switch
        {
            0 => new Move(["child", "other"], by, new OwnSpace(), ChildrenMode.Stay),
            1 => new Rotate(["child"], by.X * 30, axis, new ViewSpace(scene.World("parent")), new AboutPoint(by), Effect.Places),
            2 => new Scale(["parent"], new(1.5, 1.5, 1.5), new SurfaceSpace(axis), new AboutMean()),
            3 => new MovePivot(["child"], new(Point: by), Keep: Keep.Numbers),
            4 => new PutUnder(["other"], "child", 0),
            5 => new Steer("child", new(Euler.ToMatrix(by * 20, EulerOrder.XYZ), by)),
            _ => new SetNormals(["child"], SurfaceLook.Smooth, 33),
        };
        var read = WireJson.Read<Edit>(WireJson.Write<Edit>(edit));
        Assert.Equal(Outcome(scene, edit), Outcome(scene, read));
        Assert.Equal(edit.Picked, read.Picked);
    });

    [Theory]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,2,1e999],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,2],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,2,3,4],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"move","nodes":null,"by":[1,2,3],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"move","by":[1,2,3],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,2,3],"space":{"kind":"sideways"}}""")]
    [InlineData("""{"do":"move","nodes":["a"],"nodes":["b"],"by":[1,2,3],"space":{"kind":"world"}}""")]
    [InlineData("""{"do":"steer","node":"a","view":[1,0,0]}""")]
    [InlineData("""{"do":"setNormals","nodes":["a"],"how":"shiny"}""")]
    [InlineData("""{"do":"fly","nodes":["a"]}""")]
    [InlineData("""{"nodes":["a"]}""")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("{")]
    public void What_is_no_edit_is_refused_in_a_sentence(string json)
    {
        var refusal = Assert.Throws<Refusal>(() => WireJson.Read<Edit>(json));
        Assert.Equal(Refusals.NotUnderstood, refusal.Word);
        Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
    }

    /// <summary>What an edit makes of a scene, or how it is refused.</summary>
    private static string Outcome(SceneDocument scene, Edit edit)
    {
        try
        {
            var (change, sentence) = Batch.Run(scene, [edit]);
            var nodes = change.Nodes.Where(n => n.After is not null).Select(n => new NodeData(n.After!)).ToArray();
            Tally.Done();
            return sentence + WireJson.Write(nodes);
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return refusal.Word + refusal.Message;
        }
    }
}
