using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>Calls that nobody means well: each is refused with a sentence, or what it leaves can be evaluated, seen, stored and sent out.</summary>
public sealed class HostileLaws
{
    private static readonly JsonNode?[] Odd =
    [
        null, 0, -1, 1e308, -1e308, 1e-46, 4.9e-324, 1e15, -1e15, 2147483647, true, "", " ", "x\0y", "\n", "😀", new string('é', 600), string.Concat(Enumerable.Repeat("a😀", 300)),
        new JsonArray(), new JsonArray((JsonNode?)null), new JsonArray(1e15, 1e15, 1e15), new JsonArray(0, 0, 0), new JsonArray(1e-12, 1e-12, 1e-12), new JsonArray("desk", "desk"), new JsonArray("none"), new JsonObject(),
    ];

    private static readonly string[] Ids = ["hall", "desk", "drawer", "lid", "tray", "cup", "mug", "lamp", "eye", "here", "there", "set", "inner", "stool"];

    [Fact]
    public void What_is_accepted_can_be_evaluated_and_sent_out_and_all_else_is_refused_with_a_sentence() =>
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000].Array[12]).Sample(
            (room, seeds) =>
            {
                var scene = AnyEdit.Room(room);
                foreach (var seed in seeds)
                {
                    var text = Call(seed);
                    try
                    {
                        var change = Batch.Run(scene, WireJson.Read<Edit[]>(text)).Change;
                        scene.Apply(change);
                        Check(scene, seed % 8 == 0);
                        Tally.Done();
                    }
                    catch (Refusal refusal)
                    {
                        Tally.Refused(refusal);
                        Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
                    }
                    catch (Exception e) when (e is not Xunit.Sdk.XunitException)
                    {
                        throw new Xunit.Sdk.XunitException($"{text}\n{e}");
                    }
                }
            },
            iter: 600,
            least: 0.05);

    [Fact]
    public void Numbers_beyond_doubles_gaps_in_lists_and_characters_that_cannot_be_stored_are_not_read()
    {
        foreach (var text in new[]
        {
            """[{"do":"rotate","nodes":["desk"],"by":1e999,"axis":"x","space":{"kind":"own"},"about":{"kind":"own"}}]""",
            """[{"do":"set","nodes":["desk"],"channel":"position","values":[1e999,null,null]}]""",
            """[{"do":"setShape","node":"cup","shape":{"size":[1e999,1,1]}}]""",
            """[{"do":"setNormals","nodes":["cup"],"how":"smooth","angle":1e999}]""",
            """[{"do":"create","node":{"name":"x","kind":"camera","camera":{"far":1e999}}}]""",
            """[{"do":"create","node":{"name":"x","kind":"light","light":{"range":1e999}}}]""",
            """[{"do":"see","nodes":[null],"working":false}]""",
            """[{"do":"duplicate","nodes":["desk"],"ids":[[null]]}]""",
            """[{"do":"renameMany","nodes":["cup"],"prefix":"\u0000"}]""",
            """[{"do":"label","nodes":["tray"],"note":"\u0000"}]""",
            """[{"do":"label","nodes":["tray"],"note":"\ud83d"}]""",
            """[{"do":"setOrder","nodes":["cup"],"order":3}]""",
            """[{"do":"create","node":{"name":"x","kind":2}}]""",
        })
        {
            Assert.Equal(Refusals.NotUnderstood, Assert.Throws<Refusal>(() => WireJson.Read<Edit[]>(text)).Word);
        }
    }

    [Fact]
    public void Nested_scales_whose_product_cannot_be_computed_are_refused()
    {
        var scene = AnyEdit.Room(1);
        var nodes = Enumerable.Range(0, 8).Select(i => new Create(new() { Id = $"n{i}", Name = "n", Kind = NodeKind.Group }, i == 0 ? null : $"n{i - 1}"));
        scene.Keep([.. nodes]);
        var refused = 0;
        for (var i = 7; i >= 0; i--)
        {
            try
            {
                scene.Keep(new Place($"n{i}", new() { Scale = new(1e14, 1e14, 1e14) }));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.Equal(Refusals.NotFinite, refusal.Word);
                refused++;
            }

            Check(scene, true);
        }

        Assert.InRange(refused, 1, 7);
    }

    private static void Check(SceneDocument scene, bool export)
    {
        using var evaluator = new Evaluator(scene);
        foreach (var node in scene.Branch(null))
        {
            var world = evaluator.World(node.Id);
            Assert.True(world.IsFinite && double.IsFinite(world.Linear.Determinant), node.Name);
            Seen.Of(scene, node);
        }

        foreach (var node in scene.Nodes)
        {
            Assert.Equal(node, WireJson.Read<NodeData>(WireJson.Write(new NodeData(node))).Node);
            Assert.DoesNotContain("\\u0000", WireJson.Write(new NodeData(node)), StringComparison.Ordinal);
        }

        SceneBinary.Write(scene);
        if (export)
        {
            GltfReader.Read(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: true));
        }
    }

    private static string Call(int seed)
    {
        var random = new Random(seed);
        var json = new RandomJson(WireJson.Options, seed, random.Next(3) * 0.2);
        var info = WireJson.Options.GetTypeInfo(typeof(Edit));
        var edit = json.OfKind(info, AnyEdit.Verbs[random.Next(AnyEdit.Verbs.Count)]);
        Name(edit, random);
        for (var i = random.Next(4); i > 0; i--)
        {
            Spoil(edit, random, random.Next(4));
        }

        return new JsonArray(edit).ToJsonString();
    }

    /// <summary>Puts ids of the room where texts stand.</summary>
    private static void Name(JsonObject at, Random random)
    {
        foreach (var (key, value) in at.ToList())
        {
            if (key is "nodes" or "node" or "to" or "under" or "mark" or "collection" or "parent")
            {
                at[key] = value switch
                {
                    JsonArray list => new JsonArray([.. list.Select(_ => (JsonNode?)Ids[random.Next(Ids.Length)])]),
                    JsonValue => Ids[random.Next(Ids.Length)],
                    _ => value?.DeepClone(),
                };
            }

            if (at[key] is JsonObject inner)
            {
                Name(inner, random);
            }
        }
    }

    private static void Spoil(JsonObject at, Random random, int depth)
    {
        var keys = at.Select(p => p.Key).Where(k => k is not ("do" or "kind" or "type")).ToList();
        if (keys.Count == 0)
        {
            return;
        }

        var key = keys[random.Next(keys.Count)];
        if (depth > 0 && at[key] is JsonObject inner)
        {
            Spoil(inner, random, depth - 1);
            return;
        }

        var odd = Odd[random.Next(Odd.Length)]?.DeepClone();
        if (at[key] is JsonArray { Count: > 0 } list && random.Next(2) == 0)
        {
            list[random.Next(list.Count)] = odd;
        }
        else
        {
            at[key] = odd;
        }
    }
}
