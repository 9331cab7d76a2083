using CalmPivot.Core.Entities;
using System.Text.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CalmPivot.Core.Wire;
using CalmPivot.Server.Api;
using CalmPivot.Server.Store;
using CsCheck;

namespace CalmPivot.Server.Tests;

/// <summary>The API, the store and the page read the same text alike.</summary>
public sealed class JsonAlikeTests
{
    [Fact]
    public void An_edit_means_the_same_in_the_page_the_api_and_the_store() => Gen.Select(Gen.Int, Gen.Int[0, 3]).Sample(
        (seed, partly) =>
        {
            var info = WireJson.Options.Of<Edit>();
            foreach (var (word, _) in RandomJson.Kinds(info))
            {
                var text = new RandomJson(WireJson.Options, seed, partly * 0.25).OfKind(info, word).ToJsonString();
                var page = Told<Edit>(() => WireJson.Read<Edit>(text));
                Assert.Equal(page, Told<Edit>(() => WireJson.Read<Edit>(text, ApiJson.Options)));
                if (page != Refusals.NotUnderstood)
                {
                    Assert.Equal(page, Told<Edit[]>(() => StoreJson.Read<Edit[]>($"[{text}]"))[1..^1]);
                }
            }
        },
        iter: 30);

    [Fact]
    public void What_the_store_writes_it_reads_and_the_answer_says_the_same() => Gen.Select(Gen.Int, Gen.Int[0, 2]).Sample((seed, partly) =>
    {
        var text = new RandomJson(WireJson.Options, seed, partly * 0.3).Of(typeof(EntityData))!.ToJsonString();
        EntityData node;
        try
        {
            node = WireJson.Read<EntityData>(text);
            Tally.Done();
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return;
        }

        var entity = node.Entity;
        PartChange[] change = [new(entity.Id, Parts.Existence, entity, null), new(entity.Id, Parts.Existence, null, entity), new(entity.Id, Parts.Name, entity, entity with { Name = "Other" })];
        var stored = Packed.As<PartChange[]>(Packed.Of(change));
        Assert.Equal(WireJson.Write(node with { Index = 0 }), WireJson.Write(new EntityData(stored[0].Was!)));
        Assert.Null(stored[0].Is);
        Assert.Equal(WireJson.Write(node with { Index = 0 }), WireJson.Write(new EntityData(stored[1].Is!)));
        Assert.Equal(Parts.Name, stored[2].Was!.Fields.Written(stored[2].Was, stored[2].Is) | Parts.Name);
        Assert.Equal("Other", stored[2].Is!.Name);
        Assert.Equal(WireJson.Write(node), WireJson.Write(Packed.As<EntityData>(Packed.Of(node))));
        var answer = new StepAnswer(3, new(1, "Moved", "me", ["a"]), [], [], [node], [new("collection", "c")], null, "d");
        var heard = JsonNode.Parse(WireJson.Write(answer, ApiJson.Options))!;
        Assert.Equal(WireJson.Write(node), heard["entities"]![0]!.ToJsonString(new() { Encoder = WireJson.Options.Encoder }));
    });

    [Fact]
    public void A_row_of_a_version_that_knew_a_field_more_is_still_read()
    {
        var write = StoreJson.Read<Write[]>("""[{"node":"a","fields":9,"later":true}]""");
        Assert.Equal(new Write("a", (Parts)9), write.Single());
    }

    [Fact]
    public void Nothing_that_the_server_leaves_out_is_asked_for_again() => Assert.Empty(
        RandomJson.AskedForInVain(ApiJson.Options, typeof(StepAnswer), typeof(SceneAnswer), typeof(LogAnswer), typeof(Write[]), typeof(EditsRequest), typeof(RestoreRequest)));

    private static string Told<T>(Func<T> read)
    {
        try
        {
            var written = WireJson.Write(read());
            Tally.Done();
            return written;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return refusal.Word;
        }
    }
}
