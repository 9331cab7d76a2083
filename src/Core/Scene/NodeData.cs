using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>A node as the API writes it: its id, its place among its siblings, and its <see cref="NodeFields">fields</see>.</summary>
/// <param name="Index">The place among the siblings when the node was written.</param>
[JsonConverter(typeof(NodeDataConverter))]
public sealed record NodeData(Node Node, int Index = 0)
{
    [JsonIgnore]
    public string Id => Node.Id;

    /// <summary>The nodes of a scene, parents before children, each with its place among its siblings.</summary>
    public static IEnumerable<NodeData> All(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var next = new Dictionary<string, int>();
        foreach (var node in scene.Branch(null))
        {
            var parent = node.Parent ?? "";
            var index = next.GetValueOrDefault(parent);
            next[parent] = index + 1;
            yield return new(node, index);
        }
    }

    /// <summary>The marks of a scene, in their order; what a mark follows stands as its parent.</summary>
    public static IEnumerable<NodeData> Marks(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.Marks.Select((id, i) => new NodeData(scene.Find(id)!, i));
    }
}
