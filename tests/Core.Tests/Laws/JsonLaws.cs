using System.IO.Pipelines;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>
/// Every text is read alike by all readers: by the generated ones of the page and the store, and by the framework's own, which
/// keep the initial values that the code gives. What is left out is the default everywhere; what is written can be read.
/// </summary>
public sealed class JsonLaws
{
    /// <summary>The same options with nothing generated: what the code itself says of its types.</summary>
    private static readonly JsonSerializerOptions Reflected = new(WireJson.Options) { TypeInfoResolver = new DefaultJsonTypeInfoResolver() };

    private static readonly JsonSerializerOptions Whole =
        new(WireJson.Options) { DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.Never };

    public static TheoryData<string> Verbs => [.. RandomJson.Kinds(WireJson.Options.Of<Edit>()).Select(k => k.Word)];

    [Theory]
    [MemberData(nameof(Verbs))]
    public void An_edit_is_read_alike_whole_and_in_part(string verb) => Gen.Select(Gen.Int, Some.Of(0.0, 0.3, 0.7)).Sample(
        (seed, leaveOut) => ReadAlike<Edit>(new RandomJson(WireJson.Options, seed, leaveOut).OfKind(WireJson.Options.Of<Edit>(), verb)),
        iter: 40);

    [Fact]
    public void A_node_is_read_alike_whole_and_in_part() => Gen.Select(Gen.Int, Some.Of(0.0, 0.2, 0.6)).Sample((seed, leaveOut) =>
    {
        var some = new RandomJson(WireJson.Options, seed, leaveOut);
        ReadAlike<NodeData>(some.Of(typeof(NodeData)));
        ReadAlike<Surface>(some.Of(typeof(Surface)));
        ReadAlike<CopiedNodes>(some.Of(typeof(CopiedNodes)));
        ReadAlike<Space>(some.Of(typeof(Space)));
    });

    [Theory]
    [MemberData(nameof(Verbs))]
    public void What_is_written_of_an_edit_can_be_read_and_is_the_same(string verb) => Gen.Int.Sample(
        seed =>
        {
            var text = new RandomJson(WireJson.Options, seed, 0).OfKind(WireJson.Options.Of<Edit>(), verb).ToJsonString();
            ComesBack(WireJson.Read<Edit>(text));
        },
        iter: 20);

    [Theory]
    [MemberData(nameof(Verbs))]
    public void What_comes_over_a_line_in_pieces_is_read_alike(string verb) => Gen.Int.Sample(
        seed =>
        {
            var text = WireJson.Write(WireJson.Read<Edit>(new RandomJson(WireJson.Options, seed, 0).OfKind(WireJson.Options.Of<Edit>(), verb).ToJsonString()));
            var read = JsonSerializer.DeserializeAsync(Pieces(text, seed), WireJson.Options.Of<Edit>()).AsTask().GetAwaiter().GetResult();
            Assert.Equal(text, WireJson.Write(read!));
        },
        iter: 12);

    [Fact]
    public void Copied_objects_and_what_they_are_made_of_come_over_a_line_in_pieces() => Gen.Int[0, 1_000].Sample(
        room =>
        {
            var scene = AnyEdit.Room(room);
            var text = SceneText.Write(new(scene), [.. scene.Children(null)]);
            var read = JsonSerializer.DeserializeAsync(Pieces(text, room), WireJson.Options.Of<CopiedNodes>()).AsTask().GetAwaiter().GetResult();
            Assert.NotEmpty(read!.Materials!);
            Assert.Equal(text, WireJson.Write(read));
        },
        iter: 20);

    /// <summary>A text that comes a few bytes at a time, as it does to the server.</summary>
    private static PipeReader Pieces(string text, int seed)
    {
        var (pipe, random) = (new Pipe(new(pauseWriterThreshold: 0)), new Random(seed));
        _ = Task.Run(async () =>
        {
            var bytes = Encoding.UTF8.GetBytes(text).AsMemory();
            while (bytes.Length > 0)
            {
                var some = Math.Min(bytes.Length, 1 + random.Next(400));
                await pipe.Writer.WriteAsync(bytes[..some]);
                bytes = bytes[some..];
                await Task.Yield();
            }

            await pipe.Writer.CompleteAsync();
        });
        return pipe.Reader;
    }

