using System.Text.Json;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>Edits as artists make them, with their sentences and their refusals.</summary>
public sealed class EditStories
{
    private readonly SceneDocument _scene = Some.Scene(
        Some.Box("Mount", null, Placement.Default with { Rotation = new(0, 90, 0) }, 1),
        Some.Box("Arm", "Mount", Placement.Default with { Position = Vec3.UnitX }, 1),
        Some.Box("Lamp", "Arm", rank: 1),
        Some.Box("Desk", null, rank: 2));

    [Fact]
    public void Swing_an_arm_on_its_mended_hinge()
    {
        _scene.Keep(new MovePivot(["Arm"], new(new Vec3(-1, 0, 0))));
        var hinge = _scene.World("Arm").Point(new(-0.5, 0, 0));
        _scene.Keep(new Rotate(["Arm"], 90, Vec3.UnitY, new ParentSpace(), new AboutOwn()));
        Some.Near(hinge, _scene.World("Arm").Point(new(-0.5, 0, 0)));
        Assert.Equal(90, _scene.Find("Arm")!.Placement.Rotation.Y);
    }

    [Fact]
    public void Sentences_say_what_was_done()
    {
        string Say(Edit edit) => Batch.Run(_scene, [edit]).Sentence;
        Assert.Equal("Rotated Arm +15° about its pivot, along its parent's Y", Say(new Rotate(["Arm"], 15, Vec3.UnitY, new ParentSpace(), new AboutOwn())));
        Assert.Equal("Moved 2 objects −0.25 m along the world's Z", Say(new Move(["Arm", "Desk"], new(0, 0, -0.25), new WorldSpace())));
        Assert.Equal("Scaled Desk × 1.2 about world zero, along its own X Y Z", Say(new Scale(["Desk"], new(1.2, 1.2, 1.2), new OwnSpace(), new AboutZero())));
        Assert.Equal("Put the pivot of Arm at the middle of the base", Say(new MovePivot(["Arm"], new(new Vec3(0, -1, 0)))));
        Assert.Equal("Put Desk under Lamp", Say(new PutUnder(["Desk"], "Lamp")));
        Assert.Equal("Took Lamp out", Say(new PutUnder(["Lamp"], null)));
        Assert.Equal("Removed Mount with 2 below it", Say(new Remove(["Mount"])));
        Assert.Equal("Renamed Desk to Table", Say(new Rename("Desk", " Table ")));
        Assert.Equal("Changed the shape of Desk: size 1 m × 2 m × 1 m, kept at the middle", Say(new SetShape("Desk", new() { Size = [1, 2, 1] })));
        Assert.Equal("Added Book under Desk", Say(new Create(new() { Name = "Book", Kind = NodeKind.Group }, "Desk")));
        Assert.Equal("Switched Desk off in the working view", Say(new See(["Desk"], Working: false)));
    }

    [Fact]
    public void A_node_below_a_picked_one_rides_along_and_may_lead()
    {
        var lamp = _scene.World("Lamp");
        var change = _scene.Keep(new Move(["Arm", "Lamp"], new(0, 1, 0), new LeadSpace()));
        Assert.Equal("Arm", Assert.Single(change.Nodes).Id);
        Some.Near(lamp.Offset + Vec3.UnitY, _scene.World("Lamp").Offset);
    }

    [Fact]
    public void Only_places_change_when_only_places_are_to()
    {
        var change = _scene.Keep(new Rotate(["Desk", "Mount"], 90, Vec3.UnitY, new WorldSpace(), new AboutPoint(new(2, 0, 0)), Effect.Places));
        Assert.All(change.Nodes, n => Assert.Equal(n.Before!.Placement with { Position = Vec3.Zero }, n.After!.Placement with { Position = Vec3.Zero }));
        Some.Near(new Vec3(2, 0, 2), _scene.Find("Desk")!.Placement.Position);
    }

