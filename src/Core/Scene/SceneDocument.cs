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
    private readonly Referrers _referrers = new();

    public SceneDocument(string id, string name, string unit, long revision, IEnumerable<Node> nodes, IGeometries geometries)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        (Id, Name, Unit, Revision, Geometries) = (id, name, unit, revision, geometries);
        foreach (var node in nodes)
        {
            _nodes.Add(node.Id, node);
            _tree.Add(node);
            _referrers.Add(node);
        }
    }

    /// <summary>A scene with nothing in it, to build on in a draft.</summary>
    public static SceneDocument Blank() => new("", "", "m", 0, [], new NoGeometries());

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

    public IReadOnlyCollection<string> Referrers(string id) => _referrers.Of(id);

    public void Apply(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var (hash, geometry) in change.Made)
        {
            Geometries.Keep(hash, geometry);
        }

        // What leaves its seat goes first, all at once; then what comes sits down.
        var (leaving, coming) = (new List<Node>(), new List<Node>());
        foreach (var (id, _, after) in change.Nodes)
        {
            var before = _nodes.GetValueOrDefault(id);
            if (before is not null)
            {
                _referrers.Remove(before);
            }

            if (after is not null)
            {
                _referrers.Add(after);
            }

            if (before is not null && after is not null && before.Parent == after.Parent && before.Rank.Equals(after.Rank))
            {
                _nodes[id] = after;
                continue;
            }

            if (before is not null)
            {
                leaving.Add(before);
                _nodes.Remove(id);
            }

            if (after is not null)
            {
                coming.Add(after);
                _nodes[id] = after;
            }
        }

        _tree.Remove(leaving);
        coming.ForEach(_tree.Add);
    }
}

/// <summary>No geometry at all.</summary>
internal sealed class NoGeometries : IGeometries
{
    public Shapes.Geometry? Find(string hash) => null;

    public void Keep(string hash, Shapes.Geometry geometry)
    {
    }
}
