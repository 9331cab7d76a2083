using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// The open scene: all nodes and entities as stored. It changes only by <see cref="Apply"/>, as a whole; one stands in the page, one
/// on the server.
/// <code>
/// var scene = new SceneDocument("id", "Room", "m", revision: 1, [node, collection], geometries);
/// scene.Apply(change);
/// var chair = scene.Find("chair");
/// </code>
/// </summary>
public sealed class SceneDocument : IScene
{
    public const int MostNodes = 200_000;
    public const int MostDepth = 1_000;

    private readonly Dictionary<string, Entity> _all = [];
    private readonly SceneTree _tree = new();
    private readonly Referrers _referrers = new();
    private readonly HashSet<string> _constrained = [];

    public SceneDocument(string id, string name, string unit, long revision, IEnumerable<Entity> entities, IGeometries geometries)
    {
        ArgumentNullException.ThrowIfNull(entities);
        (Id, Name, Unit, Revision, Geometries) = (id, name, unit, revision, geometries);
        foreach (var entity in entities)
        {
            _all.Add(entity.Id, entity);
            _tree.Add(entity);
            _referrers.Add(entity);
            Note(entity);
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

    public int Count => _all.Count;

    /// <summary>All nodes, in no order.</summary>
    public IEnumerable<Node> Nodes => _all.Values.OfType<Node>();

    /// <summary>All that has an id, in no order.</summary>
    public IEnumerable<Entity> Everything => _all.Values;

    /// <summary>All that stands beside nodes, in no order.</summary>
    public IEnumerable<Entity> Entities => _all.Values.Where(e => e is not Node);

    public Node? Find(string id) => _all.GetValueOrDefault(id) as Node;

    public Entity? FindAny(string id) => _all.GetValueOrDefault(id);

    public IReadOnlyList<string> Children(string? parent) => _tree.Children(parent);

    public IReadOnlyCollection<string> Referrers(string id) => _referrers.Of(id);

    public IReadOnlyCollection<string> Constrained => _constrained;

    public void Apply(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var (hash, geometry) in change.Made)
        {
            Geometries.Keep(hash, geometry);
        }

        // What leaves its seat goes first, all at once; then what comes sits down.
        var (leaving, coming) = (new List<Entity>(), new List<Entity>());
        foreach (var (id, _, after) in change.All)
        {
            var before = _all.GetValueOrDefault(id);
            if (!NodeReferences.NameTheSame(before, after))
            {
                if (before is not null)
                {
                    _referrers.Remove(before);
                }

                if (after is not null)
                {
                    _referrers.Add(after);
                }
            }

            Note(after ?? before);
            if (after is null)
            {
                _constrained.Remove(id);
            }

            if (before is not null && after is not null && before.List == after.List && before.Rank.Equals(after.Rank))
            {
                _all[id] = after;
                continue;
            }

            if (before is not null)
            {
                leaving.Add(before);
                _all.Remove(id);
            }

            if (after is not null)
            {
                coming.Add(after);
                _all[id] = after;
            }
        }

        _tree.Remove(leaving);
        coming.ForEach(_tree.Add);
    }

    private void Note(Entity? entity)
    {
        if (entity is Node { Constraints.IsEmpty: false })
        {
            _constrained.Add(entity.Id);
        }
        else if (entity is not null && _constrained.Count > 0)
        {
            _constrained.Remove(entity.Id);
        }
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
