using System.Collections.Immutable;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>What nodes are made of holds whatever is done: what a scene looks like is told by its surfaces, not by who has which id.</summary>
public sealed class MaterialLaws
{
    private static readonly string[] Verbs = ["material", "setMaterial", "removeMaterial", "assign", "takeMaterial", "mergeMaterials", "clearMaterials", "join", "separate", "duplicate", "paste", "remove"];

    private static readonly Gen<(string Verb, int Seed)[]> Some12 = Gen.Select(Some.Of(Verbs), Gen.Int[0, 1_000_000]).Array[12];

    [Fact]
    public void Merging_and_clearing_change_nothing_that_is_seen() => Gen.Select(Gen.Int[0, 1_000_000], Some12).Sample(
        (room, edits) =>
        {
            var scene = Worked(room, edits);
            var before = Seen(scene);
            foreach (var edit in new Edit[] { new MergeMaterials(), new ClearMaterials() })
            {
                try
                {
                    var change = scene.Keep(edit);
                    Assert.Equal(before, Seen(scene));
                    scene.Apply(change.Reversed());
                    Assert.Equal(before, Seen(scene));
                    scene.Apply(change);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    Assert.Equal(Refusals.NothingPicked, refusal.Word);
                }
            }

            // Afterwards no two are alike, and each is used.
            Assert.Equal(scene.Materials.Count, scene.AllMaterials().Select(m => m.Surface).Distinct().Count());
            Assert.All(scene.Materials, id => Assert.NotEmpty(scene.Referrers(id)));
        },
        iter: 150);

    [Fact]
    public void Removing_takes_it_from_all_that_had_it_or_gives_them_another_and_touches_nothing_else() => Gen.Select(Gen.Int[0, 1_000_000], Some12, Gen.Bool).Sample(
        (room, edits, instead) =>
        {
            var scene = Worked(room, edits);
            if (scene.Materials.Count < 2)
            {
                return;
            }

            var (gone, other) = (scene.Materials[room % scene.Materials.Count], scene.Materials[(room + 1) % scene.Materials.Count]);
            var before = scene.Nodes.ToDictionary(n => n.Id);
            var foretold = new RemoveMaterial(gone, instead ? other : null).Foretell(scene);
            Assert.Equal(scene.Referrers(gone).Count == 0, foretold is null);
            var start = scene.Everything.OrderBy(e => e.Id, StringComparer.Ordinal).ToList();
            var change = scene.Keep(new RemoveMaterial(gone, instead ? other : null));
            Assert.Null(scene.FindMaterial(gone));
            Assert.Empty(scene.Referrers(gone));
            foreach (var (id, was) in before)
            {
                var expected = Node.Trimmed([.. was.Materials.Select(m => m != gone ? m : instead ? other : Material.None)]);
                Assert.Equal(was with { Materials = expected }, scene.Find(id));
            }

            scene.Apply(change.Reversed());
            Assert.Equal(start, scene.Everything.OrderBy(e => e.Id, StringComparer.Ordinal));
        },
        iter: 150);

    [Fact]
    public void Given_to_some_it_is_on_them_and_on_all_that_share_their_surface_and_on_nothing_else() => Gen.Select(Gen.Int[0, 1_000_000], Some12).Sample(
        (room, edits) =>
        {
            var scene = Worked(room, edits);
            if (scene.Materials.Count == 0 || scene.Branch(null).FirstOrDefault() is null || AnyEdit.Of("assign", scene, room) is not Assign { Material: not null } assign)
            {
                return;
            }

            var before = scene.Nodes.ToDictionary(n => n.Id);
            try
            {
                scene.Keep(assign);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.All(before, b => Assert.Equal(b.Value, scene.Find(b.Key)));
                return;
            }

            var given = assign.Nodes.Select(scene.Find).OfType<Node>().Where(n => n.Kind is NodeKind.Shape or NodeKind.Mesh).SelectMany(n => Sharing.With(scene, n)).Select(n => n.Id).ToHashSet();
            foreach (var node in scene.Nodes)
            {
                var slots = Enumerable.Range(0, Materials.SlotsOf(scene, node)).Where(s => assign.Slot is not { } slot || slot == s).ToList();
                if (given.Contains(node.Id))
                {
                    Assert.All(slots, slot => Assert.True(Means(scene, assign.Material, node.MaterialOf(slot))));
                }
                else
                {
                    Assert.Equal(before[node.Id], node);
                }
            }
        },
        iter: 150);

