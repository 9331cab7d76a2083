using System.Globalization;
using System.Text;
using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

public sealed class GltfTests
{
    private static readonly Gen<Vec3> Point = Vector(Gen.Double[-10, 10]);

    private static readonly Gen<Placement> Placements = Gen.Select(
        Point,
        Vector(Gen.Double[-400, 400]),
        Gen.Int[0, 5],
        Vector(Gen.Double[0.2, 3].Select(Gen.Bool, (f, m) => m ? -f : f)),
        Gen.Frequency((1, Gen.Const(Vec3.Zero)), (1, Vector(Gen.Double[-1, 1]))),
        Point,
        Gen.Frequency((1, Gen.Const(Vec3.Zero)), (1, Vector(Gen.Double[-90, 90]))),
        (position, rotation, order, scale, shear, pivot, turn) => new Placement(position, rotation, (EulerOrder)order, scale, shear, pivot, turn, Takes.All));

    [Fact]
    public void Pivots_orders_shear_and_shapes_survive_the_way_out_and_back() =>
        Placements.Array[3].Sample(
            placements =>
            {
                var scene = Chain(placements);
                var back = GltfReader.Read(GltfWriter.Write(scene, Pictures(), binary: true));
                Assert.Equal(scene.Branch(null).Select(n => n.Placement), back.Nodes.Select(n => n.Placement));
                Assert.Equal(scene.Branch(null).Select(n => (n.Name, n.Kind, n.Shape)), back.Nodes.Select(n => (n.Name, n.Kind, n.Shape)));
                Assert.Empty(back.Geometries);
            },
            iter: 60);

    [Fact]
    public void Readers_without_our_extras_find_everything_in_the_same_place() =>
        Placements.Array[3].Sample(
            placements =>
            {
                var scene = Chain(placements);
                var text = Encoding.UTF8.GetString(GltfWriter.Write(scene, Pictures(), binary: false));
                Assert.DoesNotContain("\"matrix\"", text, StringComparison.Ordinal);
                var plain = GltfReader.Read(Encoding.UTF8.GetBytes(text.Replace("calmPivot", "somebody", StringComparison.Ordinal)));
                var meshes = plain.Nodes.Where(n => n.Kind == NodeKind.Mesh).ToList();
                Assert.Equal(3, meshes.Count);
                var read = new SceneDocument("x", "x", "m", 0, plain.Nodes, new Stored(plain));
                foreach (var (original, mesh) in scene.Branch(null).Zip(meshes))
                {
                    var (there, here) = (World(scene, original), World(read, mesh));
                    Assert.True(there.Distance(here) < 1e-4 * (1 + there.Linear.Norm + there.Offset.Length), $"{there}\n{here}");
                }
            },
            iter: 60);

    [Fact]
    public void Somebody_elses_change_of_a_matrix_wins_over_our_extras()
    {
        var scene = Chain([Placement.Default with { Pivot = Vec3.UnitY, Position = Vec3.UnitY }, Placement.Default, Placement.Default]);
        var json = System.Text.Json.Nodes.JsonNode.Parse(GltfWriter.Write(scene, Pictures(), binary: false))!;
        json["nodes"]![0]!["translation"] = new System.Text.Json.Nodes.JsonArray(5, 0, 0);
        var back = GltfReader.Read(Encoding.UTF8.GetBytes(json.ToJsonString()));
        Assert.Equal(new Vec3(5, 0, 0), back.Nodes[0].Placement.Local().Offset);
    }

