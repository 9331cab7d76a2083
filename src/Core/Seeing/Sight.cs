using System.Runtime.CompilerServices;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Seeing;

/// <summary>What is seen of a node, as one entry of sixteen bits.</summary>
[Flags]
public enum SightBits : ushort
{
    None = 0,

    /// <summary>Seen in the working view, as far as switches and collections go.</summary>
    Working = 1,
    Final = 2,

    /// <summary>Locked itself or by a collection.</summary>
    Locked = 4,

    /// <summary>Two bits: how it is drawn, the coarsest of its own, what carries it and its collections.</summary>
    Drawn = 24,

    /// <summary>Isolation leaves it out.</summary>
    LeftOut = 32,

    /// <summary>Locked by a collection, which holds for all that it carries.</summary>
    LockedBranch = 64,

    /// <summary>A controller: drawn in lines and in no picture, whatever the other bits say; what rides on it is not.</summary>
    Controller = 128,

    /// <summary>The picture of the current shot leaves it out, and so does the working view.</summary>
    NotInShot = 256,
}

/// <summary>
/// What is seen of every node, on flat memory by the slots of the evaluator: one walk down the tree, where each node goes
/// by what was found of the one that carries it. A switch of a collection looks at each node once and at no text.
/// <code>
/// var sight = new Sight(scene, evaluator);
/// var isSeen = sight.Of("chair").HasFlag(SightBits.Working);
/// </code>
/// </summary>
public sealed unsafe class Sight
{
    private readonly Dictionary<string, Collection> _collections = [];
    private IScene _scene;
    private readonly Evaluator _evaluator;
    private readonly Dictionary<string, int> _places = [];
    private readonly List<Collection[]> _classes = [];
    private readonly HashSet<string> _isolated = [];
    private Node[] _order = [];
    private int[] _slots = [];
    private int[] _parents = [];
    private int[] _classOf = [];
    private ushort[] _bits = [];
    private bool _withBranch;

    /// <summary>Whether the working view leaves out what the picture of the current shot leaves out; takes effect when it next follows.</summary>
    public bool AsInShot { get; set; } = true;