    [Fact]
    public void The_volume_stays_when_it_is_to()
    {
        _scene.Keep(new Scale(["Desk"], new(4, 1, 1), new OwnSpace(), new AboutOwn(), new(['x'])));
        Some.Near(new Vec3(4, 0.5, 0.5), _scene.Find("Desk")!.Placement.Scale);
        var refusal = Assert.Throws<Refusal>(() => _scene.Run(new Scale(["Desk"], new(2, 2, 2), new OwnSpace(), new AboutOwn(), new(['x', 'y', 'z']))));
        Assert.Equal(Refusals.NotUnderstood, refusal.Word);
    }

    [Fact]
    public void Siblings_stand_where_they_are_put_however_often()
    {
        for (var i = 0; i < 200; i++)
        {
            _scene.Keep(new Create(new() { Id = $"n{i}", Name = "n", Kind = NodeKind.Group }, "Desk", 1));
        }

        var children = _scene.Children("Desk");
        Assert.Equal(200, children.Count);
        Assert.Equal("n0", children[0]);
        Assert.Equal("n199", children[1]);
        Assert.Equal("n1", children[^1]);
        Assert.Equal(200, children.Select(c => _scene.Find(c)!.Rank).Distinct().Count());
    }

    public static TheoryData<string, string> Wrong => new()
    {
        { """{"do":"move","nodes":[],"by":[1,0,0],"space":{"kind":"world"}}""", Refusals.NothingPicked },
        { """{"do":"move","nodes":["gone"],"by":[1,0,0],"space":{"kind":"world"}}""", Refusals.NotFound },
        { """{"do":"move","nodes":["Arm"],"by":[1e300,0,0],"space":{"kind":"world"}}""", Refusals.NotFinite },
        { """{"do":"move","nodes":["Arm"],"by":[1e999,0,0],"space":{"kind":"world"}}""", Refusals.NotUnderstood },
        { """{"do":"move","nodes":["Arm"],"by":[1,0],"space":{"kind":"world"}}""", Refusals.NotUnderstood },
        { """{"do":"move","nodes":["Arm"],"by":[1,0,0],"space":{"kind":"moon"}}""", Refusals.NotUnderstood },
        { """{"do":"move","nodes":["Arm"],"by":[1,0,0]}""", Refusals.NotUnderstood },
        { """{"do":"dance","nodes":["Arm"]}""", Refusals.NotUnderstood },
        { """{"do":"rotate","nodes":["Arm"],"by":5,"axis":[0,0,0],"space":{"kind":"world"},"about":{"kind":"own"}}""", Refusals.NotUnderstood },
        { """{"do":"scale","nodes":["Arm"],"by":[0,1,1],"space":{"kind":"own"},"about":{"kind":"own"}}""", Refusals.ZeroScale },
        { """{"do":"scale","nodes":["Arm"],"by":[1e-9,1,1],"space":{"kind":"own"},"about":{"kind":"own"}}""", Refusals.TooThin },
        { """{"do":"place","node":"Arm","placement":{"scale":[1,0,1]}}""", Refusals.ZeroScale },
        { """{"do":"place","node":"Arm","placement":{"speed":[1,0,1]}}""", Refusals.NotUnderstood },
        { """{"do":"putUnder","nodes":["Mount"],"parent":"Lamp"}""", Refusals.WouldLoop },
        { """{"do":"putUnder","nodes":["Mount"],"parent":"Mount"}""", Refusals.WouldLoop },
        { """{"do":"rename","node":"Arm","name":"  "}""", Refusals.NotUnderstood },
        { """{"do":"setShape","node":"Arm","shape":{"radius":2}}""", Refusals.NotUnderstood },
        { """{"do":"create","node":{"name":"x","kind":"ghost"}}""", Refusals.NotUnderstood },
        { """{"do":"create","node":{"id":"Arm","name":"x","kind":"group"}}""", Refusals.NotUnderstood },
        { """{"do":"create","node":{"name":"x","kind":"mesh","geometry":"00"}}""", Refusals.NotFound },
        { """{"do":"create","node":{"name":"x","kind":"shape","material":{"color":"red"}}}""", Refusals.NotUnderstood },
        { """{"do":"movePivot","nodes":["Arm"],"to":{"anchor":[2,0,0]}}""", Refusals.NotUnderstood },
        { """{"do":"move","nodes":["Arm"],"by":[1,0,0],"space":{"kind":"surface","y":[0,0,0]}}""", Refusals.NotUnderstood },
    };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void Bad_edits_are_refused_in_a_sentence(string json, string word)
    {
        var before = _scene.Branch(null).ToList();
        var refusal = Assert.Throws<Refusal>(() => _scene.Keep(WireJson.Read<Edit>(json)));
        Assert.Equal(word, refusal.Word);
        Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
        Assert.Equal(before, _scene.Branch(null));
    }

