using System.Text.Json.Nodes;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Edits that name what is there, but is of another kind than they are for.</summary>
public class OtherKindLaws
{
    /// <summary>An edit may be refused; where it is not, everything is a number, and all of it can be said.</summary>
    [Fact]
    public void Whatever_an_edit_names_it_is_done_or_refused() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, AnyEdit.Verbs.Count - 1], Gen.Int, Gen.Int[0, 3]).Sample(
        (room, kind, seed, scope) =>
        {
            var scene = AnyEdit.Room(room);
            if (seed % 2 == 0)
            {
                scene.Keep(new SetSurroundings(Exposure: 1));
            }

            var shot = scope > 0 && scene.Shots.Count > 0 ? scene.Shots[0] : null;
            if (scope > 1 && shot is not null)
            {
                scene.Apply(Batch.Run(scene, [new SetSurroundings(Strength: 2)], new(shot, Narrow: true)).Change);
            }

            try
            {
                // Some ids are words of edits, too: then it is not understood.
                var edit = WireJson.Read<Edit>(Misled(JsonNode.Parse(WireJson.Write(AnyEdit.Of(AnyEdit.Verbs[kind], scene, seed)))!, Ids(scene), new Random(seed), top: true).ToJsonString());
                var done = Batch.Run(scene, [edit], new(shot, Narrow: shot is not null && scope > 1));
                Assert.NotEmpty(done.Sentence);
                scene.Apply(done.Change);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.NotEmpty(refusal.Message);
            }

            using var evaluator = new Evaluator(scene);
            Assert.All(scene.Nodes, node => Assert.True(evaluator.World(node.Id).IsFinite));
            foreach (var id in scene.Shots)
            {
                Assert.All(CheatReading.All(scene, id, [.. Ids(scene)]), reading => Assert.NotEmpty(reading.Words));
                Assert.NotEmpty(DiffReading.Of(scene, id, null).Text);
            }

            Assert.Equal(scene.Shots.Count, SeenInReading.Of(scene, [scene.Nodes.First().Id, Surroundings.Single]).Count);
        },
        iter: 1500);

    private static List<string> Ids(SceneDocument scene) =>
        [.. scene.Nodes.Select(n => n.Id), .. scene.BesideNodes().Select(e => e.Id), Surroundings.Single, "/timing", ""];

    /// <summary>The same with some of the ids in it led to others.</summary>
    private static JsonNode Misled(JsonNode node, List<string> ids, Random random, bool top = false)
    {
        switch (node)
        {
            case JsonObject fields:
                foreach (var (name, value) in fields.ToList())
                {
                    // The verb stays, and what is new keeps its id.
                    if (value is not null && !(top && name is "do" or "id" or "ids"))
                    {
                        fields[name] = Misled(value.DeepClone(), ids, random);
                    }
                }

                return fields;
            case JsonArray list:
                return new JsonArray([.. list.Select(item => item is null ? null : Misled(item.DeepClone(), ids, random))]);
            case JsonValue value when value.TryGetValue<string>(out var text) && ids.Contains(text) && random.Next(2) == 0:
                return JsonValue.Create(ids[random.Next(ids.Count)]);
            default:
                return node.DeepClone();
        }
    }
}
