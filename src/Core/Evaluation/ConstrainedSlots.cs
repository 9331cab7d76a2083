using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Evaluation;

/// <summary>
/// The constrained slots of an <see cref="Evaluator"/>: what each looks at, and in which order they come. The rank of one is above that of
/// all constrained ones that it depends on, so that, taken by rank, each is computed once.
/// </summary>
internal sealed unsafe class ConstrainedSlots(Evaluator slots)
{
    private readonly Dictionary<int, Linked> _linked = [];

    /// <summary>The same by slot: it is asked for at every evaluation.</summary>
    private Linked?[] _bySlot = [];
    private readonly Dictionary<int, List<int>> _readers = [];
    private readonly HashSet<int> _incomplete = [];
    private readonly HashSet<int> _staying = [];
    private readonly List<List<int>> _pending = [];
    private int _rank;
    private int _waiting;
    private bool _ranked = true;
    private int[]? _byRank;

    public int Count => _linked.Count;

    /// <summary>The tree has changed, so that ranks may have.</summary>
    public void Unrank() => _ranked = false;

    /// <summary>Takes in what a node stores.</summary>
    public void Set(int slot, Node node, IScene scene)
    {
        var old = _linked.GetValueOrDefault(slot);
        if (node.Constraints.IsEmpty)
        {
            Forget(slot);
            return;
        }

        if (old is not null && old.List.Entries == node.Constraints)
        {
            // Only its placement is another one.
            Put(slot, new(slots, new(node.ToOwn(), node.Constraints), old.Targets, old.Towards, old.Surfaces) { Rank = old.Rank, Pending = old.Pending });
            return;
        }

        Forget(slot);
        var (targets, towards) = (new int[node.Constraints.Length], new int[node.Constraints.Length]);
        Put(slot, new(slots, new(node.ToOwn(), node.Constraints), targets, towards, new TriangleIndex?[targets.Length]));
        slots.Flag(slot, Evaluator.IsLinked, true);
        Unrank();
        Resolve(slot, scene);
    }

    public void Forget(int slot)
    {
        if (!_linked.Remove(slot, out var linked))
        {
            return;
        }

        _bySlot[slot] = null;

        foreach (var at in linked.Targets.Concat(linked.Towards).Distinct())
        {
            if (_readers.GetValueOrDefault(at) is { } readers && readers.Remove(slot) && readers.Count == 0)
            {
                _readers.Remove(at);
                slots.Flag(at, Evaluator.IsRead, false);
            }
        }

        _incomplete.Remove(slot);
        _staying.Remove(slot);
        slots.Flag(slot, Evaluator.IsLinked, false);
        Unrank();
    }

    /// <summary>A slot is given up: those that look at it look at nothing.</summary>
    public void Release(int slot)
    {
        Forget(slot);
        if (_readers.Remove(slot, out var readers))
        {
            foreach (var reader in readers)
            {
                var linked = _linked[reader];
                linked.Drop(slot);
                _incomplete.Add(reader);
                Pend(reader);
            }

            slots.Flag(slot, Evaluator.IsRead, false);
            Unrank();
        }
    }

    /// <summary>Looks again for what was not there, and for the triangles of what has another shape.</summary>
    public void Complete(IScene scene, IEnumerable<int> changed)
    {
        foreach (var slot in _incomplete.ToList())
        {
            if (Resolve(slot, scene))
            {
                Pend(slot);
            }
        }

        if (_staying.Count == 0)
        {
            return;
        }

        foreach (var slot in changed)
        {
            if (_readers.GetValueOrDefault(slot) is { } readers)
            {
                foreach (var reader in readers.Where(_staying.Contains))
                {
                    FindSurfaces(reader, scene);
                }
            }
        }
    }

    /// <summary>Asks for a constrained slot to be computed in this round.</summary>
    public void Pend(int slot)
    {
        if (slot >= _bySlot.Length || _bySlot[slot] is not { } linked || linked.Pending)
        {
            return;
        }

        if (!_ranked)
        {
            Rank();
        }

        linked.Pending = true;
        while (_pending.Count <= linked.Rank)
        {
            _pending.Add([]);
        }

        _pending[linked.Rank].Add(slot);
        _rank = Math.Min(_rank, linked.Rank);
        _waiting++;
    }

    /// <summary>All constrained slots, each after all that it depends on.</summary>
    public int[] ByRank()
    {
        if (!_ranked)
        {
            Rank();
        }

        return _byRank ??= [.. _linked.OrderBy(l => l.Value.Rank).Select(l => l.Key)];
    }

    /// <summary>Those that look at a slot wait to be computed anew.</summary>
    public void Touch(int slot)
    {
        if (_readers.GetValueOrDefault(slot) is { } readers)
        {
            foreach (var reader in readers)
            {
                Pend(reader);
            }
        }
    }

    /// <summary>The next slot to be computed, by rank.</summary>
    public bool Next(out int slot)
    {
        while (_waiting > 0)
        {
            while (_pending[_rank].Count == 0)
            {
                _rank++;
            }

            var list = _pending[_rank];
            slot = list[^1];
            list.RemoveAt(list.Count - 1);
            _waiting--;

            // It may have lost its constraints while it waited.
            if (_bySlot[slot] is { } linked)
            {
                linked.Pending = false;
                return true;
            }
        }

        _rank = 0;
        slot = -1;
        return false;
    }

    /// <summary>Leads a slot from where it is placed to where it stands.</summary>
    public void Apply(int slot, double* world, double* place, double* basis, double* scratch)
    {
        var linked = _bySlot[slot]!;
        linked.List.Evaluate(world, place, basis, linked, scratch);
    }

