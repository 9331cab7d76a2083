using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange;

/// <summary>
/// Checks of a glTF description before the whole file is read: how many nodes, how deep, whether accessors claim more than
/// there is, and which extensions it insists on.
/// </summary>
internal static class Inspection
{
    private const long MostItems = 50_000_000;

    private static readonly HashSet<string> Understood =
    [
        "KHR_lights_punctual", "KHR_materials_unlit", "KHR_materials_emissive_strength", "KHR_texture_transform", "KHR_mesh_quantization",
    ];

    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static void Check(JsonElement root)
    {
        if (root.ValueKind != JsonValueKind.Object || !root.TryGetProperty("asset", out var asset)
            || !asset.TryGetProperty("version", out var version) || version.GetString() is not { } said || !said.StartsWith("2.", StringComparison.Ordinal))
        {
            throw new Refusal(Refusals.UnsupportedFile, "This is no glTF 2.0 file. Export it again as glTF 2.0.");
        }

        var foreign = Strings(root, "extensionsRequired").Where(e => !Understood.Contains(e)).ToList();
        if (foreign.Count > 0)
        {
            throw new Refusal(
                Refusals.UnsupportedFile,
                $"The file cannot be shown without {string.Join(", ", foreign)}, which is not understood here. Export it again without that.");
        }

        CheckAccessors(root);
        CheckTree(root);
    }

    private static void CheckAccessors(JsonElement root)
    {
        long total = 0;
        foreach (var accessor in Items(root, "accessors"))
        {
            var count = Number(accessor, "count");
            if (count < 0 || count > MostItems || (total += count) > 4 * MostItems)
            {
                throw new Refusal(Refusals.TooLarge, $"The file claims lists of more than {MostItems} entries. Split it into smaller files.");
            }
        }

        foreach (var view in Items(root, "bufferViews").Concat(Items(root, "buffers")))
        {
            if (Number(view, "byteLength") is < 0 or > int.MaxValue)
            {
                throw Container.Broken("it claims more data than there can be");
            }
        }
    }

    /// <summary>Follows children without recursion; a file may name a node twice or close a loop.</summary>
    private static void CheckTree(JsonElement root)
    {
        var children = Items(root, "nodes").Select(n => Items(n, "children").Select(c => c.TryGetInt32(out var i) ? i : -1).ToArray()).ToArray();
        if (children.Length > SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.TooLarge, $"The file holds {children.Length} objects; at most {SceneDocument.MostNodes} fit into a scene.");
        }

        var parents = new int[children.Length];
        Array.Fill(parents, -1);
        for (var node = 0; node < children.Length; node++)
        {
            foreach (var child in children[node])
            {
                if (child < 0 || child >= children.Length || child == node || parents[child] >= 0)
                {
                    throw Container.Broken("its tree of objects contradicts itself");
                }

                parents[child] = node;
            }
        }

        var depths = new int[children.Length];
        for (var node = 0; node < children.Length; node++)
        {
            var depth = 1;
            for (var at = parents[node]; at >= 0; at = parents[at])
            {
                if (depths[at] > 0)
                {
                    depth += depths[at];
                    break;
                }

                if (++depth > SceneDocument.MostDepth)
                {
                    throw new Refusal(
                        Refusals.TooLarge,
                        $"Its chains of parents are longer than {SceneDocument.MostDepth}, or closed to a loop. Flatten the file first.");
                }
            }

            depths[node] = depth;
            if (depth > SceneDocument.MostDepth)
            {
                throw new Refusal(Refusals.TooLarge, $"Its chains of parents are longer than {SceneDocument.MostDepth}. Flatten the file first.");
            }
        }
    }

    public static IEnumerable<JsonElement> Items(JsonElement at, string name) =>
        at.ValueKind == JsonValueKind.Object && at.TryGetProperty(name, out var list) && list.ValueKind == JsonValueKind.Array
            ? list.EnumerateArray()
            : [];

    public static IEnumerable<string> Strings(JsonElement at, string name) =>
        Items(at, name).Where(e => e.ValueKind == JsonValueKind.String).Select(e => e.GetString()!);

    private static long Number(JsonElement at, string name) =>
        at.ValueKind == JsonValueKind.Object && at.TryGetProperty(name, out var n) && n.ValueKind == JsonValueKind.Number && n.TryGetInt64(out var value) ? value : 0;
}
