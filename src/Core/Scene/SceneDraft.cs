using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A scene as edits are about to leave it: reads fall through to the scene below, writes stay here. Thrown away after a
/// preview; turned into a <see cref="Change"/> when kept. A refusal in the middle therefore leaves nothing half-done.
/// <code>
/// var draft = new SceneDraft(scene);
/// draft.Put(draft.Get("chair") with { Name = "Stool" });
/// var change = draft.ToChange(); // the scene itself is as it was
/// </code>
/// </summary>
public sealed class SceneDraft(IScene below) : IScene
{
    private readonly Dictionary<string, Entity?> _written = [];
    private readonly Dictionary<string, List<string>> _children = [];
    private HashSet<string>? _constrained;
    private readonly Dictionary<string, SiblingNames> _names = [];
    private readonly Dictionary<string, HashSet<string>> _referrers = [];
    private readonly MadeGeometries _made = new(below.Geometries);
    private KnownWorlds? _worlds;
    private int _count = below.Count;
    private bool? _locksByCollection;

    public int Count => _count;

    public IReadOnlyCollection<string> Constrained => _constrained ?? below.Constrained;

    internal KnownWorlds Worlds => _worlds ??= new(this);

    /// <summary>The scene that this is a draft over.</summary>
    public IScene Below => below;

    public Shot? Shot => below.Shot;

    /// <summary>Picked nodes that the edit passes over, since they have of their own in the shot what it would write in all.</summary>
    public HashSet<string> LeftOut { get; init; } = [];

    public string Unit => below.Unit;

    public IGeometries Geometries => _made;

    /// <summary>Points that edits work about, found once and kept for the length of a drag.</summary>
    public Dictionary<string, Vec3> KnownCentres { get; init; } = [];

    /// <summary>Whether any collection is locked; most scenes lock none, and edits of thousands ask for each node.</summary>
    public bool LocksByCollection => _locksByCollection ??= this.AllCollections().Any(c => c.Switches.Locked);

    /// <summary>A call that needs more steps of work is refused, so that nobody waits for it for long; some seconds' worth.</summary>
    public const long MostWork = 10_000_000;

    /// <summary>How many steps of work this draft may take; what is only read has no bound.</summary>
    public long Bound { get; init; } = long.MaxValue;

    /// <summary>The steps of work so far: a node visited or written is one, and so is as much as that takes of anything else.</summary>
    public long Work { get; private set; }

    /// <exception cref="Refusal">too-large.</exception>
    public void Spend(long steps)
    {
        Work += steps;
        if (Work > Bound)
        {
            throw new Refusal(Refusals.TooLarge, $"This would take more than {Bound / 1_000_000} million steps of work at once. Do it in several steps, with fewer objects each.");
        }
    }

    /// <summary>What its edits promised and constraints keep them from, as far as they have come.</summary>
    public List<Held> Held { get; } = [];

    /// <summary>What takes over the values that others have of their own in shots.</summary>
    public List<Heir> Heirs { get; } = [];

    /// <summary>What new nodes were copied from, for showing them before they are kept.</summary>
    public Dictionary<string, string> Origins { get; } = [];

    /// <summary>The nodes that were written, as they are now; null: removed.</summary>
    public IEnumerable<KeyValuePair<string, Node?>> Written
    {
        get
        {
            foreach (var (id, entity) in _written)
            {
                if (entity is Node || (entity is null && below.FindAny(id) is null or Node))
                {
                    yield return new(id, entity as Node);
                }
            }
        }
    }

    public Node? Find(string id) => _written.TryGetValue(id, out var entity) ? entity as Node : below.Find(id);

    public Entity? FindAny(string id) => _written.TryGetValue(id, out var entity) ? entity : below.FindAny(id);

    /// <exception cref="Refusal">not-found; not-understood for a collection, which has no place.</exception>
    public Node Get(string id) => Find(id) ?? (FindAny(id) is { } other
        ? throw new Refusal(Refusals.NotUnderstood, $"“{other.Name}” is a {EntityKinds.WordOf(other)}, which has no place of its own. Pick its members to edit them.")
        : throw NotFound());

    /// <summary>A node, a collection or the surroundings.</summary>
    /// <exception cref="Refusal">not-found.</exception>
    public Cheatable GetCheatable(string id) => this.FindAny(id) as Cheatable ?? throw NotFound();

    /// <summary>A node or a collection.</summary>
    /// <exception cref="Refusal">not-found.</exception>
    public Arranged GetArranged(string id) => this.FindArranged(id) ?? throw NotFound();

    private static Refusal NotFound() => new(
        Refusals.NotFound,
        "An object of this edit is not in the scene any more. Pick it again, or undo what removed it.");

