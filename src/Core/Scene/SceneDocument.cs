namespace CalmPivot.Core.Scene;

/// <summary>
/// The open scene: all nodes as stored. It changes only by <see cref="Apply"/>, as a whole; one stands in the page, one
/// on the server.
/// </summary>
public sealed class SceneDocument : IScene
{
    public const int MostNodes = 200_000;
    public const int MostDepth = 1_000;

    private readonly Dictionary<string, Node> _nodes = [];
    private readonly SceneTree _tree = new();

    public SceneDocument(string id, string name, string unit, long revision, IEnumerable<Node> nodes, IGeometries geometries)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        (Id, Name, Unit, Revision, Geometries) = (id, name, unit, revision, geometries);
        foreach (var node in nodes)
        {
            Set(node.Id, node);
        }
    }

    public string Id { get; }

    public string Name { get; set; }

    /// <summary>The unit that lengths are shown in: m, cm, mm, ft, in or units.</summary>
    public string Unit { get; set; }

    /// <summary>Counts the changes; the state that a caller saw.</summary>
    public long Revision { get; set; }

    public IGeometries Geometries { get; }

    public int Count => _nodes.Count;

    public IEnumerable<Node> Nodes => _nodes.Values;

    public Node? Find(string id) => _nodes.GetValueOrDefault(id);

    public IReadOnlyList<string> Children(string? parent) => _tree.Children(parent);

    public void Apply(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var (hash, geometry) in change.Made)
        {
            Geometries.Keep(hash, geometry);
        }

        foreach (var (id, _, after) in change.Nodes)
        {
            Set(id, after);
        }
    }

    private void Set(string id, Node? node)
    {
        if (_nodes.TryGetValue(id, out var old))
        {
            if (node is not null && node.Parent == old.Parent && node.Rank.Equals(old.Rank))
            {
                _nodes[id] = node;
                return;
            }

            _tree.Remove(old);
            _nodes.Remove(id);
        }

        if (node is not null)
        {
            _nodes[id] = node;
            _tree.Add(node);
        }
    }
}
