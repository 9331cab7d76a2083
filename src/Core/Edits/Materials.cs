using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Edits;

/// <summary>What the verbs of materials have in common.</summary>
public static class Materials
{
    /// <summary>A mesh does not have more.</summary>
    public const int MostSlots = 65_536;

    /// <exception cref="Refusal">not-found.</exception>
    internal static Material Get(SceneDraft draft, string id) => draft.FindMaterial(id) ?? throw NoSuch();

    internal static Refusal NoSuch() => new(Refusals.NotFound, "This material is not in the scene any more. Choose another one, or undo what removed it.");

    /// <summary>The material of the scene that a choice means; one that is said and is not here is made.</summary>
    /// <exception cref="Refusal">not-found, not-understood, too-large.</exception>
    internal static string Of(SceneDraft draft, MaterialChoice choice)
    {
        if (choice.Said is not { } said)
        {
            return choice.Id.Length == 0 ? Material.None : Get(draft, choice.Id).Id;
        }

        // Somebody may have changed the one that was made of the same words.
        var surface = said.Surface.Checked();
        var id = choice.Id;
        for (var number = 2; draft.FindAny(id) is { } taken; number++)
        {
            if (taken is Material there && there.Surface.Equals(surface))
            {
                return there.Id;
            }

            id = $"{choice.Id}-{number}";
        }

        return Make(draft, id, said.Name.Length == 0 ? surface.Color.Nearest : said.Name, surface, null).Id;
    }

    /// <exception cref="Refusal">not-understood, too-large.</exception>
    internal static Material Make(SceneDraft draft, string? id, string name, Surface surface, int? index)
    {
        if (draft.Materials.Count >= Material.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"A scene has at most {Material.Most} materials. Clear those that nothing uses first.");
        }

        if (id is "on" or "off")
        {
            throw new Refusal(Refusals.NotUnderstood, "A material cannot have this id. Use another one.");
        }

        var material = new Material(Seats.NewId(draft, id), draft.DistinctNameIn(Lists.Materials, Rename.Fitting(name))) { Surface = surface.Checked() };
        Ranks.Seat(draft, [material], index);
        return draft.FindMaterial(material.Id)!;
    }

    /// <summary>How many slots a geometry names.</summary>
    public static int SlotsOf(Geometry? geometry) => geometry is { Parts.Count: > 0 } ? geometry.Parts.Max(p => p.Slot) + 1 : 1;

    /// <summary>How many slots a node has; none: it is not drawn in a material.</summary>
    public static int SlotsOf(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Kind switch
        {
            NodeKind.Shape => 1,
            NodeKind.Mesh => Math.Max(node.Materials.Length, SlotsOf(Extents.GeometryOf(scene, node))),
            _ => 0,
        };
    }

    /// <summary>All that uses a material: nodes, rules of collections, what shots have of their own.</summary>
    public static IEnumerable<Entity> Users(IScene scene, string id)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.Referrers(id).Select(scene.FindAny).OfType<Entity>();
    }

    /// <summary>"12 objects, the rule of 1 collection, 2 shots"; null: nothing uses it.</summary>
    public static string? UsersInWords(IScene scene, IEnumerable<string> ids)
    {
        var users = ids.SelectMany(id => Users(scene, id)).DistinctBy(u => u.Id).ToList();
        List<string> parts = [];
        void Add(int count, string one, string many)
        {
            if (count > 0)
            {
                parts.Add(count == 1 ? one : $"{count} {many}");
            }
        }

        Add(users.OfType<Node>().Count(), users.OfType<Node>().FirstOrDefault()?.Name is { } name ? $"“{Words.Speaker.Quoted(name)}”" : "", "objects");
        Add(users.OfType<Collection>().Count(), "the rule of 1 collection", "rules of collections");
        Add(users.OfType<Cheat>().Select(c => c.Shot).Distinct().Count(), "1 shot", "shots");
        return parts.Count == 0 ? null : string.Join(", ", parts);
    }

    /// <summary>Leads all that names one material to another.</summary>
    internal static void Lead(SceneDraft draft, string from, string to)
    {
        string Led(string id) => id == from ? to : id;
        foreach (var user in Users(draft, from).ToList())
        {
            draft.Put(user switch
            {
                Node node => NodeReferences.Materials.Led(node, Led),
                Collection collection => CollectionFields.OfMaterials.Led(collection, Led),
                Cheat cheat => cheat with { Value = CheatValue.Of(to) },
                _ => user,
            });
        }
    }
}
