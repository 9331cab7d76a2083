using System.IO.Compression;
using System.Text;
using CalmPivot.Core;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange.Tests;

/// <summary>A small file cannot take much memory: what it claims is held against what is there before anything is made of it.</summary>
public sealed class ClaimTests
{
    private const string Triangle = "data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA";

    [Theory]
    [InlineData("""[{"bufferView":0,"componentType":5126,"count":4,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":36}]""", Refusals.BrokenFile)]
    [InlineData("""[{"bufferView":0,"componentType":5126,"count":40000000,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":36}]""", Refusals.BrokenFile)]
    [InlineData("""[{"bufferView":0,"componentType":5126,"count":3,"byteOffset":12,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":36}]""", Refusals.BrokenFile)]
    [InlineData("""[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":480000000}]""", Refusals.BrokenFile)]
    [InlineData("""[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":36,"byteStride":252}]""", Refusals.BrokenFile)]
    [InlineData("""[{"bufferView":7,"componentType":5126,"count":3,"type":"VEC3"}]""", """[{"buffer":0,"byteLength":36}]""", Refusals.BrokenFile)]
    [InlineData("""[{"componentType":5126,"count":40000000,"type":"VEC3"}]""", """[]""", Refusals.TooLarge)]
    [InlineData("""[{"componentType":5126,"count":40000000,"type":"VEC3","sparse":{"count":1,"indices":{"bufferView":0,"componentType":5125},"values":{"bufferView":0}}}]""", """[{"buffer":0,"byteLength":36}]""", Refusals.TooLarge)]
    public void More_entries_than_there_are_bytes_for_are_refused_at_once(string accessors, string views, string word)
    {
        var file = Encoding.UTF8.GetBytes($$$"""
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
             "accessors":{{{accessors}}},"bufferViews":{{{views}}},"buffers":[{"byteLength":36,"uri":"{{{Triangle}}}"}]}
            """);
        Assert.Equal(word, Frugally(() => Assert.Throws<Refusal>(() => GltfReader.Read(file)), most: 20).Word);
    }

    [Fact]
    public void Meshes_that_share_their_lists_are_bounded_by_what_they_unfold_to()
    {
        // A hundred thousand vertices, named two thousand times.
        const int Count = 100_000;
        var points = Convert.ToBase64String(new byte[12 * Count]);
        var primitive = """{"attributes":{"POSITION":0}}""";
        var file = Encoding.UTF8.GetBytes($$$"""
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{{{string.Join(',', Enumerable.Repeat(primitive, 2_000))}}}]}],
             "accessors":[{"bufferView":0,"componentType":5126,"count":{{{Count}}},"type":"VEC3","min":[0,0,0],"max":[0,0,0]}],"bufferViews":[{"buffer":0,"byteLength":{{{12 * Count}}}}],
             "buffers":[{"byteLength":{{{12 * Count}}},"uri":"data:application/octet-stream;base64,{{{points}}}"}]}
            """);
        Assert.Equal(Refusals.TooLarge, Frugally(() => Assert.Throws<Refusal>(() => GltfReader.Read(file)), most: 8).Word);
    }

    [Fact]
    public void What_an_archive_holds_beside_the_scene_is_not_unpacked()
    {
        const string Json = """
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
             "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],"bufferViews":[{"buffer":0,"byteLength":36}],
             "buffers":[{"byteLength":36,"uri":"some%20points.bin"}]}
            """;
        var archive = Zip(("scene/it.gltf", Encoding.UTF8.GetBytes(Json)), ("scene/some points.bin", Convert.FromBase64String(Triangle[(Triangle.IndexOf(',', StringComparison.Ordinal) + 1)..])), ("scene/huge.bin", new byte[200_000_000]));
        Assert.True(archive.Length < 1_000_000);
        var read = Frugally(() => GltfReader.Read(archive), most: 20);
        Assert.Equal(NodeKind.Mesh, Assert.Single(read.Nodes).Kind);
    }

