using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>How a new node stands to a picked one.</summary>
[JsonConverter(typeof(CamelCase<AddWhere>))]
public enum AddWhere
{
    /// <summary>It rides on it, as its last child.</summary>
    Inside,

    /// <summary>It stands right after it, on the same parent.</summary>
    Beside,

    /// <summary>It takes its place in the tree and carries it; nothing is displaced.</summary>
    Around,
}

/// <summary>Adds a node to each of the picked. One that rides on another of them gets none.</summary>
/// <param name="Ids">The ids of the new nodes, in the order of the picked; null: new ones.</param>
/// <param name="At">
/// Where their pivots go, with the directions there. Null: where the placement gives a position, there; else inside a node at
/// its frame's origin, beside it at the next free place, around it where that node stands.
/// </param>
/// <param name="View">The world matrix of the view in which a free place is looked for: along the axis that runs most to its right.</param>
public sealed record Add(
    NewNode Node,
    IReadOnlyList<string> Nodes,
    AddWhere Where,
    IReadOnlyList<string>? Ids = null,
    BringTo? At = null,
    Affine? View = null) : Edit
{
    public override IReadOnlyList<string> Picked => Ids ?? Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var hosts = Targets.Tops(draft, Nodes);
        PutUnder.CheckInTree(hosts);
        var ids = Targets.IdsFor(hosts, Nodes, Ids);
        if (Ids is not null && ids is null)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The ids of the new objects are one for each of the {hosts.Count} picked.");
        }

        if (View is { IsFinite: false })
        {
            throw new Refusal(Refusals.NotFinite, "The view to place new objects in needs finite numbers.");
        }

        var free = Where == AddWhere.Beside && At is null && Node.Placement?.Position is null ? new FreePlace(draft, hosts) : null;
        for (var i = 0; i < hosts.Count; i++)
        {
            var (host, node) = (draft.Get(hosts[i].Id), Node with { Id = ids?[i] ?? Seats.Derived(draft, hosts[i].Id, "new", 1) });
            if (Where == AddWhere.Inside)
            {
                new Create(node, host.Id, null, At).ApplyTo(draft);
                continue;
            }

            var around = Where == AddWhere.Around;
            new Create(node, host.Parent, draft.IndexOf(host) + 1, around ? new(Node: host.Id) : At).ApplyTo(draft);
            if (around)
            {
                new PutUnder([host.Id], node.Id).ApplyTo(draft);
            }
            else if (free is not null)
            {
                StandBeside(draft, free, host, draft.Get(node.Id));
            }
        }
    }

    /// <summary>Under a parent too thin to work out a place in, it stays at the frame's origin.</summary>
    private void StandBeside(SceneDraft draft, FreePlace free, Node host, Node node)
    {
        var frame = draft.FrameOf(node);
        if (!frame.IsInvertible)
        {
            return;
        }

        var pivot = draft.PivotOf(node);
        var way = free.Beside(host, Extents.OfBranch(draft, node, Affine.Identity), pivot, FreePlace.AxisOf(View));
        var placement = node.Placement with { Position = frame.Place.Inverse().Point(pivot + way) };
        placement.Check(node.Name, node.Placement);
        draft.Put(node with { Placement = placement });
    }

    public override string? Foretell(IScene scene) => Where != AddWhere.Around
        ? null
        : $"{(Hosts(scene) is [var host] ? new Speaker(scene).Name(host) + " rides" : "They ride")} on what is added; nothing moves.";

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var hosts = Hosts(say.Scene);
        return $"Added {NameOf(say, hosts)} {Where.ToString().ToLowerInvariant()} {(hosts.Count == 1 ? say.Name(hosts[0]) : $"each of {say.Names(hosts)}")}"
            + (At is null || Where == AddWhere.Around ? "" : $" at {At.Words(say)}");
    }

    /// <summary>What rides along with another one gets none of its own.</summary>
    private List<string> Hosts(IScene scene) => [.. Targets.Tops(new(scene), Nodes).Select(host => host.Id)];

    /// <summary>The name that the one gets; of several, the one they have in common.</summary>
    private string NameOf(Speaker say, List<string> hosts) => hosts.Count == 1 && say.Scene.Find(hosts[0]) is { } host
        ? say.NewName(Node.Name, Node.Kind, Where == AddWhere.Inside ? host.Id : host.Parent)
        : Speaker.Quoted(Node.Name);
}