    [Fact]
    public void What_is_seen_of_constrained_things_is_in_the_file_and_their_constraints_come_back()
    {
        var scene = new SceneDocument("s", "S", "m", 0, Chain([Placement.Default, Placement.Default with { Position = new(0, 1, 0) }, Placement.Default with { Position = new(0, 2, 0) }]).Nodes, new Stored(new Dictionary<string, Geometry>()));
        var part = scene.Branch(null).ElementAt(1);
        var target = Core.Scene.Node.Bare("star", "Star", NodeKind.Group, null, Placement.Default with { Position = new(4, 5, 6) });
        scene.Apply(new([new("star", null, target)]));
        scene.Apply(Core.Edits.Batch.Run(scene, [new Core.Edits.Constrain([part.Id], new() { Kind = "aim", Target = "star", Axis = "+y", UpAxis = "+z" })]).Change);
        var shown = World(scene, scene.Find(part.Id)!);
        var text = Encoding.UTF8.GetString(GltfWriter.Write(scene, Pictures(), binary: false));

        // Who knows nothing of constraints finds the pose.
        var plain = GltfReader.Read(Encoding.UTF8.GetBytes(text.Replace("calmPivot", "somebody", StringComparison.Ordinal)));
        var bare = new SceneDocument("x", "x", "m", 0, plain.Nodes, new Stored(plain));
        Assert.True(shown.Distance(World(bare, plain.Nodes.Single(n => n.Name == part.Name && n.Kind != NodeKind.Mark))) < 1e-5);

        var back = GltfReader.Read(Encoding.UTF8.GetBytes(text));
        Assert.Single(back.Nodes.Single(n => n.Name == part.Name).Constraints);
        Assert.Empty(back.Notes);

        // Moved in the file since, the pose counts.
        var json = System.Text.Json.Nodes.JsonNode.Parse(text)!;
        foreach (var node in json["nodes"]!.AsArray().Where(n => n!["name"]!.GetValue<string>() == "Star"))
        {
            node!["translation"] = new System.Text.Json.Nodes.JsonArray(-4, 5, 6);
        }

        var moved = GltfReader.Read(Encoding.UTF8.GetBytes(json.ToJsonString()));
        var after = new SceneDocument("x", "x", "m", 0, moved.Nodes, new Stored(moved));
        Assert.Empty(moved.Nodes.Single(n => n.Name == part.Name).Constraints);
        Assert.Contains(moved.Notes, n => n.StartsWith("Constraints of objects", StringComparison.Ordinal));
        Assert.True(shown.Distance(World(after, moved.Nodes.Single(n => n.Name == part.Name))) < 1e-5);
    }

    [Fact]
    public void Matrices_on_every_node_mirrors_and_equal_names_stand_where_the_file_says() =>
        Placements.Array[4].Sample(
            placements =>
            {
                var worlds = new List<Affine>();
                var nodes = new StringBuilder();
                var world = Affine.Identity;
                for (var i = 0; i < placements.Length; i++)
                {
                    var local = Rounded(placements[i] with { Shear = Vec3.Zero, PivotTurn = Vec3.Zero });
                    world *= local;
                    worlds.Add(world);
                    var numbers = string.Join(',', local.ToArray().Select(v => v.ToString("R", CultureInfo.InvariantCulture)));
                    var children = i < placements.Length - 1 ? $",\"children\":[{i + 1}]" : "";
                    nodes.Append(CultureInfo.InvariantCulture, $"{(i > 0 ? "," : "")}{{\"name\":\"Part\",\"matrix\":[{numbers}]{children}}}");
                }

                var file = $"{{\"asset\":{{\"version\":\"2.0\"}},\"scenes\":[{{\"nodes\":[0]}}],\"nodes\":[{nodes}]}}";
                var read = GltfReader.Read(Encoding.UTF8.GetBytes(file));
                var scene = new SceneDocument("x", "x", "m", 0, read.Nodes, new Stored(read));
                Assert.All(read.Nodes, n => Assert.Equal("Part", n.Name));
                foreach (var (expected, node) in worlds.Zip(read.Nodes))
                {
                    Assert.True(expected.Distance(World(scene, node)) < 1e-9 * (1 + expected.Linear.Norm + expected.Offset.Length));
                }
            },
            iter: 60);

