using System.Diagnostics;
using System.Runtime.CompilerServices;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>No file of ours has an error or a warning by the official validator, whatever is in the scene.</summary>
public sealed class ValidFileLaws
{
    [Fact]
    public void The_official_validator_is_silent_on_every_file()
    {
        var folder = Directory.CreateTempSubdirectory("calm-pivot-files").FullName;
        try
        {
            var written = 0;
            Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000].Array[12], Gen.Bool).Sample(
                (room, seeds, binary) =>
                {
                    var scene = AnyEdit.Room(room);
                    var random = new Random(room);
                    foreach (var seed in seeds)
                    {
                        RoundTripLaws.TryKeep(scene, AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)], seed);
                    }

                    Furnish(scene, random);
                    var file = Path.Combine(folder, $"{room}.{(binary ? "glb" : "gltf")}");
                    File.WriteAllBytes(file, GltfWriter.Write(scene, new Dictionary<string, byte[]> { [AnyEdit.Image] = AnyEdit.Picture }, binary));
                    Interlocked.Increment(ref written);
                },
                iter: 60);
            var said = Validated(folder);
            Assert.Equal(Directory.GetFiles(folder).Length, said.Count);
            Assert.True(said.Count > written / 2);
            Assert.Equal([], said.Where(line => !line.EndsWith('\t')));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>Lamps of all kinds at the ends of what they can be, a lens of each kind, and a thing of any material.</summary>
    private static void Furnish(SceneDocument scene, Random r)
    {
        Light[] lamps =
        [
            new(LightType.Panel, "#FFFFFF", 10 * r.NextDouble(), Size: 1, PanelHeight: 0.5),
            new(LightType.Spot, "#ABCDEF", r.NextDouble(), r.NextDouble(), 90, 90),
            new(LightType.Spot, "#ABCDEF", r.NextDouble(), null, r.Next(2) == 0 ? 0 : 90 * r.NextDouble(), 90),
            new(LightType.Directional, "#000000", 0),
            new(LightType.Point, "#102030", 1e6, 1e-3),
        ];
        var surface = AnyEdit.AnySurface(r);
        scene.Keep([
            new Create(new() { Id = "thing", Name = "Thing", Kind = NodeKind.Shape, Shape = new() { Type = "ball" } }),
            new MakeMaterial("anything", "Anything", new("", new("", "") { Surface = surface }), Nodes: ["thing"]),
            .. lamps.Select((lamp, i) => new Create(new() { Id = $"lamp{i}", Name = $"Lamp {i}", Kind = NodeKind.Light, Light = lamp })),
        ]);
    }

    private static List<string> Validated(string folder, [CallerFilePath] string here = "")
    {
        using var node = Process.Start(new ProcessStartInfo("node", [Path.Combine(Path.GetDirectoryName(here)!, "validate.mjs"), folder]) { RedirectStandardOutput = true })!;
        var said = node.StandardOutput.ReadToEnd();
        node.WaitForExit();
        Assert.Equal(0, node.ExitCode);
        return [.. said.Split('\n', StringSplitOptions.RemoveEmptyEntries)];
    }
}
