using System.Text.Json.Nodes;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>Colours of files that others made come in as finely as the file has them, and by six figures where these say all of it.</summary>
public sealed class ColorFileLaws
{
    private static readonly Gen<Color> Finer = Gen.Select(Gen.Double[0, 1], Gen.Double[0, 1], Gen.Double[0, 1]).Select((r, g, b) => Color.Of(new Vec3(r, g, b)));

    private static readonly Gen<Color> BySix = Gen.Int[0, (1 << 24) - 1].Select(rgb => Color.Of($"#{rgb:X6}"));

    [Fact]
    public void Six_figures_stay_six_figures() => Gen.Select(BySix, BySix, BySix).Sample((surface, glow, lamp) =>
        Assert.Equal((surface, glow, lamp), ReadByOthers(surface, glow, lamp)));

    [Fact]
    public void Finer_ones_are_off_by_single_precision_at_most() => Gen.Select(Finer, Finer, Finer).Sample((surface, glow, lamp) =>
    {
        var read = ReadByOthers(surface, glow, lamp);
        foreach (var (was, now) in new[] { (surface, read.Surface), (glow, read.Glow), (lamp, read.Lamp) })
        {
            Assert.All(Enumerable.Range(0, 3), i => Assert.InRange(now.Linear[i], was.Linear[i] * (1 - 2e-7) - 1.2e-38, was.Linear[i] * (1 + 2e-7) + 1.2e-38));
        }
    });

    [Fact]
    public void A_change_that_six_figures_do_not_see_is_taken_from_the_file()
    {
        var file = Written("#808080", "#000000", "#FFFFFF", own: true);
        file["materials"]![0]!["pbrMetallicRoughness"]!["baseColorFactor"] = new JsonArray(0.2161, 0.21586, 0.21586, 1);
        Assert.Equal(0.2161, Read(file).Surface.Linear.X, tolerance: 1e-8);
    }

    private static (Color Surface, Color Glow, Color Lamp) ReadByOthers(Color surface, Color glow, Color lamp) => Read(Written(surface, glow, lamp, own: false));

    /// <param name="own">Whether it still says what it is to us.</param>
    private static JsonNode Written(Color surface, Color glow, Color lamp, bool own)
    {
        var scene = Some.Scene(
            new Material("stuff", "Stuff") { Surface = new(surface, Emissive: glow) },
            Some.Box("box", null) with { Materials = ["stuff"] },
            Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = new(Color: lamp) });
        var file = JsonNode.Parse(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: false))!;
        return own ? file : WithoutExtras(file);
    }

    private static (Color Surface, Color Glow, Color Lamp) Read(JsonNode file)
    {
        var read = GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString()));
        var surface = Assert.Single(read.Entities.OfType<Material>()).Surface;
        return (surface.Color, surface.Emissive, Assert.Single(read.Nodes, n => n.Light is not null).Light!.Color);
    }

    private static JsonNode WithoutExtras(JsonNode node)
    {
        if (node is JsonObject fields)
        {
            fields.Remove("extras");
            foreach (var (_, value) in fields.ToList())
            {
                _ = value is null ? null : WithoutExtras(value);
            }
        }
        else if (node is JsonArray items)
        {
            foreach (var item in items.OfType<JsonNode>().ToList())
            {
                WithoutExtras(item);
            }
        }

        return node;
    }
}
