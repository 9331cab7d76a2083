using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Colours are kept as finely as they come, and by six figures where these say all of it.</summary>
public sealed class ColorLaws
{
    private static readonly Gen<Vec3> Shares = Gen.Select(Gen.Double[1e-6, 0.99999], Gen.Double[0, 1], Gen.Double[0, 1]).Select((r, g, b) => new Vec3(r, g, b));

    [Fact]
    public void Six_figures_come_back_from_their_shares() => Gen.Int[0, (1 << 24) - 1].Sample(rgb =>
    {
        var color = Color.Of($"#{rgb:X6}");
        Assert.Equal(color, Color.Of(color.Linear));
        Assert.Equal($"#{rgb:X6}", color.Nearest);
        Assert.Equal($"\"#{rgb:X6}\"", WireJson.Write(color));
    });

    [Fact]
    public void A_finer_one_comes_back_to_the_bit() => Shares.Sample(linear =>
    {
        var color = Color.Of(linear);
        Assert.Null(color.Text);
        Assert.Equal(color, WireJson.Read<Color>(WireJson.Write(color)));
        Assert.Equal(linear, color.Linear);
        // The six figures that are shown for it are off by at most half a step and what a straight line differs from the curve.
        Color shown = color.Nearest;
        Assert.All(Enumerable.Range(0, 3), i =>
        {
            var step = Convert.ToInt32(shown.Nearest.Substring(1 + 2 * i, 2), 16);
            var (low, high) = (SRgb.Linear(Math.Max(step - 1, 0)), SRgb.Linear(Math.Min(step + 1, 255)));
            Assert.InRange(linear[i], (low + shown.Linear[i]) / 2, (high + shown.Linear[i]) / 2);
        });
    });

    [Fact]
    public void Steps_are_those_of_the_standard() => Assert.All(Enumerable.Range(0, 256), step =>
    {
        var c = step / 255.0;
        Assert.Equal(c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4), SRgb.Linear(step), tolerance: 1e-15);
        Assert.Equal(step, SRgb.Step(SRgb.Linear(step)));
    });

    [Fact]
    public void The_id_of_a_material_in_six_figures_is_what_it_was()
    {
        Assert.Equal("m-367875059f29d874", Material.IdOf(new("#C99A4E", 0.4, 1), "Brass"));
        Assert.Equal("m-8313848df5b6f465", Material.IdOf(new("#c99a4e", Emissive: "#4A2A05"), "Sun"));
        Assert.Equal("m-f7df24dcb093fc05", Material.IdOf(new(), ""));
        Assert.NotEqual(Material.IdOf(new(Color.Of(new Vec3(0.1, 0.2, 0.3))), ""), Material.IdOf(new(Color.Of(new Vec3(0.1, 0.2, 0.30000000001))), ""));
    }

    [Fact]
    public void In_a_shot_a_lamp_has_its_own_colour_as_finely() => Gen.Select(Shares, Gen.Bool).Sample((linear, fine) =>
    {
        Color color = fine ? Color.Of(linear) : Color.Of(linear).Nearest;
        var scene = Some.Scene(Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = Light.Default });
        scene.Keep(new MakeShot(new("one", "010", "One")));
        var (change, sentence) = Batch.Run(scene, [new SetLight(["lamp"], Color: color)], new("one", Narrow: true));
        scene.Apply(change);
        Assert.Equal(color, new ShotScene(scene, "one").Find("lamp")!.Light!.Color);
        Assert.Equal("#FFFFFF", scene.Find("lamp")!.Light!.Color);
        Assert.Contains($"colour {color}", sentence, StringComparison.Ordinal);
        var cheat = Assert.Single(scene.CheatsOf("one"));
        Assert.Equal(cheat.Value, WireJson.Read<CheatValue>(WireJson.Write(cheat.Value)));
        // A difference of colours is nothing that another shot is carried along by.
        Assert.Null(CarryAlong.Offered(scene, Batch.Run(scene, [new SetLight(["lamp"], Color: Color.Of(new Vec3(0.1, 0.2, 0.3)))]).Change, Scope.Every));
        Assert.Equal(Refusals.NotUnderstood, scene.Refused(new CarryAlong([new("one", "lamp", "light.color", [1, 1, 1])])).Word);
        scene.Apply(Batch.Run(scene, [new Everywhere("one")]).Change);
        Assert.Equal(color, scene.Find("lamp")!.Light!.Color);
        Assert.Empty(scene.CheatsOf("one"));
    });

    [Theory]
    [InlineData("""{"do":"setMaterial","material":"m","color":[0.5,0.25,1.5]}""", "from 0 to 1")]
    [InlineData("""{"do":"setMaterial","material":"m","emissive":"red"}""", "“red” is no colour")]
    [InlineData("""{"do":"setMaterial","material":"m","color":[-0.1,0,0]}""", "from 0 to 1")]
    [InlineData("""{"do":"setLight","nodes":["lamp"],"color":"#12345"}""", "“#12345” is no colour")]
    public void What_is_no_colour_is_refused(string json, string said)
    {
        var scene = Some.Scene(Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placement.Default) with { Light = Light.Default }, new Material("m", "M"));
        Assert.Contains(said, scene.Refused(WireJson.Read<Edit>(json)).Message, StringComparison.Ordinal);
    }
}
