using System.Text.Json.Serialization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Gives things a material: in all their slots, or in one. What shares a surface with them takes it too.</summary>
/// <param name="Material">Its id, or what it is like; null: none.</param>
/// <param name="Slot">Null: all.</param>
[method: JsonConstructor]
public sealed record Assign(IReadOnlyList<string> Nodes, MaterialChoice? Material = null, int? Slot = null) : Edit
{
    public Assign(IReadOnlyList<string> nodes, string? material, int? slot = null)
        : this(nodes, material is null ? null : new MaterialChoice(material), slot)
    {
    }

    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var drawn = Targets.Movers(draft, Nodes, ChildrenMode.Stay).Where(n => n.Kind is NodeKind.Shape or NodeKind.Mesh).ToList();
        if (drawn.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "None of these is a shape or a mesh, which alone are made of something. Pick one.");
        }

        var id = Material is null ? Scene.Material.None : Materials.Of(draft, Material);
        var fitting = drawn.FindAll(n => Slot is not { } slot || (slot >= 0 && slot < Materials.SlotsOf(draft, n)));
        if (fitting.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{drawn[^1].Name}” has no slot {Slot + 1} for a material.");
        }

        foreach (var node in fitting)
        {
            Sharing.Put(draft, draft.Get(node.Id), n => With(draft, n, id));
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var where = Slot is { } slot ? $" in slot {slot + 1}" : "";
        return Material is null or { Said: null, Id.Length: 0 }
            ? $"Took the material from {say.Names(Nodes)}{where}"
            : $"Gave {say.Names(Nodes)} the material {(say.Scene.FindMaterial(Material.Id) is { } known ? Speaker.Quoted(known.Name) : Speaker.Quoted(Material.Said is { } said ? said.Name.Length > 0 ? said.Name : said.Surface.Color.Nearest : "that is gone"))}{where}";
    }

    private Node With(SceneDraft draft, Node node, string id)
    {
        if (Slot is { } slot)
        {
            return node.WithMaterial(slot, id);
        }

        for (var i = Materials.SlotsOf(draft, node) - 1; i >= 0; i--)
        {
            node = node.WithMaterial(i, id);
        }

        return node;
    }
}