    public IReadOnlyList<string> Children(string? parent) =>
        _children.TryGetValue(parent ?? "", out var list) ? list : below.Children(parent);

    /// <summary>Replaces a node or adds it; its seat among the siblings follows its parent and rank.</summary>
    public void Put(Entity node)
    {
        ArgumentNullException.ThrowIfNull(node);
        var old = FindAny(node.Id);
        var moves = old is null || old.List != node.List || !old.Rank.Equals(node.Rank);
        if (moves && old is not null)
        {
            Unseat(old);
        }

        Write(old, node);
        if (moves)
        {
            var siblings = ListToEdit(node.List);
            siblings.Insert(SeatOf(siblings, node), node.Id);
        }
    }

    /// <summary>
    /// Replaces or adds nodes of one list, in the order of their ranks. Each list that they leave is gone through once, and
    /// where they come to stand side by side they sit down at once, however many they are.
    /// </summary>
    public void PutInRow(IReadOnlyList<Entity> row)
    {
        var leaving = row.Select(n => FindAny(n.Id)).OfType<Entity>().GroupBy(n => n.List, n => n.Id).ToList();
        foreach (var node in row)
        {
            Write(FindAny(node.Id), node);
        }

        foreach (var list in leaving)
        {
            var ids = list.ToHashSet();
            ListToEdit(list.Key).RemoveAll(ids.Contains);
        }

        if (row.Count == 0)
        {
            return;
        }

        var siblings = ListToEdit(row[0].List);
        var at = SeatOf(siblings, row[0]);
        if (at == siblings.Count || Before(row[^1], FindAny(siblings[at])!))
        {
            siblings.InsertRange(at, row.Select(n => n.Id));
            return;
        }

        foreach (var node in row)
        {
            siblings.Insert(SeatOf(siblings, node), node.Id);
        }
    }

    public void Remove(Entity node)
    {
        ArgumentNullException.ThrowIfNull(node);
        node = FindAny(node.Id) ?? throw NotFound();
        _names.GetValueOrDefault(node.List ?? "")?.Remove(node.Name);
        Unseat(node);
        _written[node.Id] = null;
        Forget(node, null);
        _count--;
    }

    /// <summary>Replaces what is there, or removes it.</summary>
    public void PutOrRemove(Entity present, Entity? then)
    {
        if (then is null)
        {
            Remove(present);
        }
        else
        {
            Put(then);
        }
    }

    private void Write(Entity? old, Entity node)
    {
        if (_names.Count > 0 && (old is null || old.Name != node.Name || old.List != node.List))
        {
            if (old is not null)
            {
                _names.GetValueOrDefault(old.List ?? "")?.Remove(old.Name);
            }

            _names.GetValueOrDefault(node.List ?? "")?.Add(node.Name);
        }

        foreach (var id in NodeReferences.NameTheSame(old, node) ? [] : NodeReferences.BesideTree(node))
        {
            (_referrers.TryGetValue(id, out var all) ? all : _referrers[id] = []).Add(node.Id);
        }

        Spend(1);
        _count += old is null ? 1 : 0;
        _written[node.Id] = node;
        Forget(old, node);
    }

    /// <summary>Forgets what was found out of what is written anew.</summary>
    private void Forget(Entity? old, Entity? node)
    {
        if ((node ?? old) is Collection)
        {
            _locksByCollection = null;
        }

        if ((node ?? old) is not Node { Id: var id })
        {
            return;
        }

        if (old is Node { Constraints.IsEmpty: false } != node is Node { Constraints.IsEmpty: false })
        {
            _constrained ??= [.. below.Constrained];
            if (!_constrained.Remove(id))
            {
                _constrained.Add(id);
            }
        }

        if (_worlds is not null && !(old is Node before && node is Node after && SameWorld(before, after)))
        {
            _worlds.Forget(id);
        }
    }

    private static bool SameWorld(Node a, Node b) =>
        a.Parent == b.Parent && ReferenceEquals(a.Placement, b.Placement) && a.Constraints == b.Constraints
        && (ReferenceEquals(a.Shape, b.Shape) && a.Geometry == b.Geometry && a.Normals == b.Normals);

    /// <summary>Those of the scene below and of what was written that still do.</summary>
    public IReadOnlyCollection<string> Referrers(string id)
    {
        var standing = below.Referrers(id);
        if (_written.Count == 0)
        {
            return standing;
        }

        var all = _referrers.TryGetValue(id, out var written) ? standing.Concat(written).Distinct() : standing;
        List<string> still = [.. all.Where(r => !_written.TryGetValue(r, out var node) || (node is not null && NodeReferences.BesideTree(node).Contains(id)))];
        Spend(still.Count);
        return still;
    }

    /// <summary>How many siblings stand before a node.</summary>
    public int IndexOf(Entity node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return SeatOf(Children(node.List), node);
    }

