using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Makes one mesh of several shapes and meshes: the lead, in its own frame. What rode on the others rides on it; nothing moves where it is made. Where some stand
/// otherwise to the lead in other shots, they follow it there, or what differs stays an object of its own.
/// </summary>
/// <param name="Others">Keep: whatever is not with the lead everywhere as it is here is not joined.</param>
public sealed record Join(IReadOnlyList<string> Nodes, OtherShots Others = OtherShots.Follow) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes.Count == 0 ? [] : [Nodes[^1]];

    public override void ApplyTo(SceneDraft draft)
    {
        var joined = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        if (joined.Count < 2)
        {
            throw new Refusal(Refusals.NothingPicked, "Joining needs at least two shapes or meshes. Pick them first, the one that is to stay last.");
        }

        joined = Together(draft, joined);
        var lead = joined[^1];
        if (joined.Count < 2)
        {
            throw new Refusal(
                Refusals.Cheated,
                $"None of these is with “{lead.Name}” and seen with it in every shot as here, so nothing is left to join. Join them as they are shown here, or take back what they have of their own.");
        }

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
            if (node.Id != lead.Id)
            {
                draft.Heirs.Add(new(node.Id, lead.Id, materials.Count));
            }

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

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var draft = new SceneDraft(say.Scene);
        var all = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        var joined = Together(draft, all);
        List<string> apart = [.. all.Except(joined).Select(n => n.Id)];
        return $"Joined {joined.Count} objects into {say.Name(joined[^1].Id)}"
            + (apart.Count == 0 ? "" : $"; {say.Names(apart)} {(apart.Count == 1 ? "stays an object" : "stay objects")} of {(apart.Count == 1 ? "its" : "their")} own");
    }

    public override string? Foretell(IScene scene)
    {
        var draft = new SceneDraft(scene);
        var joined = Known(draft);
        return joined.Count < 2 ? null : Remove.Untied(scene, [.. joined.SkipLast(1).Select(n => n.Id)], this) is { Count: > 0 } parts ? Speaker.Sentence(parts) : null;
    }

    public override IReadOnlyList<string> Elsewhere(IScene scene, bool done)
    {
        var draft = new SceneDraft(scene);
        var joined = Known(draft);
        return joined.Count < 2 ? [] : new Joining(draft, joined).InWords(new(scene), done);
    }

    /// <summary>What is joined, the lead last; none where it cannot be.</summary>
    private List<Node> Known(SceneDraft draft)
    {
        try
        {
            var all = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
            return all.Count < 2 ? [] : Together(draft, all);
        }
        catch (Refusal)
        {
            // What cannot be done is refused where it is done.
            return [];
        }
    }

    private List<Node> Together(SceneDraft draft, List<Node> all)
    {
        if (Others == OtherShots.Follow)
        {
            return all;
        }

        var differing = new Joining(draft, all).Differing.ToHashSet();
        return [.. all.Where(n => !differing.Contains(n.Id))];
    }

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