    private void Put(int slot, Linked linked)
    {
        if (slot >= _bySlot.Length)
        {
            Array.Resize(ref _bySlot, Math.Max(slot + 1, 2 * _bySlot.Length));
        }

        _linked[slot] = _bySlot[slot] = linked;
    }

    /// <summary>Finds the slots of all that a constrained one names.</summary>
    /// <returns>Whether anything new was found.</returns>
    private bool Resolve(int slot, IScene scene)
    {
        var linked = _linked[slot];
        var found = false;
        var complete = true;
        for (var i = 0; i < linked.Targets.Length; i++)
        {
            var entry = linked.List.Entries[i];
            found |= Resolved(linked.Targets, i, entry.Target) | Resolved(linked.Towards, i, entry.Toward);
        }

        if (found)
        {
            Unrank();
        }

        if (complete)
        {
            _incomplete.Remove(slot);
        }
        else
        {
            _incomplete.Add(slot);
        }

        return found | FindSurfaces(slot, scene);

        bool Resolved(int[] into, int i, string? id)
        {
            var was = into[i];
            into[i] = id is null ? -1 : slots.SlotOf(id);
            complete &= id is null || into[i] >= 0;
            if (into[i] < 0)
            {
                return false;
            }

            if (!_readers.TryGetValue(into[i], out var readers))
            {
                _readers[into[i]] = readers = [];
                slots.Flag(into[i], Evaluator.IsRead, true);
            }

            if (!readers.Contains(slot))
            {
                readers.Add(slot);
            }

            return was != into[i];
        }
    }

    private bool FindSurfaces(int slot, IScene scene)
    {
        var linked = _linked[slot];
        var found = false;
        for (var i = 0; i < linked.Surfaces.Length; i++)
        {
            if (linked.List.Entries[i] is { ReadsSurface: true, Target: { } target })
            {
                _staying.Add(slot);
                var surface = scene.Find(target) is { } node ? Scene.Surfaces.Of(scene, node) : null;
                found |= !ReferenceEquals(surface, linked.Surfaces[i]);
                linked.Surfaces[i] = surface;
                if (surface is null)
                {
                    // Its geometry may be still on its way.
                    _incomplete.Add(slot);
                }

            }
        }

        return found;
    }

    /// <summary>The longest ways over other constrained slots; no recursion, since chains may be long.</summary>
    private void Rank()
    {
        foreach (var linked in _linked.Values)
        {
            linked.Rank = -1;
            linked.Open = false;
        }

        var walk = new Stack<int>();
        foreach (var slot in _linked.Keys)
        {
            walk.Push(slot);
            while (walk.TryPeek(out var at))
            {
                var linked = _linked[at];
                if (linked.Rank >= 0)
                {
                    walk.Pop();
                    continue;
                }

                var (rank, waits) = (0, false);
                foreach (var source in Sources(at, linked))
                {
                    var other = _linked[source];
                    if (other.Rank >= 0)
                    {
                        rank = Math.Max(rank, other.Rank + 1);
                    }
                    else if (!other.Open)
                    {
                        walk.Push(source);
                        waits = true;
                    }
                }

                if (waits && !linked.Open)
                {
                    linked.Open = true;
                    continue;
                }

                linked.Rank = rank;
                walk.Pop();
            }
        }

        _ranked = true;
        _byRank = null;

        // What waits already does so by its new rank.
        var waiting = _pending.SelectMany(list => list).ToList();
        _pending.ForEach(list => list.Clear());
        (_waiting, _rank) = (0, 0);
        foreach (var slot in waiting.Where(_linked.ContainsKey))
        {
            _linked[slot].Pending = false;
            Pend(slot);
        }
    }

    /// <summary>The nearest constrained slots up the tree from the parent and from all that is looked at.</summary>
    private IEnumerable<int> Sources(int slot, Linked linked)
    {
        foreach (var from in linked.Targets.Concat(linked.Towards).Append(slots.ParentOf(slot)))
        {
            for (var at = from; at >= 0; at = slots.ParentOf(at))
            {
                if (_linked.ContainsKey(at))
                {
                    yield return at;
                    break;
                }
            }
        }
    }

    /// <summary>A constrained slot, and where the things stand that it looks at; −1: nowhere.</summary>
    private sealed class Linked(Evaluator slots, ConstraintList list, int[] targets, int[] towards, TriangleIndex?[] surfaces) : IStanding
    {
        public ConstraintList List => list;

        public int[] Targets => targets;

        public int[] Towards => towards;

        public TriangleIndex?[] Surfaces => surfaces;

        public int Rank { get; set; }

        public bool Open { get; set; }

        public bool Pending { get; set; }

        public void Drop(int slot)
        {
            for (var i = 0; i < targets.Length; i++)
            {
                targets[i] = targets[i] == slot ? -1 : targets[i];
                towards[i] = towards[i] == slot ? -1 : towards[i];
            }
        }

        public void Fill(int entry, ref Situation at)
        {
            if (targets[entry] is >= 0 and var target)
            {
                at.Target = slots.WorldAt(target);
                at.TargetOwn = slots.OwnAt(target);
                at.Surface = surfaces[entry];
                if (list.Entries[entry].ReadsParentOfTarget)
                {
                    at.TargetBasis = slots.BasisAt(target);
                }
            }

            if (towards[entry] is >= 0 and var toward)
            {
                at.Toward = slots.WorldAt(toward);
                at.TowardOwn = slots.OwnAt(toward);
            }
        }
    }
}
