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
    private const long MostGeometry = 256L << 20;
    private const long MostZeros = 1_000_000;

    private static readonly HashSet<string> Understood =
    [
        "KHR_lights_punctual", "KHR_materials_unlit", "KHR_materials_emissive_strength", "KHR_texture_transform", "KHR_mesh_quantization",
    ];

    /// <summary>The other files that a description names, by their names in the archive.</summary>
    public static List<string> FilesOf(byte[] json)
    {
        using var description = Container.Parse(json);
        return [.. Items(description.RootElement, "buffers").Concat(Items(description.RootElement, "images"))
            .Select(UriOf).OfType<string>().Select(Uri.UnescapeDataString).Distinct()];
    }

    /// <param name="container">The upload, against whose data the lists are checked.</param>
    /// <returns>How many bytes geometry and pictures will be.</returns>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static long Check(JsonElement root, Container container)
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

        var becomes = CheckData(root, container);
        CheckTree(container.Description.Children, container.Description.Tops);
        return becomes;
    }

    /// <summary>
    /// Nothing is claimed that is not there, before anything is made of it: views lie within their buffers and buffers within
    /// their files, lists within their views, and what all meshes together unfold to is bounded, however often they share.
    /// </summary>
    private static long CheckData(JsonElement root, Container container)
    {
        var buffers = Items(root, "buffers").Select(b => (Said: Number(b, "byteLength"), There: LengthOf(b, container))).ToArray();
        if (Array.Exists(buffers, b => b.Said < 0 || b.Said > b.There))
        {
            throw Container.Broken("it claims more data than there is");
        }

        var views = Items(root, "bufferViews").ToArray();
        foreach (var view in views)
        {
            var buffer = Number(view, "buffer");
            var (offset, length) = (Number(view, "byteOffset"), Number(view, "byteLength"));
            if (buffer < 0 || buffer >= buffers.Length || offset < 0 || length < 0 || offset > buffers[buffer].Said - length)
            {
                throw Container.Broken("it claims more data than there is");
            }
        }

        var lists = Items(root, "accessors").Select(accessor => (Count: CountOf(accessor, views), Numbers: NumbersOf(accessor))).ToArray();
        long geometry = 0;
        foreach (var primitive in Items(root, "meshes").SelectMany(m => Items(m, "primitives")))
        {
            foreach (var (index, isIndices) in AccessorsOf(primitive))
            {
                var (count, numbers) = index >= 0 && index < lists.Length ? lists[index] : default;

                // Stored in 32 bits; a strip or a fan has up to three indices for one, and colours have four numbers.
                geometry += 4 * count * (isIndices ? Number(primitive, "mode", otherwise: 4) is 1 or 4 ? 1 : 3 : Math.Max(numbers, 3));
                if (geometry > MostGeometry)
                {
                    throw new Refusal(Refusals.TooLarge, $"Its meshes come to more than {MostGeometry >> 20} MB. Split it into smaller files.");
                }
            }
        }

        var pictures = Items(root, "images").Sum(image => UriOf(image) is { } uri
            ? container.Files.TryGetValue(Uri.UnescapeDataString(uri), out var file) ? file.Length : 0
            : Number(image, "bufferView") is >= 0 and var view && view < views.Length ? Number(views[view], "byteLength") : 0);
        return geometry + pictures;
    }

    /// <summary>How many entries a list has.</summary>
    private static long CountOf(JsonElement accessor, JsonElement[] views)
    {
        var count = Number(accessor, "count");
        if (count is < 0 or > MostItems)
        {
            throw TooMany();
        }

        if (!accessor.TryGetProperty("bufferView", out _))
        {
            // Zeros, of which a few may be given: nothing in the file stands for their number.
            return count <= MostZeros ? count : throw TooMany();
        }

        var view = Number(accessor, "bufferView");
        if (view < 0 || view >= views.Length)
        {
            throw Container.Broken("a list lies in data that is not there");
        }

        var size = NumbersOf(accessor) * Number(accessor, "componentType") switch { 5120 or 5121 => 1, 5122 or 5123 => 2, _ => 4 };
        var stride = Math.Max(size, Number(views[view], "byteStride"));
        var end = Number(accessor, "byteOffset") + (count == 0 ? 0 : (count - 1) * stride + size);
        return Number(accessor, "byteOffset") >= 0 && end <= Number(views[view], "byteLength") ? count : throw Container.Broken("it claims more data than there is");
    }

    /// <summary>How many numbers each entry of a list has.</summary>
    private static long NumbersOf(JsonElement accessor) => accessor.TryGetProperty("type", out var type) && type.ValueKind == JsonValueKind.String
        ? type.GetString() switch { "VEC2" => 2, "VEC3" => 3, "VEC4" or "MAT2" => 4, "MAT3" => 9, "MAT4" => 16, _ => 1 }
        : 1;

    private static IEnumerable<(long List, bool IsIndices)> AccessorsOf(JsonElement primitive)
    {
        if (primitive.ValueKind != JsonValueKind.Object)
        {
            yield break;
        }

        if (primitive.TryGetProperty("indices", out _))
        {
            yield return (Number(primitive, "indices"), true);
        }

        if (primitive.TryGetProperty("attributes", out var attributes) && attributes.ValueKind == JsonValueKind.Object)
        {
            foreach (var attribute in attributes.EnumerateObject())
            {
                yield return (attribute.Value.ValueKind == JsonValueKind.Number && attribute.Value.TryGetInt64(out var index) ? index : -1, false);
            }
        }
    }

    /// <summary>How many bytes a buffer really has. What is not there is refused by its name, where it is asked for.</summary>
    private static long LengthOf(JsonElement buffer, Container container) =>
        UriOf(buffer) is not { } uri ? 0 : container.Files.TryGetValue(Uri.UnescapeDataString(uri), out var file) ? file.Length : long.MaxValue;

    private static string? UriOf(JsonElement at) =>
        at.ValueKind == JsonValueKind.Object && at.TryGetProperty("uri", out var uri) && uri.ValueKind == JsonValueKind.String ? uri.GetString() : null;

    private static Refusal TooMany() => new(Refusals.TooLarge, $"The file claims lists of more than {MostItems} entries. Split it into smaller files.");

    /// <summary>Follows children without recursion; a file may name a node twice or close a loop.</summary>
    private static void CheckTree(IReadOnlyList<int[]> children, IReadOnlyList<IReadOnlyList<int>> tops)
    {
        if (children.Count > SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.TooLarge, $"The file holds {children.Count} objects; at most {SceneDocument.MostNodes} fit into a scene.");
        }

        var parents = new int[children.Count];
        Array.Fill(parents, -1);
        for (var node = 0; node < children.Count; node++)
        {
            foreach (var child in children[node])
            {
                if (child < 0 || child >= children.Count || child == node || parents[child] >= 0)
                {
                    throw Container.Broken("its tree of objects contradicts itself");
                }

                parents[child] = node;
            }
        }

        if (tops.Any(scene => scene.Any(top => top >= parents.Length || parents[top] >= 0) || scene.Distinct().Count() != scene.Count))
        {
            throw Container.Broken("its tree of objects contradicts itself");
        }

        var depths = new int[children.Count];
        for (var node = 0; node < children.Count; node++)
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

    private static long Number(JsonElement at, string name, long otherwise = 0) =>
        at.ValueKind == JsonValueKind.Object && at.TryGetProperty(name, out var n) && n.ValueKind == JsonValueKind.Number && n.TryGetInt64(out var value) ? value : otherwise;
}