    [Fact]
    public void What_an_archive_unpacks_to_is_bounded()
    {
        var json = """{"asset":{"version":"2.0"},"buffers":[{"byteLength":1,"uri":"a"},{"byteLength":1,"uri":"b"},{"byteLength":1,"uri":"c"}]}"""u8.ToArray();
        var archive = Zip(("it.gltf", json), ("a", new byte[200_000_000]), ("b", new byte[200_000_000]), ("c", new byte[200_000_000]));
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => GltfReader.Read(archive)).Word);
    }

    [Fact]
    public void A_mesh_takes_a_few_times_its_own_size()
    {
        const int Count = 300_000;
        var points = Convert.ToBase64String(new byte[12 * Count]);
        var file = Encoding.UTF8.GetBytes($$$"""
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
             "accessors":[{"bufferView":0,"componentType":5126,"count":{{{Count}}},"type":"VEC3","min":[0,0,0],"max":[0,0,0]}],"bufferViews":[{"buffer":0,"byteLength":{{{12 * Count}}}}],
             "buffers":[{"byteLength":{{{12 * Count}}},"uri":"data:application/octet-stream;base64,{{{points}}}"}]}
            """);

        // All that is ever made, of which some is given up on the way: 3.6 MB of points, in a text of 4.8 MB.
        Assert.Single(Frugally(() => GltfReader.Read(file), most: 20).Geometries);
        using var upload = new MemoryStream(file);
        Assert.InRange(GltfFile.Open(upload).Takes, 2 * 3_600_000, 3 * file.Length);
        Assert.InRange(GltfFile.TakesAtFirst(upload), GltfFile.Open(upload).Takes, 3 * file.Length);
    }

    [Fact]
    public void Zeros_become_no_more_than_anything_else()
    {
        // 470 MB of them in half a megabyte.
        const int Count = 39_000_000;
        var json = Encoding.UTF8.GetBytes($$$"""
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
             "accessors":[{"bufferView":0,"componentType":5126,"count":{{{Count}}},"type":"VEC3","min":[0,0,0],"max":[0,0,0]}],"bufferViews":[{"buffer":0,"byteLength":{{{12 * Count}}}}],
             "buffers":[{"byteLength":{{{12 * Count}}},"uri":"a.bin"}]}
            """);
        var archive = Zip(("it.gltf", json), ("a.bin", new byte[12 * Count]));
        Assert.True(archive.Length < 500_000);
        var refusal = Frugally(() => Assert.Throws<Refusal>(() => GltfReader.Read(archive)), most: 4);
        Assert.Equal(Refusals.TooLarge, refusal.Word);
        Assert.Contains("unpacks to more than", refusal.Message, StringComparison.Ordinal);
        using var upload = new MemoryStream(archive);
        Assert.InRange(Frugally(() => GltfFile.TakesAtFirst(upload), most: 2), 1, 200_000_000);
    }

    [Theory]
    [InlineData("[0,1]", """[{"children":[1]},{}]""")]
    [InlineData("[0,0]", "[{}]")]
    [InlineData("[0,2]", "[{},{}]")]
    [InlineData("[0,-1]", "[{},{}]")]
    [InlineData("[0,0.5]", "[{},{}]")]
    [InlineData("0", "[{},{}]")]
    [InlineData("[0]", """[{"children":[1]},{"children":[0]}]""")]
    [InlineData("[0]", """[{"children":["1"]},{}]""")]
    [InlineData("[0]", "[[{}]]")]
    [InlineData("[0]", "{}")]
    public void A_tree_that_contradicts_itself_is_damage(string tops, string nodes)
    {
        var file = Encoding.UTF8.GetBytes($$$"""{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":{{{tops}}}}],"nodes":{{{nodes}}}}""");
        Assert.Equal(Refusals.BrokenFile, Assert.Throws<Refusal>(() => GltfReader.Read(file)).Word);
    }

    [Fact]
    public void What_stands_in_a_description_in_any_order_and_with_escapes_is_read_as_it_is()
    {
        // The scene shown is the second; extras hold words of the description; a slash of the data is escaped, and the list of scenes stands first.
        var data = Triangle.Replace("/", "\\/", StringComparison.Ordinal);
        var file = Encoding.UTF8.GetBytes($$$"""
            {"scenes":[{"nodes":[0]},{"name":"It","nodes":[ 3 , 1,0 ]}],"scene":1,
             "nodes":[{"name":"a","extras":{"nodes":[7],"uri":"data:,"}},{"name":"b","mesh":0,"children":[2]},{"name":"c","extras":[1]},{"name":"d","extras":null}],
             "extras":{"buffers":[{"uri":"data:,x"}],"scenes":[{"nodes":[9,9]}]},
             "buffers":[{"uri":"{{{data}}}","byteLength":36}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
             "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],"bufferViews":[{"buffer":0,"byteLength":36}],"asset":{"version":"2.0"}}
            """);
        var read = GltfReader.Read(file);
        Assert.Equal(["d", "b", "c", "a"], read.Nodes.Select(n => n.Name));
        Assert.Equal(read.Nodes[1].Id, read.Nodes[2].Parent);
        Assert.Single(read.Geometries);
    }

    [Fact]
    public void What_is_written_ends_in_the_middle_when_it_is_stopped()
    {
        using var stop = new CancellationTokenSource();
        var model = SharpGLTF.Schema2.ModelRoot.CreateModel();
        var node = model.UseScene("it").CreateNode("a");
        OwnNode.From(Core.Tests.Some.Box("a", null)).Into(node, stop.Token);
        Assert.NotEmpty(model.WriteGLB().ToArray());
        stop.Cancel();
        Assert.ThrowsAny<OperationCanceledException>(() => model.WriteGLB());
        Assert.ThrowsAny<OperationCanceledException>(() => GltfWriter.Write(Core.Tests.AnyEdit.Room(1), new Dictionary<string, byte[]>(), binary: true, stopped: stop.Token));
    }

    [Fact]
    public void What_stands_beyond_what_can_be_computed_or_hangs_too_deep_is_not_taken_into_a_scene()
    {
        string Chain(int count, string each) => $$$"""
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{{{string.Join(',', Enumerable.Range(0, count).Select(i => $"{{{each}{(i < count - 1 ? $",\"children\":[{i + 1}]" : "")}}}"))}}}]}
            """;
        ImportedFile Read(string json) => GltfReader.Read(Encoding.UTF8.GetBytes(json));
        var scene = Core.Tests.Some.Scene(Core.Tests.Some.Box("floor", null));
        var huge = Read(Chain(8, "\"scale\":[1e10,1e10,1e10]"));
        Assert.Equal(Refusals.NotFinite, Assert.Throws<Refusal>(() => ImportedFile.Under(scene, huge.Nodes, null)).Word);
        var deep = Read(Chain(SceneDocument.MostDepth, "\"name\":\"link\""));
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => ImportedFile.Under(scene, deep.Nodes, "floor")).Word);
        scene.Apply(ImportedFile.Under(scene, deep.Nodes, null));
        Assert.Equal(SceneDocument.MostDepth + 1, scene.Count);
        Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => ImportedFile.Under(Core.Tests.AnyEdit.Room(1), huge.Nodes, "here")).Word);
    }

    /// <summary>Does something, and sees to it that it makes at most so many megabytes.</summary>
    private static T Frugally<T>(Func<T> act, int most)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        var done = act();
        Assert.InRange((GC.GetAllocatedBytesForCurrentThread() - before) / 1_000_000, 0, most);
        return done;
    }

    private static byte[] Zip(params (string Name, byte[] Bytes)[] files)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, bytes) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }
        }

        return stream.ToArray();
    }
}
