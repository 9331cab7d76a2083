using CalmPivot.Core;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange;

/// <summary>What a file held, ready to be stored: nodes with fresh ids, geometry and pictures by hash, and what could not be kept.</summary>
public sealed record ImportedFile(
    IReadOnlyList<Node> Nodes,
    IReadOnlyDictionary<string, byte[]> Geometries,
    IReadOnlyDictionary<string, (string MediaType, byte[] Bytes)> Images,
    IReadOnlyList<string> Notes)
{
    /// <summary>What stands beside nodes: collections.</summary>
    public IReadOnlyList<Entity> Entities { get; init; } = [];

    /// <summary>Shots, what they have of their own, and what time is counted by: for a scene of its own.</summary>
    public IReadOnlyList<Entity> Shots { get; init; } = [];

    /// <summary>Everything that is to be stored in a scene that is there already.</summary>
    public IEnumerable<Entity> All => [.. Nodes, .. Entities];

    /// <summary>Everything that is to be stored in a scene of its own.</summary>
    public IEnumerable<Entity> Whole => [.. All, .. Shots];

    /// <summary>What could not be kept where it comes into a scene that is there already.</summary>
    public IReadOnlyList<string> NotesWithin => Shots.Count == 0 ? Notes
        : [.. Notes, "The shots of the file were left out: they come along where it is imported as a scene of its own."];

    /// <summary>The unit that lengths are shown in, where the file says so.</summary>
    public string? Unit { get; init; }

    /// <summary>Selections that were given a name, by the fresh ids.</summary>
    public IReadOnlyList<KeptSelection> Selections { get; init; } = [];

    /// <summary>Without some pictures, which are nobody's then.</summary>
    /// <param name="note">What is said of it.</param>
    public ImportedFile WithoutPictures(IReadOnlySet<string> hashes, string note) => hashes.Count == 0 ? this : this with
    {
        Images = Images.Where(image => !hashes.Contains(image.Key)).ToDictionary(),
        Entities = [.. Entities.Select(entity => entity is Material material
            ? material with { Surface = material.Surface with { Textures = [.. material.Surface.Textures.Where(use => !hashes.Contains(use.Image))] } }
            : entity)],
        Notes = [.. Notes, note],
    };

    /// <summary>The change that puts imported nodes into a scene, after what is there, under a node or at the top.</summary>
    /// <param name="at">Where in the world the file's own zero and directions go; null: to those of what carries it.</param>
    /// <exception cref="Refusal">not-found, not-understood, too-large, singular-parent.</exception>
    public static Change Under(IScene scene, IEnumerable<Entity> imported, string? under, Affine? at = null)
    {
        ArgumentNullException.ThrowIfNull(scene);
        List<Entity> all = [.. imported];
        CheckPlace(scene, under);
        if (scene.Count + all.Count > SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.TooLarge, $"The scene would hold {scene.Count + all.Count} objects; at most {SceneDocument.MostNodes} fit. Remove some first.");
        }
        var draft = new SceneDraft(scene);
        double LastOf(string? list) => scene.Children(list) is { Count: > 0 } siblings ? scene.FindAny(siblings[^1])!.Rank : 0;
        var (lastInTree, lastMark, lastCollection) = (LastOf(under), LastOf(Lists.Marks), LastOf(Lists.Collections));
        Node Placed(Node top, string? on)
        {
            if (at is not { } place)
            {
                return top;
            }

            var placement = draft.FrameUnder(on, top.Placement.Takes).Storing(place * top.Placement.Local(), top.Placement, top.Name);
            placement.Check(top.Name, top.Placement);
            return top with { Placement = placement };
        }

        var change = Change.Of(all.Select(entity => new EntityChange(entity.Id, null, entity switch
        {
            Collection { Parent: null } collection => collection with { Rank = lastCollection + collection.Rank },
            Node { Kind: NodeKind.Mark, Parent: null } mark => Placed(mark, null) with { Rank = lastMark + mark.Rank },
            Node { Kind: NodeKind.Mark } mark => mark with { Rank = lastMark + mark.Rank },
            Node { Parent: null } top => Placed(top, under) with { Parent = under, Rank = lastInTree + top.Rank },
            _ => entity,
        })));
        Worlds.Check(scene, change);
        return change;
    }

    /// <summary>Refuses what nothing can ride on.</summary>
    /// <exception cref="Refusal">not-found, not-understood.</exception>
    public static void CheckPlace(IScene scene, string? under)
    {
        ArgumentNullException.ThrowIfNull(scene);
        if (under is null)
        {
            return;
        }

        if (scene.Find(under) is not { } node)
        {
            throw new Refusal(Refusals.NotFound, "What the file was to be put under is not in the scene any more. Pick another place.");
        }

        if (!node.Kind.IsInTree())
        {
            throw new Refusal(Refusals.NotUnderstood, $"Nothing can ride on “{node.Name}”. Import under an object, or at the top.");
        }
    }
}