    [Fact]
    public void What_is_left_out_when_writing_is_not_asked_for_when_reading()
    {
        Type[] travelling = [typeof(Edit), typeof(NodeData), typeof(CopiedNodes), typeof(Space)];
        Assert.InRange(RandomJson.Within(WireJson.Options, travelling).Count, 80, 210);
        Assert.Empty(RandomJson.AskedForInVain(WireJson.Options, travelling));
        foreach (var node in new[] { Bare(), Textured() })
        {
            ComesBack(node);
        }

        NodeData Bare() => WireJson.Read<NodeData>("""{"id":"a","name":"A","kind":"mesh","placement":""" + Placement + "}");
        NodeData Textured() => new(Bare().Node with { Materials = ["brass", "", "wood"] });
    }

    [Theory]
    [InlineData("""{"working":false}""", false, true, false)]
    [InlineData("""{"final":false}""", true, false, false)]
    [InlineData("""{"locked":true}""", true, true, true)]
    [InlineData("{}", true, true, false)]
    public void A_switch_switches_no_other(string switches, bool working, bool final, bool locked)
    {
        var edit = (Create)WireJson.Read<Edit>("""{"do":"create","node":{"id":"a","name":"A","kind":"group","switches":""" + switches + "}}");
        Assert.Equal(new Switches(working, final, locked), edit.Node.Switches);
        var node = WireJson.Read<NodeData>("""{"id":"a","name":"A","kind":"group","placement":""" + Placement + ""","switches":""" + switches + "}");
        Assert.Equal(new Switches(working, final, locked), node.Node.Switches);
    }

    [Theory]
    [InlineData("light", """{"type":"spot"}""")]
    [InlineData("light", "{}")]
    [InlineData("camera", "{}")]
    [InlineData("camera", """{"projection":"parallel"}""")]
    public void What_is_left_out_of_a_lamp_or_a_lens_is_as_usual(string kind, string lens)
    {
        var scene = Some.Scene();
        scene.Keep(WireJson.Read<Edit>($$$"""{"do":"create","node":{"id":"new","name":"New","kind":"{{{kind}}}","{{{kind}}}":{{{lens}}} } }"""));
        var made = scene.Find("new")!;
        Assert.Equal(kind == "light" ? (100.0, "#FFFFFF") : (38.0, null), (made.Light?.Intensity ?? made.Camera!.Fov, made.Light?.Color.Text));
    }

    [Theory]
    [InlineData("""{"do":"setOrder","nodes":["a"],"order":3}""")]
    [InlineData("""{"do":"setOrder","nodes":["a"],"order":"7"}""")]
    [InlineData("""{"do":"move","nodes":["a"],"by":[1,0,0],"space":{"kind":"world"},"children":1}""")]
    [InlineData("""{"do":"draw","nodes":["a"],"as":2}""")]
    public void Words_are_not_numbers(string json) => Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => WireJson.Read<Edit>(json)).Word);

    private const string Placement =
        """{"position":[0,0,0],"rotation":[0,0,0],"order":"XYZ","scale":[1,1,1],"shear":[0,0,0],"pivot":[0,0,0],"pivotTurn":[0,0,0],"takes":{}}""";

    [Fact]
    public void A_shape_says_only_its_own_whatever_else_is_said()
    {
        var sayingAll = new JsonSerializerOptions(WireJson.Options) { DefaultIgnoreCondition = JsonIgnoreCondition.Never };
        foreach (var type in Shape.Types)
        {
            var text = JsonSerializer.Serialize(Shape.Default(type), sayingAll.Of<Shape>());
            Assert.DoesNotContain("null", text, StringComparison.Ordinal);
            Assert.Equal(WireJson.Write(Shape.Default(type)), text);
        }
    }

    private static void ReadAlike<T>(JsonNode? json)
    {
        var text = json!.ToJsonString();
        Assert.Equal(Read<T>(text, Reflected), Read<T>(text, WireJson.Options));
    }

    private static string Read<T>(string text, JsonSerializerOptions options)
    {
        try
        {
            var read = JsonSerializer.Serialize(WireJson.Read<T>(text, options), Whole.Of<T>());
            Tally.Done();
            return read;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return refusal.Word;
        }
    }

    private static void ComesBack<T>(T value)
    {
        var text = WireJson.Write(value);
        Assert.Equal(text, WireJson.Write(WireJson.Read<T>(text)));
    }
}
