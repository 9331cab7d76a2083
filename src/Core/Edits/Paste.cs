using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Adds copied nodes where they stood in the world of their scene.</summary>
/// <param name="Ids">The ids of the tops, in their order; null: new ones.</param>
/// <param name="Under">What they ride on from now on; null: nothing.</param>
public sealed record Paste(CopiedNodes Copied, IReadOnlyList<string>? Ids = null, string? Under = null) : Edit
{
    public override IReadOnlyList<string> Picked => Ids ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        Check(draft);
        Dictionary<string, string> hashes = [];
        foreach (var (hash, bytes) in Copied.Geometries ?? [])
        {
            // Named anew by what it holds, so that no text can put something else under a known name.
            hashes[hash] = draft.Keep(GeometryBinary.Read(bytes));
        }

        Dictionary<string, string> ids = [];
        var materials = MaterialsOf(draft);
        Dictionary<string, string> shares = [];
        var keys = new Sharing.Keys(draft);
        List<Node> tops = [];
        var number = 0;

        // Copies name copies; collections of this scene stay theirs, and sharing is by a word of its own.
        string? Led(Reference<Node> reference, string named, string id) =>
            reference == NodeReferences.Shares ? NodeReferences.Sharing(shares.TryGetValue(named, out var own) ? own : shares[named] = keys.Free(id))
            : reference == NodeReferences.Collections ? (draft.FindCollection(named)?.Id)
            : reference == NodeReferences.Materials ? materials.GetValueOrDefault(named)
            : reference == NodeReferences.Targets ? ids.GetValueOrDefault(named) ?? draft.Find(named)?.Id
            : ids.GetValueOrDefault(named);

        // All of them have their ids before the first is made, so that copies name copies whatever their order.
        var (top, count) = ("", 0);
        foreach (var data in Copied.Nodes)
        {
            var isTop = data.Node.Parent is null;
            if (ids.ContainsKey(data.Id) || (!isTop && !ids.ContainsKey(data.Node.Parent!)))
            {
                throw Broken();
            }

            (top, number) = isTop ? (Seats.NewId(draft, Ids?[count++]), 0) : (top, number + 1);
            ids[data.Id] = isTop ? top : Seats.NewId(draft, $"{top}-{number}");
        }

        if (ids.Values.Distinct().Count() < ids.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, "Two pasted objects would get the same id. Give each its own.");
        }

        Dictionary<string, Affine> lost = [];
        foreach (var data in Copied.Nodes)
        {
            var isTop = data.Node.Parent is null;
            var id = ids[data.Id];
            var node = Fitting(draft, data.Node, hashes) with { Id = id };
            node = NodeReferences.Led(node, (reference, named) => Led(reference, named, id));
            if (node.Constraints.Length < data.Node.Constraints.Length && Copied.Stands?.TryGetValue(data.Id, out var stood) == true)
            {
                lost[id] = stood;
            }

            if (isTop)
            {
                var frame = draft.FrameUnder(Under, node.Placement.Takes);
                var placement = frame.Storing(Copied.Worlds[tops.Count], node.Placement, node.Name);
                placement.Check(node.Name, node.Placement);
                node = node with { Parent = Under, Placement = placement, Name = draft.DistinctName(node.Name, node.Kind, Under) };
                Ranks.Seat(draft, [node], null);
                tops.Add(node);
            }
            else
            {
                node.Placement.Check(node.Name);
                draft.Put(node);
            }
        }

        Writer.Stand(draft, lost);
    }

    public override string Say(Speaker say) =>
        $"Pasted {(Copied.Nodes.Length == 1 ? say.NewName(Copied.Nodes[0].Node.Name, Copied.Nodes[0].Node.Kind, Under) : $"{Copied.Nodes.Length} objects")}"
        + (Under is null ? "" : $" under {say.Name(Under)}");

    private static Refusal Broken() =>
        new(Refusals.NotUnderstood, "The pasted objects do not fit together. Copy them again.");

    private static Node Fitting(SceneDraft draft, Node node, Dictionary<string, string> hashes)
    {
        if (!node.Kind.IsInTree() || (node.Kind == NodeKind.Shape) != (node.Shape is not null) || (node.Kind == NodeKind.Mesh) != (node.Geometry is not null))
        {
            throw Broken();
        }

        var geometry = node.Geometry is { } hash ? hashes.GetValueOrDefault(hash, hash) : null;
        if (geometry is not null && draft.Geometries.Find(geometry) is null)
        {
            throw new Refusal(Refusals.NotFound, $"The geometry of “{node.Name}” is not in the pasted text. Copy it again.");
        }

        if (node.Constraints.Length > Constraint.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"“{node.Name}” has {node.Constraints.Length} constraints; no object has more than {Constraint.Most}.");
        }

        if (node.Materials.Length > Materials.MostSlots)
        {
            throw Broken();
        }

        node.Camera?.Checked();
        node.Light?.Checked();
        return node with
        {
            Name = Rename.Fitting(node.Name),
            Geometry = geometry,
            Switches = node.Switches.On(node.Kind) with { Locked = false },
        };
    }

    /// <summary>From the materials in the text to those of this scene: the same one, where it is here and like it; else a new one.</summary>
    private Dictionary<string, string> MaterialsOf(SceneDraft draft)
    {
        Dictionary<string, string> led = [];
        foreach (var material in (Copied.Materials ?? []).Select(data => data.Entity))
        {
            if (material is not Material { Surface: var surface } said || led.ContainsKey(material.Id))
            {
                throw Broken();
            }

            surface.Checked();
            led[said.Id] = draft.FindMaterial(said.Id) is { } here && here.Surface.Equals(surface)
                ? here.Id
                : Materials.Of(draft, MaterialChoice.Of(surface, Rename.Nearest(said.Name, "")));
        }

        // Those that the text does not say may be here all the same.
        foreach (var id in Copied.Nodes.SelectMany(n => n.Node.Materials).Where(id => draft.FindMaterial(id) is not null))
        {
            led.TryAdd(id, id);
        }

        return led;
    }

    private void Check(SceneDraft draft)
    {
        var tops = Copied.Nodes.Count(n => n.Node.Parent is null);
        if (Copied.Nodes.Length == 0 || Copied.Worlds.Length != tops || Array.Exists(Copied.Worlds, w => !w.IsFinite)
            || Copied.Stands?.Values.Any(w => !w.IsFinite) == true)
        {
            throw Broken();
        }

        if (Ids is not null && Ids.Count != tops)
        {
            throw new Refusal(Refusals.NotUnderstood, $"Pasting needs one id for each of the {tops} objects that ride on nothing.");
        }

        if (Copied.Nodes.Length > Duplicate.MostNew)
        {
            throw new Refusal(Refusals.TooLarge, $"These are {Copied.Nodes.Length} objects; at most {Duplicate.MostNew} are pasted at once. Copy fewer.");
        }

        if (Under is not null && !draft.Get(Under).Kind.IsInTree())
        {
            throw new Refusal(Refusals.NotUnderstood, "Objects can be pasted under an object only, not under a mark or a collection.");
        }
    }
}