    /// <summary>The wanted name, or the next number of its pattern where a sibling has it.</summary>
    public string DistinctName(string wanted, NodeKind kind, string? parent) => DistinctNameIn(Lists.Of(kind, parent), wanted);

    /// <summary>The same in any list.</summary>
    public string DistinctNameIn(string? key, string wanted)
    {
        if (!_names.TryGetValue(key ?? "", out var names))
        {
            _names[key ?? ""] = names = new(Children(key).Select(id => FindAny(id)!.Name));
        }

        return names.Distinct(wanted);
    }

    /// <summary>
    /// Where what is stored puts a node: its matrix in the world before its own constraints. What keeps a node's numbers in step
    /// when its frame changes (putting under, takes, following) keeps this.
    /// </summary>
    public Affine Placed(Node node) => FrameOf(node).Placed(node.Placement);

    /// <summary>
    /// Where a node stands, after its constraints: what its children, bounds, pictures and all that look at it go by. The node may be
    /// one that is only thought of.
    /// </summary>
    /// <exception cref="Refusal">would-loop.</exception>
    public Affine World(Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Constraints.IsEmpty ? Placed(node)
            : ReferenceEquals(Find(node.Id), node) ? Worlds.Of(node.Id)
            : Worlds.Led(node, Placed(node));
    }

    /// <summary>The same after some entries of its list only.</summary>
    public Affine World(Node node, int entries)
    {
        ArgumentNullException.ThrowIfNull(node);
        return Worlds.Led(node, Placed(node), entries);
    }

    /// <summary>What each entry of a node's constraints warns of as things stand.</summary>
    public (Constraints.LinkWarning Warning, double Asked)[] Warnings(Node node) => Worlds.Warnings(node);

    /// <summary>Where a node's pivot stands in the world.</summary>
    public Vec3 PivotOf(Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Constraints.IsEmpty ? FrameOf(node).Place.Point(node.Placement.Position) : World(node).Point(node.Placement.Pivot);
    }

    /// <summary>What a node takes of the world matrix of what carries it.</summary>
    public ParentFrame FrameOf(Node node) => FrameUnder(node.Parent, node.Placement.Takes);

    public ParentFrame FrameUnder(string? parent, Takes takes) =>
        parent is null ? ParentFrame.World : ParentFrame.Of(Worlds.Of(parent), takes);

    /// <summary>Takes in geometry that an edit makes.</summary>
    /// <returns>Its hash, by which nodes name it.</returns>
    public string Keep(Shapes.Geometry geometry) => _made.Keep(geometry);

    /// <summary>Takes in a change as it is.</summary>
    public void Take(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var (hash, geometry) in change.Made)
        {
            _made.Keep(hash, geometry);
        }

        foreach (var (id, _, after) in change.All)
        {
            if (after is not null)
            {
                Put(after);
            }
            else if (FindAny(id) is { } gone)
            {
                Remove(gone);
            }
        }
    }

    public Change ToChange()
    {
        var changes = new List<EntityChange>(_written.Count);
        foreach (var (id, after) in _written)
        {
            var before = below.FindAny(id);
            var written = new EntityChange(id, before, after).Written();
            if (written != Parts.None)
            {
                // What is equal stays to the bit, the sign of a zero too: parts that are not written are not kept of a change.
                changes.Add(new(id, before, before is null || after is null ? after : before.Fields.Taking(before, written, after)));
            }
        }

        return Change.Of(changes) with { Made = _made.All };
    }

    private static bool Before(Entity a, Entity b)
    {
        var byRank = a.Rank.CompareTo(b.Rank);
        return byRank < 0 || (byRank == 0 && string.CompareOrdinal(a.Id, b.Id) < 0);
    }

    private void Unseat(Entity node)
    {
        var siblings = ListToEdit(node.List);
        siblings.RemoveAt(SeatOf(siblings, node));
    }

    /// <summary>The first place whose node does not stand before this one, by halving.</summary>
    private int SeatOf(IReadOnlyList<string> siblings, Entity node)
    {
        var (low, high) = (0, siblings.Count);

        // Whole lists are emptied from the front and filled at the end.
        if (high > 0 && siblings[0] == node.Id)
        {
            return 0;
        }

        if (high > 0 && Before(FindAny(siblings[^1])!, node))
        {
            return high;
        }

        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = Before(FindAny(siblings[middle])!, node) ? (middle + 1, high) : (low, middle);
        }

        return low;
    }

    private List<string> ListToEdit(string? key)
    {
        if (!_children.TryGetValue(key ?? "", out var list))
        {
            _children[key ?? ""] = list = [.. below.Children(key)];
            Spend(list.Count / 64);
        }

        return list;
    }
}
