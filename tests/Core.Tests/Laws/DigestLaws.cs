using System.Text.Json.Nodes;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever part of a node was written differently, equality and digest tell it; whoever computed the same comes to the same.</summary>
public sealed class DigestLaws
{
    [Fact]
    public void Every_part_of_a_node_counts()
    {
        var told = new HashSet<string>();
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Where((a, b) => a != b).Sample(
            (one, two) =>
            {
                var (text, other) = (Whole(one), Whole(two));
                foreach (var path in Paths(text, ""))
                {
                    var mixed = text.DeepClone().AsObject();
                    if (path is "id" or "index" || !Replace(mixed, other, path))
                    {
                        continue;
                    }

                    var (a, b) = (Read(text), Read(mixed));
                    Assert.False(a.Equals(b), $"{path} does not count for equality");
                    Assert.True(Written(a) != Written(b), $"{path} does not count for the digest of a new node");
                    var from = Read(Whole(0));
                    Assert.True(Written(a, from) != Written(b, from), $"{path} does not count for the digest of a change");
                    told.Add(path);
                }
            },
            iter: 60);
        // All there is: the placement's eight, three switches and how it is drawn, the lens, the lamp …
        Assert.Superset(new HashSet<string> { "placement.order", "placement.takes.scale", "switches.drawn", "camera.fov", "light.range", "material", "label.note", "shares", "collections", "normals.angle", "geometry" }, told);
        Assert.True(told.Count >= 40, $"{told.Count} parts");
    }

    [Fact]
    public void The_same_change_has_the_same_digest_in_any_order_and_another_has_another() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Where((one, two) => one != two).Sample((one, two) =>
    {
        var (a, b) = (Read(Whole(one)) with { Id = "a" }, Read(Whole(two)) with { Id = "b" });
        var change = new Change([new("a", null, a), new("b", null, b)]);
        var again = new Change([new("b", null, Read(Whole(two)) with { Id = "b" }), new("a", null, Read(Whole(one)) with { Id = "a" })]);
        Assert.Equal(Digest.Of(change), Digest.Of(again));
        Assert.NotEqual(Digest.Of(change), Digest.Of(new([new("a", null, b with { Id = "a" }), new("b", null, a with { Id = "b" })])));
        Assert.NotEqual(Digest.Of(change), Digest.Of(new([new("a", null, a)])));
        Assert.NotEqual(Digest.Of(new([new("a", a, null)])), Digest.Of(new([new("a", null, a)])));
    });

    private static JsonObject Whole(int seed)
    {
        var text = new RandomJson(WireJson.Options, seed, 0).Of(typeof(NodeData))!.AsObject();
        // One material or several is the same part, said in two ways.
        text["material"] = text["material"] ?? $"material-{seed}";
        text.Remove("materials");
        return text;
    }

    private static Node Read(JsonObject text) => WireJson.Read<NodeData>(text.ToJsonString()).Node;

    private static string Written(Node after, Node? before = null) => Digest.Of(new([new(after.Id, before is null ? null : before with { Id = after.Id }, after)]));

    private static IEnumerable<string> Paths(JsonObject text, string within) => text.SelectMany(p =>
        p.Value is JsonObject inner && p.Key != "shape" ? Paths(inner, $"{within}{p.Key}.") : [within + p.Key]);

    /// <summary>Takes one part from another text; false where it is the same there.</summary>
    private static bool Replace(JsonObject text, JsonObject from, string path)
    {
        var parts = path.Split('.');
        foreach (var part in parts[..^1])
        {
            (text, from) = (text[part]!.AsObject(), from[part]!.AsObject());
        }

        if (JsonNode.DeepEquals(text[parts[^1]], from[parts[^1]]))
        {
            return false;
        }

        text[parts[^1]] = from[parts[^1]]!.DeepClone();
        return true;
    }
}