    [Fact]
    public void Made_here_and_made_there_it_is_the_same_to_the_letter() => Gen.Select(Gen.Int[0, 1_000_000], Some12).Sample(
        (room, edits) =>
        {
            var (here, there) = (AnyEdit.Room(room), AnyEdit.Room(room));
            foreach (var (verb, seed) in edits.Where(e => e.Verb is not ("duplicate" or "paste")))
            {
                if (here.Branch(null).FirstOrDefault() is null)
                {
                    return;
                }

                var edit = AnyEdit.Of(verb, here, seed);
                var (one, other) = (Try(here, edit), Try(there, WireJson.Read<Edit>(WireJson.Write(edit))));
                Assert.Equal(one, other);
            }
        },
        iter: 100);

    [Fact]
    public void A_rule_by_materials_is_up_to_date_whatever_is_given_made_or_taken() => Gen.Select(Gen.Int[0, 1_000_000], Some12).Sample(
        (room, edits) =>
        {
            using var replica = new Replica(AnyEdit.Room(room));
            foreach (var (verb, seed) in edits)
            {
                try
                {
                    replica.Keep([AnyEdit.Of(verb, replica.Scene, seed)]);
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    continue;
                }

                var fresh = new Replica(new SceneDocument("s", "S", "m", 1, [.. replica.Scene.Everything], replica.Scene.Geometries));
                Assert.All(replica.Scene.Nodes.Where(n => n.Kind.IsInTree()), n => Assert.Equal(fresh.Sight.Of(n.Id), replica.Sight.Of(n.Id)));
                if (replica.Scene.FindCollection("shiny") is { Rule.Materials: { } ids } shiny)
                {
                    Assert.Equal(
                        replica.Scene.Branch(null).Where(n => n.Materials.Any(m => ids.Contains(m)) || n.Collections.Contains("shiny")).Select(n => n.Id),
                        Membership.MembersOf(replica.Scene, shiny).Select(n => n.Id));
                }

                fresh.Dispose();
            }
        },
        iter: 60);

    [Fact]
    public void The_id_of_what_is_said_is_told_by_every_field_of_it() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Sample((a, b) =>
    {
        var (one, other) = (AnyEdit.AnySurface(new(a)), AnyEdit.AnySurface(new(b)));
        Assert.Equal(one.Equals(other), Material.IdOf(one, "") == Material.IdOf(other, ""));
        Assert.NotEqual(Material.IdOf(one, "x"), Material.IdOf(one, ""));
        foreach (var field in MaterialFields.Table.All.Where(f => f.Part != Entities.Parts.Seat && f.Name != "name"))
        {
            var mixed = field.Take(new("", "") { Surface = one }, new Material("", "") { Surface = other }).Surface;
            Assert.Equal(mixed.Equals(one), Material.IdOf(mixed, "") == Material.IdOf(one, ""));
        }
    });

    /// <summary>The ids by which steps of former versions name materials never change.</summary>
    [Fact]
    public void Ids_of_former_materials_stay_what_they_are()
    {
        Assert.Equal("m-", Material.IdOf(Surface.Default, "")[..2]);
        var former = WireJson.Read<NodeData>(WireJson.Write(new NodeData(Some.Box("a", null))).Replace("\"switches\"", "\"material\":{\"color\":\"#C99A4E\",\"roughness\":0.85,\"metalness\":0,\"opacity\":1,\"emissive\":\"#000000\",\"emissiveStrength\":1,\"alphaMode\":\"opaque\",\"alphaCutoff\":0.5,\"doubleSided\":false,\"unlit\":false,\"textures\":[]},\"switches\"", StringComparison.Ordinal));
        Assert.Equal("m-b25e6c1e1497be5a", Assert.Single(former.Node.Materials));
    }