    public Sight(IScene scene, Evaluator evaluator)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(evaluator);
        (_scene, _evaluator) = (scene, evaluator);
        Rebuild();
        Sweep();
    }

    /// <summary>Where the entries begin, one a slot; ask anew after every change.</summary>
    public ushort* Bits => (ushort*)Unsafe.AsPointer(ref _bits[0]);

    public SightBits Of(string id) => _evaluator.SlotOf(id) is >= 0 and var slot ? (SightBits)_bits[slot] : SightBits.None;

    /// <summary>Shows only some nodes for now, with or without what they carry; none: all.</summary>
    public void Isolate(IEnumerable<string> ids, bool withBranch)
    {
        _isolated.Clear();
        _isolated.UnionWith(ids);
        _withBranch = withBranch;
        Sweep();
    }

    /// <summary>Follows a scene to where it stands now, after the evaluator has.</summary>
    /// <param name="changed">The nodes and collections that are not as they were when they were last followed.</param>
    public void Follow(IScene scene, IEnumerable<string> changed)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(changed);
        _scene = scene;
        var decisive = _scene.AllCollections().Any(c => c.Rule is not null) ? Touches.Members | Touches.Rules : Touches.Members;
        foreach (var id in changed)
        {
            var now = scene.FindAny(id);
            var at = _places.GetValueOrDefault(id, -1);
            Entity? before = at >= 0 ? _order[at] : _collections.GetValueOrDefault(id);
            if ((now ?? before) is not Arranged some)
            {
                continue;
            }

            if ((some.Fields.Written(before, now) & (Parts.Existence | some.Fields.Touching(decisive))) != 0)
            {
                Rebuild();
                break;
            }

            if (at >= 0)
            {
                _order[at] = (Node)now!;
            }
            else
            {
                _collections[id] = (Collection)now!;
            }
        }

        Sweep();
    }

    /// <summary>Follows from one shot to another, or to the scene: who belongs to what is the same in all.</summary>
    /// <param name="changed">What has something of its own in either.</param>
    public void FollowShot(IScene scene, IEnumerable<string> changed)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(changed);
        _scene = scene;
        foreach (var id in changed)
        {
            if (_places.TryGetValue(id, out var at))
            {
                _order[at] = scene.Find(id)!;
            }
            else if (_collections.ContainsKey(id))
            {
                _collections[id] = scene.FindCollection(id)!;
            }
        }

        Sweep();
    }

    /// <summary>Follows a change that a scene has taken in.</summary>
    public void Follow(IScene scene, Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        Follow(scene, change.All.Select(n => n.Id));
    }

    /// <summary>
    /// The colours of the collections that nodes belong to, by the slots of the evaluator: of several the first that has one,
    /// and for what a member carries the member's.
    /// </summary>
    /// <returns>The colours, and which of them each slot has; −1: none.</returns>
    public (IReadOnlyList<string> Palette, int[] Of) Colors()
    {
        var palette = new List<string>();
        var classes = _classes.ConvertAll(collections =>
        {
            if (collections.Select(ColorOf).FirstOrDefault(c => c is not null) is not { } color)
            {
                return -1;
            }

            var at = palette.IndexOf(color);
            if (at < 0)
            {
                at = palette.Count;
                palette.Add(color);
            }

            return at;
        });
        var of = new int[_bits.Length];
        Array.Fill(of, -1);
        for (var i = 0; i < _order.Length; i++)
        {
            var own = classes[_classOf[i]];
            of[_slots[i]] = own >= 0 || _parents[i] < 0 ? own : of[_parents[i]];
        }

        return (palette, of);

        // A collection without a colour stands in that of the one around it.
        string? ColorOf(Collection collection) =>
            _scene.Ancestors(collection).Prepend(_collections[collection.Id]).Select(c => c.Label.Color).FirstOrDefault(c => c is not null);
    }

    private void Rebuild()
    {
        _order = [.. _scene.Branch(null), .. _scene.Marks.Select(id => _scene.Find(id)!)];
        (_slots, _parents, _classOf) = (new int[_order.Length], new int[_order.Length], new int[_order.Length]);
        _bits = GC.AllocateArray<ushort>(Math.Max(1, _evaluator.Count), pinned: true);
        _places.Clear();
        _classes.Clear();
        _classes.Add([]);
        var collections = _scene.AllCollections().ToList();
        _collections.Clear();
        collections.ForEach(c => _collections[c.Id] = c);
        var rules = collections.Exists(c => c.Rule is not null);
        var known = new Dictionary<string, int> { [""] = 0 };
        for (var i = 0; i < _order.Length; i++)
        {
            var node = _order[i];
            _places[node.Id] = i;
            _slots[i] = _evaluator.SlotOf(node.Id);
            _parents[i] = node.Parent is { } parent ? _evaluator.SlotOf(parent) : -1;
            if (!rules && node.Collections.IsEmpty)
            {
                continue;
            }

            // Few different sets of memberships are shared by many nodes; without rules they are told apart by what is stored.
            var key = string.Join(' ', rules ? Membership.Of(_scene, node).Select(c => c.Id) : node.Collections);
            if (!known.TryGetValue(key, out _classOf[i]))
            {
                known[key] = _classOf[i] = _classes.Count;
                _classes.Add([.. Membership.Of(_scene, node)]);
            }
        }
    }

    private void Sweep()
    {
        var classes = _classes.ConvertAll(ClassBits);
        var isolating = _isolated.Count > 0;
        var leaving = AsInShot && _scene.Shot is not null;
        for (var i = 0; i < _order.Length; i++)
        {
            var node = _order[i];
            var switches = node.Switches;
            var above = _parents[i] < 0 ? (ushort)(SightBits.Working | SightBits.Final | SightBits.LeftOut) : _bits[_parents[i]];
            var of = classes[_classOf[i]];
            var own = (switches.Working ? 1 : 0) | (switches.Final ? 2 : 0);
            var bits = own & above & of & 3;
            var locked = (above | of) & (int)SightBits.LockedBranch;
            bits |= locked | (locked != 0 || switches.Locked ? (int)SightBits.Locked : 0);
            bits |= node.IsController ? (int)SightBits.Controller : 0;
            bits |= Math.Max(switches.Drawn == DrawnAs.Controller ? 0 : (int)switches.Drawn << 3, Math.Max(above & (int)SightBits.Drawn, of & (int)SightBits.Drawn));
            bits |= leaving && (bits & (int)SightBits.Final) == 0 && node.Kind != NodeKind.Mark ? (int)SightBits.NotInShot : 0;

            // Lamps go on shining on what is shown alone.
            if (isolating && node.Kind is not (NodeKind.Mark or NodeKind.Light) && !_isolated.Contains(node.Id) && !(_withBranch && (above & (int)SightBits.LeftOut) == 0))
            {
                bits |= (int)SightBits.LeftOut;
            }

            _bits[_slots[i]] = (ushort)bits;
        }
    }

    /// <summary>What the collections of some nodes make of them, by the collections as they are now.</summary>
    private int ClassBits(Collection[] collections)
    {
        if (collections.Length == 0)
        {
            return 3;
        }

        var bits = 0;
        var drawn = 0;
        foreach (var collection in collections)
        {
            var on = 3;
            foreach (var around in _scene.Ancestors(collection).Prepend(_collections[collection.Id]))
            {
                on &= (around.Switches.Working ? 1 : 0) | (around.Switches.Final ? 2 : 0);
                bits |= around.Switches.Locked ? (int)SightBits.LockedBranch : 0;
                drawn = Math.Max(drawn, (int)around.Switches.Drawn << 3);
            }

            bits |= on;
        }

        return bits | drawn;
    }
}
