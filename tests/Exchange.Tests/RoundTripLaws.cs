using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>A scene that goes out as glTF and comes in again is the same scene, whatever has been done to it.</summary>
public sealed class RoundTripLaws
{
    [Fact]
    public void Everything_of_a_scene_comes_back() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000].Array[10], Gen.Bool).Sample(
        (room, seeds, binary) =>
        {
            var scene = AnyEdit.Room(room);
            var random = new Random(room);
            foreach (var seed in seeds)
            {
                TryKeep(scene, AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], seed);
            }

            scene.Unit = "cm";
            string[] picked = [.. scene.Branch(null).Take(2).Select(n => n.Id)];
            var file = GltfReader.Read(GltfWriter.Write(scene, new Dictionary<string, byte[]> { [AnyEdit.Image] = AnyEdit.Picture }, binary, [new("the first two", picked)]));
            var back = new SceneDocument("back", "Back", file.Unit!, 0, file.Whole, new Read(file));
            Assert.Equal("cm", back.Unit);
            static IEnumerable<CalmPivot.Core.Entities.Entity> All(SceneDocument s) => [.. s.All(), .. s.AllCollections(), .. s.AllMaterials()];
            var ids = All(scene).Zip(All(back)).ToDictionary(p => p.First.Id, p => p.Second.Id);
            Assert.Equal(scene.Nodes.Count(), back.Nodes.Count());
            foreach (var node in scene.All())
            {
                var found = back.Find(ids[node.Id])!;
                var shares = node.Shares is { } key && scene.Nodes.Count(n => n.Shares == key) > 1;
                Assert.Equal(node.Parent is { } parent ? ids[parent] : null, found.Parent);

                // Meshes on which pictures lie as a box or flat go out with coordinates of their own, by their sizes.
                var laid = node.Shares is not null && scene.Nodes.Any(n => n.Shares == node.Shares && n.Geometry is not null && Core.Spaces.Laying.Of(scene, n, Core.Numbers.Affine.Identity) is not null);
                Assert.True(laid || shares == found.Shares is not null, string.Join("\n", scene.Nodes.Where(n => n.Shares == node.Shares).Select(n => $"{n.Id} {n.Kind} {n.Geometry?[..6]} {n.Shape} {n.Normals} {n.Materials.Length} -> {back.Find(ids[n.Id])!.Shape} {back.Find(ids[n.Id])!.Geometry?[..6]} {back.Find(ids[n.Id])!.Shares}")));
                Assert.True(laid || !shares || scene.Nodes.Where(n => n.Shares == node.Shares).All(n => back.Find(ids[n.Id])!.Shares == found.Shares));
                Assert.Equal(node.Collections.Select(c => ids[c]), found.Collections);
                Assert.Equal(
                    (node.Name, node.Kind, node.Placement, node.Shape, NodeReferences.Focus.Led(node, id => ids.GetValueOrDefault(id)).Camera, node.Light, node.Switches, node.Label),
                    (found.Name, found.Kind, found.Placement, found.Shape, found.Camera, found.Light, found.Switches, found.Label));
                Assert.Equal(node.Constraints.Select(c => c.Led(id => ids[id])), found.Constraints);
                Assert.Equal(node.Shape is null ? null : node.Normals, found.Normals);
                if (node.Shape is not null)
                {
                    Assert.Equal(node.Materials.Select(id => id.Length == 0 ? id : ids[id]), found.Materials);
                }
            }

            foreach (var material in scene.AllMaterials())
            {
                var found = back.FindMaterial(ids[material.Id])!;
                Assert.True((material.Name, material.Surface) == (found.Name, found.Surface), $"{WireJson.Write(new EntityData(material))}\n{WireJson.Write(new EntityData(found))}");
            }

            foreach (var written in scene.AllCollections())
            {
                var collection = CollectionFields.OfMaterials.Led(written, id => ids[id]);
                var found = back.FindCollection(ids[written.Id])!;
                Assert.Equal(collection.Parent is { } parent ? ids[parent] : null, found.Parent);
                var rule = collection.Rule is { Under: { } under } ? ids.TryGetValue(under, out var there) ? collection.Rule with { Under = there } : null : collection.Rule;
                Assert.Equal((collection.Name, collection.Switches, collection.Label, rule), (found.Name, found.Switches, found.Label, found.Rule));
            }

            // Shots come back with all that they have of their own.
            var shots = scene.AllShots().Zip(back.AllShots()).ToList();
            Assert.Equal(scene.Shots.Count, back.Shots.Count);
            Assert.Equal(scene.Timing, back.Timing);
            Assert.Equal(scene.Surroundings.WithoutPicture(), back.Surroundings);
            foreach (var (shot, found) in shots)
            {
                Assert.Equal(shot with { Id = found.Id, Camera = shot.Camera is { } camera ? ids.GetValueOrDefault(camera) : null }, found);
                var cheats = scene.CheatsOf(shot.Id).Select(c => (Of: ids.GetValueOrDefault(c.Of, c.Of), c.Channel, Value: c.Given is { } given ? CheatValue.Of(ids[given]) : Surroundings.Of(c)?.WithoutPicture().ToValue() ?? c.Value)).ToHashSet();
                var kept = back.CheatsOf(found.Id).Select(c => (c.Of, c.Channel, c.Value)).ToHashSet();
                Assert.True(cheats.SetEquals(kept), string.Join("\n", cheats.Except(kept).Select(c => $"{back.FindAny(c.Of)!.Name} {c.Channel} {WireJson.Write(c.Value)}").Concat(file.Notes)));
            }

            Assert.Equal(picked.Length > 0 ? ["the first two"] : [], file.Selections.Select(s => s.Name));
            Assert.Equal(picked.Select(id => ids[id]), file.Selections.SelectMany(s => s.Nodes));
            Assert.All(file.Notes, note => Assert.True(note.StartsWith("Facets", StringComparison.Ordinal) || note.StartsWith("Rules", StringComparison.Ordinal), note));
        },
        iter: 150);

    [Fact]
    public void Numbers_of_materials_lenses_and_lamps_come_back_to_the_bit()
    {
        var random = new Random(5);
        var surface = new Surface("#336699", random.NextDouble(), random.NextDouble(), random.NextDouble(), "#102030", 1 + random.NextDouble(), AlphaMode.Mask, random.NextDouble());
        var camera = new Camera { Fov = 20 + random.NextDouble(), Near = random.NextDouble(), Far = 100 * (1 + random.NextDouble()), Aspect = 2 + random.NextDouble() };
        var light = new Light(LightType.Spot, "#ABCDEF", 10 * random.NextDouble(), random.NextDouble(), 10 + random.NextDouble(), 30 + random.NextDouble());
        var scene = Some.Scene(
            new Material("stuff", "Stuff") { Surface = surface },
            Some.Box("box", null) with { Materials = ["stuff"] },
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Camera = camera },
            Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = light });
        var json = System.Text.Encoding.UTF8.GetString(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: false));
        Node Back(string name, string file) => GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(file)).Nodes.Single(n => n.Name == name);
        Surface SurfaceOf(string file) => Assert.IsType<Material>(Assert.Single(GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(file)).Entities)).Surface;
        Assert.Equal(surface, SurfaceOf(json));
        Assert.Equal(camera, Back("Eye", json).Camera);
        Assert.Equal(light, Back("Lamp", json).Light);

        // Where somebody has changed what the file itself says, that counts.
        var changed = System.Text.Json.Nodes.JsonNode.Parse(json)!;
        changed["materials"]![0]!["pbrMetallicRoughness"]!["roughnessFactor"] = 0.125;
        changed["cameras"]![0]!["perspective"]!["yfov"] = 1.0;
        Assert.Equal(0.125, SurfaceOf(changed.ToJsonString()).Roughness);
        Assert.Equal(180 / Math.PI, Back("Eye", changed.ToJsonString()).Camera!.Fov, 1e-5);
    }

    [Fact]
    public void A_camera_that_somebody_hung_on_a_shape_becomes_a_camera_and_nothing_else()
    {
        var scene = Some.Scene(Some.Box("box", null) with { Shares = "it", Collections = ["set"] }, Some.Box("twin", null, rank: 1) with { Shares = "it" }, Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Camera = new() });
        var json = System.Text.Json.Nodes.JsonNode.Parse(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: false))!;
        json["nodes"]!.AsArray().Single(n => (string?)n!["name"] == "box")!["camera"] = 0;
        var camera = GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(json.ToJsonString())).Nodes.Single(n => n.Kind == NodeKind.Camera && n.Name == "box");
        Assert.Equal(Node.Bare(camera.Id, "box", NodeKind.Camera, camera.Parent, Placement.Default) with { Camera = camera.Camera }, camera);
    }

    [Fact]
    public void Names_of_others_are_cut_between_characters()
    {
        var name = string.Concat(Enumerable.Repeat("a😀", 300));
        var file = $$"""{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"name":"{{name}}"}]}""";
        var node = Assert.Single(GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(file)).Nodes);
        Assert.Equal(Rename.Fitting(node.Name), node.Name);
        var scene = Some.Scene(node);
        var (_, sentence) = Batch.Run(scene, [new Rename(node.Id, node.Name + "😀"[..0])]);
        Assert.True(Core.Scene.WholeText.Is(sentence));
        Assert.True(Core.Scene.WholeText.Is(Batch.Run(scene, [new Duplicate([node.Id])]).Sentence));
        Assert.True(Core.Scene.WholeText.Is(Batch.Run(scene, [new Duplicate([node.Id])]).Change.Nodes[0].After!.Name));
    }

    [Fact]
    public void A_file_comes_into_a_scene_with_its_marks_and_collections_at_the_point_that_is_given()
    {
        var scene = AnyEdit.Room(3);
        var file = GltfReader.Read(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: true));
        var into = Some.Scene(Some.Box("floor", null));
        into.Apply(ImportedFile.Under(into, file.All, "floor", new(Core.Numbers.Mat3.Identity, new(10, 0, 0))));
        Assert.Equal(scene.Marks.Count, into.Marks.Count);
        Assert.Equal(scene.Collections.Count, into.Collections.Count);
        foreach (var (there, here) in scene.Branch(null).Concat(scene.Marks.Select(id => scene.Find(id)!)).Zip(into.Branch("floor").Skip(1).Concat(into.Marks.Select(id => into.Find(id)!))))
        {
            var world = scene.World(there.Id);
            Some.Near(world with { Offset = world.Offset + new Core.Numbers.Vec3(10, 0, 0) }, into.World(here.Id));
        }
    }

    internal static void TryKeep(SceneDocument scene, string verb, int seed)
    {
        try
        {
            scene.Keep(AnyEdit.Of(verb, scene, seed));
        }
        catch (Core.Refusal)
        {
            // Then it was not made.
        }
    }

    private sealed class Read(ImportedFile file) : IGeometries
    {
        public Geometry? Find(string hash) => file.Geometries.TryGetValue(hash, out var bytes) ? GeometryBinary.Read(bytes) : null;

        public void Keep(string hash, Geometry geometry) => throw new NotSupportedException();
    }
}