    [Theory]
    [InlineData(double.NaN, "#112233")]
    [InlineData(1.5, "#112233")]
    [InlineData(-0.1, "#112233")]
    [InlineData(0.5, "blue")]
    [InlineData(0.5, "#12345")]
    public void Numbers_and_colours_that_mean_nothing_are_refused_and_nothing_changes(double roughness, string color)
    {
        var scene = AnyEdit.Room(1);
        var before = scene.FindMaterial("brass");
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetMaterial("brass", Color: color, Roughness: roughness)));
        Assert.Equal(before, scene.FindMaterial("brass"));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new MakeMaterial(Like: MaterialChoice.Of(new(color, roughness)))));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetMaterial("brass", Lies: new(LiesHow.Box, Metres: 0))));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new SetMaterial("brass", Textures: [new("BaseColor", AnyEdit.Image, Repeat: new(0, 1))])));
        Some.Refuses(Refusals.NotUnderstood, () => scene.Keep(new MakeMaterial("on")));
    }

    [Fact]
    public void Sentences_say_what_was_done()
    {
        var scene = AnyEdit.Room(2);
        string Said(Edit edit) => edit.Say(new(scene));
        Assert.Equal("Gave 2 objects the material Brass", Said(new Assign(["cup", "mug"], "brass")));
        Assert.Equal("Took the material from Cup", Said(new Assign([], (string?)null)).Replace("nothing", "Cup", StringComparison.Ordinal));
        Assert.Equal("Changed the material Brass: colour #FF0000, roughness +0.1", Said(new SetMaterial("brass", Color: "#ff0000", Roughness: 0.1, Mode: Core.Amounts.AmountMode.Add)).Replace("roughness + 0.1", "roughness +0.1", StringComparison.Ordinal));
        Assert.Equal("Renamed the material Brass to Old brass", Said(new SetMaterial("brass", Name: "Old brass")));
        Assert.Equal("Made the material Brass 2 like Brass", Said(new MakeMaterial(Like: new("brass"))));
        Assert.Equal("Merged 1 material into one that is like it", Said(new MergeMaterials()));
        Assert.Contains("which then have no material there", new RemoveMaterial("brass").Foretell(scene)!, StringComparison.Ordinal);
    }

    private static SceneDocument Worked(int room, (string Verb, int Seed)[] edits)
    {
        var scene = AnyEdit.Room(room);
        foreach (var (verb, seed) in edits)
        {
            try
            {
                scene.Keep(AnyEdit.Of(verb, scene, seed));
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                // Not even thought of where there is nothing left.
            }
        }

        return scene;
    }

    private static string Try(SceneDocument scene, Edit edit)
    {
        try
        {
            var digest = Digest.Of(scene.Keep(edit));
            Tally.Done();
            return digest;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            return refusal.Word;
        }
    }

    private static bool Means(SceneDocument scene, MaterialChoice choice, string id) =>
        choice.Said is { } said ? scene.FindMaterial(id)?.Surface.Equals(said.Surface) == true : choice.Id == id;

    /// <summary>What every slot of every node looks like, in the scene and in each shot.</summary>
    private static List<string> Seen(SceneDocument scene) =>
        [.. new IScene[] { scene }.Concat(scene.Shots.Select(shot => new ShotScene(scene, shot)))
            .SelectMany(layer => layer.Branch(null).SelectMany(n => Enumerable.Range(0, Materials.SlotsOf(layer, n)).Select(slot => $"{n.Id} {slot} {WireJson.Write(layer.SurfaceOf(n, slot))}")))];
}
