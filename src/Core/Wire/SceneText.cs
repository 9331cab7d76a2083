using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Wire;

/// <summary>The open text form that nodes are copied and pasted in, between scenes and pages: JSON.</summary>
public static class SceneText
{
    public const int Version = 1;

    /// <summary>Puts nodes with all that rides on them into text.</summary>
    public static string Write(SceneDraft scene, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var picked = nodes.ToHashSet();
        var tops = nodes.Distinct().Select(scene.Get).Where(n => n.Kind.IsInTree() && !scene.Ancestors(n).Any(a => picked.Contains(a.Id))).ToList();
        if (tops.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "There is no object to copy. Pick one first; marks and collections stay in their scene.");
        }

        var all = tops.SelectMany(top => scene.Branch(top.Id)).ToList();
        if (all.Count > Duplicate.MostNew)
        {
            throw new Refusal(Refusals.TooLarge, $"These are {all.Count} objects; at most {Duplicate.MostNew} are copied at once. Pick fewer.");
        }

        var topIds = tops.Select(n => n.Id).ToHashSet();
        var geometries = all.Select(n => n.Geometry).OfType<string>().Distinct()
            .Where(hash => scene.Geometries.Find(hash) is not null)
            .ToDictionary(hash => hash, hash => GeometryBinary.Write(scene.Geometries.Find(hash)!));
        var copied = new CopiedNodes(
            Version,
            [.. all.Select(n => new NodeData(topIds.Contains(n.Id) ? n with { Parent = null } : n))],
            [.. tops.Select(scene.Placed)],
            geometries.Count == 0 ? null : geometries,
            all.TrueForAll(n => n.Constraints.IsEmpty) ? null : all.Where(n => !n.Constraints.IsEmpty).ToDictionary(n => n.Id, scene.World),
            all.SelectMany(n => n.Materials).Distinct().Select(scene.FindMaterial).OfType<Material>().Select(m => new EntityData(m)).ToArray() is { Length: > 0 } materials ? materials : null);
        return WireJson.Write(copied);
    }

    /// <summary>Reads what was copied.</summary>
    /// <exception cref="Refusal">not-understood: the text is something else.</exception>
    public static CopiedNodes Read(string text)
    {
        CopiedNodes copied;
        try
        {
            copied = WireJson.Read<CopiedNodes>(text);
        }
        catch (Refusal)
        {
            throw new Refusal(Refusals.NotUnderstood, "The pasted text holds no objects of a scene. Copy objects here or in another scene first.");
        }

        return copied.CalmPivot == Version
            ? copied
            : throw new Refusal(Refusals.NotUnderstood, $"The pasted objects were copied in form {copied.CalmPivot}, and this page reads form {Version}. Reload both pages.");
    }
}