    [Fact]
    public void Of_several_edits_all_are_made_or_none()
    {
        var before = _scene.Branch(null).ToList();
        Some.Refuses(Refusals.NotFound, () => _scene.Keep(new Rename("Arm", "Boom"), new Remove(["gone"])));
        Assert.Equal(before, _scene.Branch(null));
    }

    [Fact]
    public void Locked_nodes_are_refused_by_name()
    {
        _scene.Keep(new LockNodes(["Arm"], true));
        foreach (Edit edit in new Edit[] { new Move(["Arm"], Vec3.One, new WorldSpace()), new Remove(["Mount"]), new Rename("Arm", "x"), new Place("Arm", new()) })
        {
            var refusal = Assert.Throws<Refusal>(() => _scene.Run(edit));
            Assert.Equal(Refusals.Locked, refusal.Word);
            Assert.Contains("“Arm”", refusal.Message, StringComparison.Ordinal);
        }

        _scene.Keep(new Move(["Mount"], Vec3.One, new WorldSpace()));
    }

    [Fact]
    public void A_parent_that_cannot_be_inverted_is_refused()
    {
        // Each link keeps the law of a million to one; the chain of them does not.
        var thin = Placement.Default with { Scale = new(1, 1, 1e-5) };
        var scene = Some.Scene(Some.Box("a", null, thin), Some.Box("b", "a", thin), Some.Box("c", "b", thin), Some.Box("d", "c"));
        var refusal = Assert.Throws<Refusal>(() => scene.Run(new Rotate(["d"], 10, Vec3.UnitX, new WorldSpace(), new AboutZero())));
        Assert.Equal(Refusals.SingularParent, refusal.Word);
    }

    [Fact]
    public void Why_it_is_hidden_names_the_switch()
    {
        _scene.Keep(new See(["Mount"], Working: false));
        var seen = Seen.Of(_scene, _scene.Find("Lamp")!);
        Assert.False(seen.Working);
        Assert.True(seen.Final);
        Assert.Contains("“Mount”", Assert.Single(seen.Reasons).Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Edits_come_through_their_json_unchanged()
    {
        Edit[] edits =
        [
            new Rotate(["Arm"], 15, Vec3.UnitY, new ViewSpace(new(Mat3.Identity, Vec3.One)), new AboutPoint(Vec3.One)),
            new Scale(["Arm"], new(2, 1, 1), new SurfaceSpace(Vec3.UnitY), new AboutBounds(), new(['x'])),
            new MovePivot(["Arm"], new(new Vec3(0, -1, 0), AnchorAxes.World), Keep: Keep.Numbers),
        ];
        var json = WireJson.Write(edits);
        var read = WireJson.Read<Edit[]>(json);
        Assert.Equal(json, WireJson.Write(read));
        Assert.Contains("\"do\":\"rotate\"", json, StringComparison.Ordinal);
        Assert.Contains("\"axis\":\"y\"", json, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(0, 0, 0, "the middle")]
    [InlineData(0, -1, 0, "the middle of the base")]
    [InlineData(1, 1, -1, "the +X −Z corner of the top")]
    [InlineData(-1, 0, 0, "the middle of the −X side")]
    public void The_27_points_have_words(double x, double y, double z, string words) =>
        Assert.Equal(words, Speaker.AnchorInWords(new(x, y, z)));
}
