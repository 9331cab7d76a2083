using CalmPivot.Core.Entities;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Each field of a node, whatever it holds, is compared, written, undone, told by the digest, and comes through JSON and bulk form.</summary>
public sealed class FieldLaws
{
    private static readonly Gen<(Node One, Node Other)> Two =
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Select((a, b) => (Any(a), Any(b)));

    public static TheoryData<string> Names => [.. NodeFields.Table.All.Select(f => f.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void A_field_goes_through_everything(string name)
    {
        var field = NodeFields.Table.All.Single(f => f.Name == name);
        var differed = 0;
        Two.Sample(
            (one, other) =>
            {
                var mixed = field.Take(one, other);
                var differs = !field.Same(one, other);
                Interlocked.Add(ref differed, differs ? 1 : 0);

                // Equality, what is written, and undo.
                Assert.Equal(differs, !one.Equals(mixed));
                var change = new NodeChange(one.Id, one, mixed);
                Assert.Equal(differs ? field.Part : Parts.None, change.Written());
                Assert.Equal(one, mixed.Taking(change.Written(), one));
                Assert.Equal(mixed, one.Taking(change.Written(), mixed));
                Assert.Equal(other, one.Taking(PartsOf.Every, other) with { Id = other.Id });

                // The digest tells it, of a new node and of a change.
                Assert.Equal(differs, Digest.Of(new([new(one.Id, null, one)])) != Digest.Of(new([new(one.Id, null, mixed)])));
                Assert.Equal(differs, Digest.Of(new([change])) != Digest.Of(new([new(one.Id, one, one)])));

                // JSON, and the bulk form.
                Assert.Equal(mixed, WireJson.Read<NodeData>(WireJson.Write(new NodeData(mixed))).Node);
                if (mixed.Kind.IsInTree())
                {
                    var alone = mixed with { Parent = null };
                    var scene = Some.Scene(alone);
                    Assert.Equal(alone, SceneBinary.Read(SceneBinary.Write(scene), scene.Geometries).Find(alone.Id));
                }
            },
            iter: 60);
        Assert.True(differed > 10, $"{name} hardly ever differed");
    }

    [Theory]
    [InlineData("name")]
    [InlineData("parent")]
    [InlineData("rank")]
    [InlineData("switches")]
    [InlineData("label")]
    [InlineData("rule")]
    public void A_field_of_a_collection_goes_through_everything(string name)
    {
        var field = CollectionFields.Table.All.Single(f => f.Name == name);
        var differed = 0;
        Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Select((a, b) => (AnyCollection(a), AnyCollection(b))).Sample(
            (one, other) =>
            {
                var mixed = field.Take(one, other);
                var differs = !field.Same(one, other);
                Interlocked.Add(ref differed, differs ? 1 : 0);
                Assert.Equal(differs, !one.Equals(mixed));
                var change = new EntityChange(one.Id, one, mixed);
                Assert.Equal(differs ? field.Part : Parts.None, change.Written());
                Assert.Equal(one, mixed.Fields.Taking(mixed, change.Written(), one));
                Assert.Equal(differs, Digest.Of(Change.Of([change])) != Digest.Of(Change.Of([new(one.Id, one, one)])));
                Assert.Equal(mixed, WireJson.Read<EntityData>(WireJson.Write(new EntityData(mixed))).Entity);
                var alone = mixed with { Parent = null };
                var scene = Some.Scene(alone);
                Assert.Equal(alone, SceneBinary.Read(SceneBinary.Write(scene), scene.Geometries).FindAny(alone.Id));
            },
            iter: 60);
        Assert.True(differed > 10, $"{name} hardly ever differed");
    }

    [Fact]
    public void Parts_keep_their_numbers() => Assert.Equal(
        [("Existence", 1), ("Name", 2), ("Seat", 4), ("Placement", 8), ("Shape", 16), ("Material", 32), ("Lens", 64), ("Switches", 128), ("Collections", 256), ("Label", 512), ("Rule", 1024), ("Constraints", 2048), ("Value", 4096), ("Length", 8192), ("Colour", 16384), ("Pictures", 32768)],
        PartsOf.All.Select(p => (p.ToString(), (int)p)).Take(16));

    [Fact]
    public void Every_part_is_of_some_field_and_every_field_of_the_record_stands_in_the_table()
    {
        Assert.Equal(
            PartsOf.Every & ~Parts.Existence,
            new[] { NodeFields.Table.All.Select(f => f.Part), CollectionFields.Table.All.Select(f => f.Part), ShotFields.Table.All.Select(f => f.Part), CheatFields.Table.All.Select(f => f.Part), TimingFields.Table.All.Select(f => f.Part), MaterialFields.Table.All.Select(f => f.Part), SurroundingsFields.Table.All.Select(f => f.Part) }.SelectMany(parts => parts).Aggregate(Parts.None, (all, f) => all | f));
        Assert.Equal(
            typeof(Collection).GetProperties().Select(p => char.ToLowerInvariant(p.Name[0]) + p.Name[1..]).Where(p => p is not ("id" or "fields" or "list" or "equalityContract")).Order(),
            CollectionFields.Table.All.Select(f => f.Name).Order());
        Assert.Equal(
            typeof(Shot).GetProperties().Select(p => char.ToLowerInvariant(p.Name[0]) + p.Name[1..]).Where(p => p is not ("id" or "fields" or "list" or "title" or "equalityContract")).Order(),
            ShotFields.Table.All.Select(f => f.Name).Order());
        Assert.Equal(
            typeof(Surface).GetProperties().Where(p => p.Name != "EqualityContract").Select(p => char.ToLowerInvariant(p.Name[0]) + p.Name[1..]).Concat(["name", "rank"]).Order(),
            MaterialFields.Table.All.Select(f => f.Name).Order());
        Assert.Equal(
            typeof(Node).GetProperties().Select(p => char.ToLowerInvariant(p.Name[0]) + p.Name[1..]).Where(p => p is not ("id" or "fields" or "list" or "equalityContract")).Order(),
            NodeFields.Table.All.Select(f => f.Name).Order());
    }

    private static Collection AnyCollection(int seed)
    {
        var random = new Random(seed);
        var text = new RandomJson(WireJson.Options, seed, 0).Fields(CollectionFields.Table, "collection");
        foreach (var name in CollectionFields.Table.All.Where(f => !f.Required && random.Next(3) == 0).SelectMany(f => f.Written).Select(w => w.Name))
        {
            text.Remove(name);
        }

        return (Collection)WireJson.Read<EntityData>(text.ToJsonString()).Entity with { Id = "a" };
    }

    private static Node Any(int seed)
    {
        var random = new Random(seed);
        var text = new RandomJson(WireJson.Options, seed, 0).Of(typeof(NodeData))!.AsObject();
        foreach (var name in NodeFields.Table.All.Where(f => !f.Required && random.Next(3) == 0).SelectMany(f => f.Written).Select(w => w.Name))
        {
            text.Remove(name);
        }

        return WireJson.Read<NodeData>(text.ToJsonString()).Node with { Id = "a" };
    }
}
