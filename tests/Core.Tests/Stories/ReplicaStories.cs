using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>The page's copy: own edits at once, the server's word when it comes.</summary>
public sealed class ReplicaStories : IDisposable
{
    private readonly SceneDocument _server = Scene();
    private readonly Replica _page = new(Scene());

    [Fact]
    public void An_own_edit_is_there_at_once_and_stays_when_the_server_agrees()
    {
        var (pending, stale) = _page.Keep([Move("a", 1)]);
        Assert.True(stale.Worlds);
        Some.Near(Vec3.UnitX, _page.Evaluator.World("a").Offset);
        Hear(_server.Keep(Move("a", 1)), pending.Ticket);
        Assert.Empty(_page.Unanswered);
        Agree();
    }

    [Fact]
    public void An_own_edit_is_known_by_its_digest_alone_and_by_no_other()
    {
        var (pending, _) = _page.Keep([Move("a", 1)]);
        var same = Digest.Of(_server.Keep(Move("a", 1)));
        var next = _page.Scene.Revision + 1;
        Assert.False(_page.Agree(next, pending.Ticket, Digest.Of(_server.Run(Move("a", 1.0000000000000002)))));
        Assert.False(_page.Agree(next + 1, pending.Ticket, same));
        Assert.False(_page.Agree(next, pending.Ticket + 1, same));
        Assert.Single(_page.Unanswered);
        Assert.True(_page.Agree(next, pending.Ticket, same));
        Assert.Empty(_page.Unanswered);
        Assert.Equal(next, _page.Scene.Revision);
        Assert.False(_page.Agree(next + 1, pending.Ticket, same));
    }

    [Fact]
    public void The_digest_tells_every_written_field_apart()
    {
        _server.Keep(Move("b", 4));
        Edit[] edits =
        [
            Move("a", 1), Move("a", 2), Move("b", 1), new Rename("a", "x"), new Rename("a", "y"), new PutUnder(["a"], "b"), new PutUnder(["a"], "b", Keep: Keep.Numbers),
            new See(["a"], Working: false), new See(["a"], Final: false), new LockNodes(["a"], true), new Draw(["a"], DrawnAs.Wire), new SetShape("a", new() { Size = [9, 9, 9] }),
            new SetNormals(["a"], SurfaceLook.Facets), new Remove(["a"]), new Remove(["b"]), new Gather("Set", "set", Nodes: ["a"]), new Gather("Set", "set", Nodes: ["b"]),
            new Group(["a"], "Group", Id: "g"), new Group(["a"], "Group", GroupAt.Base, "g"),
        ];
        var digests = edits.Select(e => Digest.Of(_server.Run(e))).ToList();
        Assert.Equal(digests.Count, digests.Distinct().Count());
        Assert.Equal(digests, edits.Select(e => Digest.Of(_server.Run(e))));
    }

    [Fact]
    public void Somebody_elses_step_slips_under_the_unanswered_ones()
    {
        var (mine, _) = _page.Keep([Move("a", 1)]);
        Hear(_server.Keep(Move("a", 10)), null);
        Assert.Equal(11, _page.Evaluator.World("a").Offset.X);
        Hear(_server.Keep(Move("a", 1)), mine.Ticket);
        Assert.Empty(_page.Unanswered);
        Agree();
    }

    [Fact]
    public void A_refused_edit_is_taken_back_and_later_ones_stand()
    {
        var (refused, _) = _page.Keep([Move("a", 1)]);
        _page.Keep([Move("b", 5)]);
        _page.Drop(refused.Ticket, out var dropped);
        Assert.Empty(dropped);
        Assert.Equal(0, _page.Evaluator.World("a").Offset.X);
        Assert.Equal(5, _page.Evaluator.World("b").Offset.X);
    }

    [Fact]
    public void An_own_edit_of_what_somebody_removed_is_dropped_with_the_reason()
    {
        _page.Keep([Move("a", 1)]);
        Hear(_server.Keep(new Remove(["a"])), null, out var dropped);
        Assert.Equal(Refusals.NotFound, Assert.Single(dropped).Word);
        Assert.Null(_page.Scene.Find("a"));
        Agree();
    }

    [Fact]
    public void What_is_out_of_date_is_told_line_by_line()
    {
        var renamed = _page.Keep([new Rename("a", "other")]).Stale;
        Assert.False(renamed.Outline);
        Assert.Equal(["a"], renamed.Rows);
        Assert.Equal(["b"], _page.Keep([new See(["b"], Working: false)]).Stale.Rows);
        Assert.True(_page.Keep([new PutUnder(["b"], null, 0)]).Stale.Outline);
        Assert.False(_page.Keep([Move("a", 1)]).Stale.Outline);
        Assert.Equal(["b"], _page.Keep([new SetShape("b", new() { Size = [1, 1, 1] })]).Stale.Looks);
    }

    [Fact]
    public void A_scene_comes_through_its_bulk_form_unchanged()
    {
        var placement = new Placement(new(1, 2, 3), new(10, 400, -0.0), EulerOrder.ZXY, new(-1, 2, 3), new(0.1, 0, 0), new(0, 5, 0), new(0, 0, 30), new(true, false, true));
        var scene = Some.Scene(Some.Box("a", null, placement, 2), Some.Box("b", "a", rank: 0.5), Some.Box("Ünïcode ✓", null, rank: 1));
        var read = SceneBinary.Read(SceneBinary.Write(scene), scene.Geometries);
        Assert.Equal(scene.Branch(null), read.Branch(null));
        Assert.Equal((scene.Id, scene.Name, scene.Unit, scene.Revision), (read.Id, read.Name, read.Unit, read.Revision));
    }

    public void Dispose() => _page.Dispose();

    private static SceneDocument Scene() => Some.Scene(Some.Box("a", null, rank: 1), Some.Box("b", null, rank: 2));

    private static Move Move(string node, double by) => new([node], new(by, 0, 0), new WorldSpace());

    private void Hear(Change change, long? ticket) => Hear(change, ticket, out _);

    private void Hear(Change change, long? ticket, out IReadOnlyList<Refusal> dropped) => _page.Hear(
        ++_server.Revision,
        [.. change.Nodes.Where(n => n.After is not null).Select(n => n.After!)],
        [.. change.Nodes.Where(n => n.After is null).Select(n => n.Id)],
        ticket,
        out dropped);

    private void Agree()
    {
        Assert.Equal(_server.Branch(null), _page.Scene.Branch(null));
        Assert.Equal(_server.Revision, _page.Scene.Revision);
        Assert.All(_server.Nodes, node => Some.Near(_server.World(node.Id), _page.Evaluator.World(node.Id)));
    }
}
