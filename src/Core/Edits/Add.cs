using System.Text.Json.Serialization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
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
/// <param name="At">Where their pivots go, with the directions there; null: as the placement says. Around a node, it is where that node stands.</param>
public sealed record Add(NewNode Node, IReadOnlyList<string> Nodes, AddWhere Where, IReadOnlyList<string>? Ids = null, BringTo? At = null) : Edit
{
    public override IReadOnlyList<string> Picked => Ids ?? Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var hosts = Targets.Tops(draft, Nodes);
        PutUnder.CheckInTree(hosts);
        if (Ids is not null && Ids.Count != hosts.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The ids of the new objects are one for each of the {hosts.Count} picked.");
        }

        for (var i = 0; i < hosts.Count; i++)
        {
            var (host, node) = (draft.Get(hosts[i].Id), Node with { Id = Ids?[i] ?? Seats.Derived(draft, hosts[i].Id, "new", 1) });
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
        }
    }

    public override string? Foretell(IScene scene) => Where != AddWhere.Around
        ? null
        : $"{(Nodes.Count == 1 ? new Speaker(scene).Name(Nodes[0]) + " rides" : "They ride")} on what is added; nothing moves.";

    public override string Say(Speaker say) =>
        $"Added {Speaker.Quoted(Node.Name)} {Where.ToString().ToLowerInvariant()} {(Nodes.Count == 1 ? say.Name(Nodes[0]) : $"each of {say.Names(Nodes)}")}";
}