    [Fact]
    public void Materials_textures_cameras_and_lights_come_back()
    {
        byte[] picture = Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");
        var hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(picture));
        var surface = new Surface
        {
            Color = "#C9A66B",
            Roughness = 0.25,
            Metalness = 0.5,
            Opacity = 0.5,
            Emissive = "#102030",
            AlphaMode = AlphaMode.Blend,
            DoubleSided = true,
            Textures = [new("BaseColor", hash, 0, 10497, 33071, 9729, 9987, null), new("Normal", hash, 0, 10497, 10497, null, null, 0.5)],
        };
        var camera = new Camera { Projection = Projection.Parallel, Height = 3, Near = 0.5, Far = 20 };
        var light = new Light { Type = LightType.Spot, Color = "#FFE0B0", Intensity = 40, Range = 8, InnerCone = 20, OuterCone = 30 };
        var scene = Scene(
            new Material("brass", "Brass") { Surface = surface },
            Node("ball", NodeKind.Shape) with { Shape = new Ball(1, 8, 4), Materials = ["brass"] },
            Node("eye", NodeKind.Camera) with { Camera = camera },
            Node("lamp", NodeKind.Light) with { Light = light });
        var back = GltfReader.Read(GltfWriter.Write(scene, new Dictionary<string, byte[]> { [hash] = picture }, binary: true));
        Node Named(string name) => back.Nodes.Single(n => n.Name == name);
        var made = Assert.IsType<Material>(Assert.Single(back.Entities));
        Assert.Equal(("Brass", made.Id), (made.Name, Assert.Single(Named("ball").Materials)));
        var read = made.Surface;
        Assert.Equal(surface with { Textures = [] }, read with { Textures = [], Roughness = 0.25 });
        Assert.Equal(["BaseColor", "Normal"], read.Textures.Select(t => t.Channel));
        Assert.Equal((33071, 0.5), (read.Textures[0].WrapT, read.Textures[1].Strength!.Value));
        Assert.Equal(picture, back.Images[hash].Bytes);
        Assert.Equal(camera, Named("eye").Camera);
        Assert.Equal(light with { InnerCone = null, OuterCone = null }, Named("lamp").Light! with { InnerCone = null, OuterCone = null });
        Assert.Equal(30, Named("lamp").Light!.OuterCone!.Value, 1e-4);
    }

    [Fact]
    public void Any_reader_sees_through_a_camera_as_it_is_seen_through_here() => Placements.Array[3].Sample(
        placements =>
        {
            Node eye = Node("eye", NodeKind.Camera, "n1") with { Placement = placements[2], Camera = Camera.Default };
            var chain = Chain(placements[..2]);
            chain.Apply(new([new(eye.Id, null, eye), new("hat", null, Node("hat", NodeKind.Shape, "eye") with { Shape = new Box(Vec3.One) })]));
            var world = World(chain, eye);
            var bytes = GltfWriter.Write(chain, Pictures(), binary: true);
            var sees = SharpGLTF.Schema2.ModelRoot.ParseGLB(bytes).LogicalNodes.Single(n => n.Camera is not null).WorldMatrix;
            var axes = world.Linear.LensAxes();
            double[] told = [sees.M11, sees.M12, sees.M13, sees.M21, sees.M22, sees.M23, sees.M31, sees.M32, sees.M33];
            double[] expected = [.. axes.X.ToArray(), .. axes.Y.ToArray(), .. axes.Z.ToArray()];
            Assert.All(told.Zip(expected), pair => Assert.Equal(pair.Second, pair.First, 2e-3));

            // And it comes back as one object, with what it carries.
            var back = GltfReader.Read(bytes);
            Assert.Equal(["eye", "hat", "n0", "n1"], back.Nodes.Select(n => n.Name).Order());
            var again = new SceneDocument("x", "x", "m", 0, back.Nodes, new Stored(back));
            Assert.Equal(Camera.Default, back.Nodes.Single(n => n.Name == "eye").Camera);
            Assert.True(World(again, back.Nodes.Single(n => n.Name == "eye")).Distance(world) < 1e-5 * (1 + world.Linear.Norm + world.Offset.Length));
        },
        iter: 100);

    [Fact]
    public void Facets_of_shapes_and_the_shape_of_a_camera_s_picture_come_back()
    {
        var ball = Node("ball", NodeKind.Shape) with { Shape = Shape.Default("ball"), Normals = new(NormalsHow.Facets) };
        var eye = Node("eye", NodeKind.Camera) with { Camera = Camera.Default with { Aspect = 2.39 } };
        var flat = Node("flat", NodeKind.Camera) with { Camera = Camera.Default with { Projection = Projection.Parallel, Height = 3, Aspect = 1.5 } };
        var bytes = GltfWriter.Write(Scene(ball, eye, flat), Pictures(), binary: true);
        var back = GltfReader.Read(bytes).Nodes.ToDictionary(n => n.Name);
        Assert.Equal(NormalsHow.Facets, back["ball"].Normals!.How);
        Assert.Equal(2.39, back["eye"].Camera!.Aspect!.Value, tolerance: 1e-4);
        Assert.Equal(3, back["flat"].Camera!.Height, tolerance: 1e-4);
        Assert.Equal(1.5, back["flat"].Camera!.Aspect!.Value, tolerance: 1e-4);

        // Other readers see the facets in the mesh itself: no two corners of different faces share a normal.
        var (smooth, faceted) = (Shape.Default("ball").Tessellate(), new Normals(NormalsHow.Facets).On(Shape.Default("ball").Tessellate()));
        Assert.True(faceted.Parts[0].VertexCount > smooth.Parts[0].VertexCount);
    }

    [Fact]
    public void Every_attribute_of_a_mesh_is_kept()
    {
        var part = new Part(
            PartMode.Triangles, 0, [0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 0, 1, 0, 0, 1, 0, 0, 1], [[0, 0, 1, 0, 0, 1], [0.5f, 0, 1, 0, 0, 1]],
            [1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 0.5f], [1, 0, 0, 1, 1, 0, 0, 1, 1, 0, 0, 1], [0, 1, 2]);
        var lines = new Part(PartMode.Lines, 1, [0, 0, 0, 1, 1, 1], null, [], null, null, [0, 1]);
        var points = new Part(PartMode.Points, 1, [5, 5, 5], null, [], null, null, [0]);
        var bytes = GeometryBinary.Write(new([part, lines, points]));
        var stored = new Dictionary<string, Geometry> { ["g"] = GeometryBinary.Read(bytes) };
        var scene = new SceneDocument("s", "s", "m", 0, [Node("mesh", NodeKind.Mesh) with { Geometry = "g", Materials = ["one", "two"] }, new Material("two", "Two", 1) { Surface = new("#112233") }, new Material("one", "One", 2)], new Stored(stored));
        var back = GltfReader.Read(GltfWriter.Write(scene, Pictures(), binary: true));
        Assert.Equal(bytes, Assert.Single(back.Geometries).Value);
        Assert.Equal(["Two", "One"], back.Entities.Select(m => m.Name));
        Assert.Equal(["One", "Two"], back.Nodes[0].Materials.Select(id => back.Entities.Single(m => m.Id == id).Name));
    }

    [Fact]
    public void An_object_scaled_to_nothing_is_given_a_small_size_and_named()
    {
        var read = GltfReader.Read("""{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"scale":[0,0,0],"translation":[1,2,3]}]}"""u8.ToArray());
        Assert.Equal(new Vec3(1, 2, 3), read.Nodes[0].Placement.Position);
        Assert.All(read.Nodes[0].Placement.Scale.ToArray(), s => Assert.True(s > 0));
        Assert.Contains(read.Notes, n => n.Contains("scaled to nothing", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("""{"asset":{"version":"2.0"},"extensionsRequired":["EXT_secret_sauce"],"extensionsUsed":["EXT_secret_sauce"]}""", Refusals.UnsupportedFile)]
    [InlineData("""{"asset":{"version":"2.0"},"nodes":[{"children":[7]}]}""", Refusals.BrokenFile)]
    [InlineData("""{"asset":{"version":"2.0"},"nodes":[{"children":[0]}]}""", Refusals.BrokenFile)]
    [InlineData("""{"asset":{"version":"2.0"},"accessors":[{"count":2000000000,"type":"SCALAR","componentType":5126}]}""", Refusals.TooLarge)]
    [InlineData("""{"nodes":[]}""", Refusals.UnsupportedFile)]
    [InlineData("""{"asset":""", Refusals.BrokenFile)]
    public void Files_that_cannot_be_read_are_refused_with_the_reason(string json, string word) =>
        Assert.Equal(word, Assert.Throws<Refusal>(() => GltfReader.Read(Encoding.UTF8.GetBytes(json))).Word);

    private static Gen<Vec3> Vector(Gen<double> number) => Gen.Select(number, number, number).Select((x, y, z) => new Vec3(x, y, z));

    private static Dictionary<string, byte[]> Pictures() => [];

    /// <summary>The matrix as a file holds it: in 32 bits.</summary>
    private static Affine Rounded(Placement placement) => Affine.From([.. placement.Local().ToArray().Select(v => (double)(float)v)]);

    private static Node Node(string id, NodeKind kind, string? parent = null) =>
        new(id, id, kind, parent, 1 + id.Length, Placement.Default, null, null, [], null, null, Switches.Default);

    private static SceneDocument Scene(params CalmPivot.Core.Entities.Entity[] nodes) => new("s", "Scene", "m", 0, nodes, new Stored(new Dictionary<string, Geometry>()));

    private static SceneDocument Chain(Placement[] placements) => Scene([
        .. placements.Select((p, i) => Node($"n{i}", NodeKind.Shape, i == 0 ? null : $"n{i - 1}") with { Placement = p, Shape = new Box(Vec3.One) }),
    ]);

    private static Affine World(SceneDocument scene, Node node) => new SceneDraft(scene).World(node);

    private sealed class Stored(IReadOnlyDictionary<string, Geometry> known) : IGeometries
    {
        public Stored(ImportedFile file)
            : this(file.Geometries.ToDictionary(g => g.Key, g => GeometryBinary.Read(g.Value)))
        {
        }

        public Geometry? Find(string hash) => known.GetValueOrDefault(hash);

        public void Keep(string hash, Geometry geometry) => throw new NotSupportedException();
    }
}
