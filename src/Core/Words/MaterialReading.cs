using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Words;

/// <summary>A material as the page lists it.</summary>
/// <param name="Users">How many objects, rules and shots name it.</param>
public sealed record MaterialReading(string Id, string Name, Surface Surface, int Users)
{
    public static IReadOnlyList<MaterialReading> All(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return [.. scene.AllMaterials().Select(m => Of(scene, m))];
    }

    public static MaterialReading Of(IScene scene, Material material)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(material);
        return new(material.Id, material.Name, material.Surface, scene.Referrers(material.Id).Count);
    }
}

/// <summary>What some nodes are made of in one slot.</summary>
/// <param name="Count">How many of them are shapes or meshes.</param>
/// <param name="Slots">What the lead has in each of its slots; empty: nothing.</param>
/// <param name="Materials">The ids that they have in the slot, the lead's first; empty for what has none.</param>
/// <param name="Others">How many more objects are made of the lead's, beside these.</param>
/// <param name="Own">The lead has another one there in the current shot than in the scene.</param>
public sealed record MadeOf(int Count, IReadOnlyList<string> Slots, IReadOnlyList<string> Materials, int Others, bool Own)
{
    /// <param name="below">The scene without the shot.</param>
    /// <param name="nodes">In picking order: the last that is drawn leads.</param>
    public static MadeOf Of(IScene scene, IScene below, IReadOnlyList<string> nodes, int slot)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(below);
        ArgumentNullException.ThrowIfNull(nodes);
        List<Node> drawn = [.. nodes.Select(scene.Find).OfType<Node>().Where(n => n.Kind is NodeKind.Shape or NodeKind.Mesh).Reverse()];
        if (drawn.Count == 0)
        {
            return new(0, [], [], 0, false);
        }

        var lead = drawn[0];
        var picked = drawn.Select(n => n.Id).ToHashSet();
        var slots = lead.Kind == NodeKind.Shape ? 1 : Math.Max(Math.Max(1, lead.Materials.Length), Extents.GeometryOf(scene, lead) is { Parts.Count: > 0 } geometry ? geometry.Parts.Max(p => p.Slot) + 1 : 1);
        var others = lead.MaterialOf(slot) is { Length: > 0 } id ? scene.Referrers(id).Count(user => scene.Find(user) is not null && !picked.Contains(user)) : 0;
        return new(
            drawn.Count,
            [.. Enumerable.Range(0, slots).Select(lead.MaterialOf)],
            [.. drawn.Select(n => n.MaterialOf(slot)).Distinct()],
            others,
            below.Find(lead.Id) is { } stored && stored.MaterialOf(slot) != lead.MaterialOf(slot));
    }
}
