using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes one mesh of several shapes and meshes: the lead, in its own frame. What rode on the others rides on it; nothing moves.</summary>
public sealed record Join(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes.Count == 0 ? [] : [Nodes[^1]];

    public override void ApplyTo(SceneDraft draft)
    {
        var joined = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        if (joined.Count < 2)
        {
            throw new Refusal(Refusals.NothingPicked, "Joining needs at least two shapes or meshes. Pick them first, the one that is to stay last.");
        }

        var lead = joined[^1];
        var toLead = draft.World(lead);
        ParentFrame.Of(toLead, Takes.All).CheckInvertible(lead.Name);
        var back = toLead.Inverse();
        var parts = new List<Part>();
        var materials = new List<string>();
        foreach (var node in joined.Prepend(lead).Distinct())
        {
            var geometry = Extents.DrawnGeometryOf(draft, node)
                ?? throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” has no geometry. Only shapes and meshes can be joined.");
            var by = node.Id == lead.Id ? Numbers.Affine.Identity : back * draft.World(node);
            parts.AddRange(geometry.Parts.Select(part => Pieces.Led(part, by, materials.Count)));
            materials.AddRange(Enumerable.Range(0, Materials.SlotsOf(geometry)).Select(node.MaterialOf));
        }

        draft.Put(lead with
        {
            Kind = NodeKind.Mesh,
            Shape = null,
            Geometry = draft.Keep(new Geometry(parts)),
            Normals = null,
            Switches = lead.Switches.On(NodeKind.Mesh),
            Materials = Node.Trimmed([.. materials]),
            Shares = null,
        });
        foreach (var node in joined.SkipLast(1))
        {
            Absorb(draft, node, lead.Id);
        }

        if (!lead.Constraints.IsEmpty)
        {
            // It may have gone by something that is part of it now.
            Writer.Stand(draft, new() { [lead.Id] = toLead });
        }
    }

    public override string Say(Speaker say) => $"Joined {Nodes.Count} objects into {say.Names([.. Nodes.TakeLast(1)])}";

    private static void Absorb(SceneDraft draft, Node node, string lead)
    {
        // The lead may ride on what goes into it: it is taken out first, where it stands.
        if (draft.Ancestors(draft.Get(lead)).Any(a => a.Id == node.Id))
        {
            new PutUnder([lead], draft.Get(node.Id).Parent, draft.IndexOf(draft.Get(node.Id)) + 1).ApplyTo(draft);
        }

        if (draft.Children(node.Id) is { Count: > 0 } children)
        {
            new PutUnder([.. children], lead).ApplyTo(draft);
        }

        new Remove([node.Id], RemovedChildren.Lift).ApplyTo(draft);
    }
}
