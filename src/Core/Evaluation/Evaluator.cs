using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Evaluation;

/// <summary>
/// World matrices of all nodes on flat memory, each node at a slot of its own that it keeps while it lives. An edit
/// re-evaluates only the nodes it wrote and what rides on them; <see cref="Changed"/> lists those slots.
/// <code>
/// using var evaluator = new Evaluator(scene);
/// scene.Apply(change);
/// evaluator.Follow(scene, change);
/// var world = evaluator.World("chair");
/// </code>
/// </summary>
/// <remarks>Invariant: <c>world[slot] = parentWorld · local[slot]</c>, led on by its constraints, after every <see cref="Follow(IScene, IEnumerable{string})"/> and <see cref="Sweep"/>.</remarks>
public sealed unsafe class Evaluator : IDisposable
{
    private readonly Dictionary<string, int> _slots = [];
    private readonly List<string?> _ids = [];
    private readonly Stack<int> _free = new();
    private readonly Dictionary<int, Placement> _partial = [];
    private readonly List<int> _roots = [];
    private readonly Stack<int> _walk = new();
    private readonly List<string> _leaving = [];
    private readonly List<int> _tops = [];
    private readonly ConstrainedSlots _links;

    /// <summary>What a slot is besides: whether its node has constraints, and whether those of others look at it.</summary>
    internal const byte IsLinked = 1;
    internal const byte IsRead = 2;

    private double* _locals;
    private double* _worlds;
    private int* _parents;
    private int* _firstChild;
    private int* _next;
    private int* _previous;
    private int* _changed;
    private bool* _marked;
    private byte* _flags;
    private double* _identity;
    private double* _basis;
    private double* _own;
    private Placement?[] _placements = [];
    private Own?[] _owns = [];
    private int _capacity;
    private int _outOfOrder;

    public Evaluator(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        _links = new(this);
        _identity = (double*)NativeMemory.AlignedAlloc((nuint)((3 * Flat.Size + ConstraintList.ScratchSize) * sizeof(double)), 64);
        _basis = _identity + Flat.Size;
        _own = _basis + Flat.Size;
        Flat.Write(Affine.Identity, _identity);
        Reserve(Math.Max(64, scene.Count));
        foreach (var node in scene.Branch(null))
        {
            Add(node);
        }

        foreach (var mark in scene.Marks)
        {
            Add(scene.Find(mark)!);
        }

        foreach (var id in scene.Constrained)
        {
            _links.Set(_slots[id], scene.Find(id)!, scene);
        }

        Sweep();
    }

    ~Evaluator() => Free();

    /// <summary>One more than the highest slot in use.</summary>
    public int Count => _ids.Count;

    /// <summary>Twelve doubles a slot: the rows of the 3×4 world matrix.</summary>
    public double* Worlds => _worlds;

    public double* Locals => _locals;

    /// <summary>The slots that the last <see cref="Follow(IScene, IEnumerable{string})"/> computed anew, <see cref="ChangedCount"/> of them.</summary>
    public int* Changed => _changed;

    public int ChangedCount { get; private set; }

    public int SlotOf(string id) => _slots.TryGetValue(id, out var slot) ? slot : -1;

    public string? IdAt(int slot) => _ids[slot];

    /// <summary>Where a node stands, after its constraints.</summary>
    public Affine World(string id) => Flat.Read(WorldAt(_slots[id]));

    /// <summary>
    /// Follows a scene to where it stands now: nodes that came, went, moved under another parent or were placed anew. To keep an
    /// edit is to follow the document; to preview one is to follow its draft, and to follow the document again to put it back.
    /// </summary>
    /// <param name="changed">The nodes that are not as they were when they were last followed.</param>
    public void Follow(IScene scene, IEnumerable<string> changed)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(changed);

        // What comes gets its slot first, so that others can ride on it.
        var nodes = new List<Node>();
        foreach (var id in changed)
        {
            if (scene.Find(id) is not { } node)
            {
                if (_slots.ContainsKey(id))
                {
                    _leaving.Add(id);
                }
            }
            else
            {
                if (!_slots.ContainsKey(id))
                {
                    Claim(id);
                }

                nodes.Add(node);
            }
        }

        _leaving.ForEach(Release);
        _leaving.Clear();
        _tops.Clear();
        foreach (var node in nodes)
        {
            var slot = _slots[node.Id];
            if (!RidesOn(slot, node.Parent))
            {
                Attach(slot, node.Parent);
            }

            SetLocal(slot, node.Placement);
            _tops.Add(slot);
            if (!node.Constraints.IsEmpty || _links.Count > 0)
            {
                _links.Set(slot, node, scene);
            }
        }

        if (_links.Count > 0)
        {
            _links.Complete(scene, _tops);
        }

        Restart();
        foreach (var slot in _tops)
        {
            EvaluateBranch(slot);
        }

        EvaluateLinks();
        Finish();
    }

    /// <summary>Follows a change that a scene has taken in.</summary>
    public void Follow(IScene scene, Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        Follow(scene, change.Nodes.Select(n => n.Id));
    }

    /// <summary>Computes every world matrix anew.</summary>
    public void Sweep()
    {
        ChangedCount = 0;
        if (_outOfOrder == 0 && _partial.Count == 0)
        {
            WorldKernel.Sweep(_worlds, _locals, _parents, 0, Count);
            if (_links.Count > 0)
            {
                SweepLinks();
            }

            return;
        }

        Restart();
        foreach (var root in _roots)
        {
            EvaluateBranch(root);
        }

        // What is constrained has been asked for on the way.
        EvaluateLinks();
        Finish();
    }

    public void Dispose()
    {
        Free();
        GC.SuppressFinalize(this);
    }

    internal int ParentOf(int slot) => _parents[slot];

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    internal double* WorldAt(int slot) => _worlds + slot * (long)WorldKernel.Stride;

    /// <summary>What a slot's node stores of itself that constraints go by.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    internal Own OwnAt(int slot) => _owns[slot] ??= _placements[slot]!.ToOwn();

    /// <summary>The world matrix whose directions a slot's node takes of its parent; it holds until the next is asked for.</summary>
    internal double* BasisAt(int slot)
    {
        var parent = _parents[slot];
        if (parent < 0)
        {
            return _identity;
        }

        if (_partial.Count == 0 || !_partial.TryGetValue(slot, out var placement))
        {
            return WorldAt(parent);
        }

        Flat.Write(new(ParentFrame.Of(Flat.Read(WorldAt(parent)), placement.Takes).Basis, Vec3.Zero), _basis);
        return _basis;
    }

    internal void Flag(int slot, byte flag, bool on)
    {
        if (slot >= 0)
        {
            _flags[slot] = (byte)(on ? _flags[slot] | flag : _flags[slot] & ~flag);
        }
    }

    private void Add(Node node)
    {
        var slot = Claim(node.Id);
        Attach(slot, node.Parent);
        SetLocal(slot, node.Placement);
    }

    private int Claim(string id)
    {
        if (!_free.TryPop(out var slot))
        {
            slot = _ids.Count;
            Reserve(slot + 1);
            _ids.Add(null);
        }

        _ids[slot] = id;
        _slots[id] = slot;
        _parents[slot] = -1;
        _firstChild[slot] = _next[slot] = _previous[slot] = -1;
        AddRoot(slot);
        return slot;
    }

    private void Release(string id)
    {
        var slot = _slots[id];
        Detach(slot);
        _slots.Remove(id);
        _partial.Remove(slot);
        _links.Release(slot);
        _ids[slot] = null;
        _free.Push(slot);
    }

    private bool RidesOn(int slot, string? parent) =>
        _parents[slot] is >= 0 and var p ? parent is not null && _ids[p] == parent : parent is null;

    private void Attach(int slot, string? parent)
    {
        Detach(slot);
        _links.Unrank();
        if (parent is null)
        {
            AddRoot(slot);
            return;
        }

        var p = _slots[parent];
        _parents[slot] = p;
        _outOfOrder += p > slot ? 1 : 0;
        _next[slot] = _firstChild[p];
        if (_firstChild[p] >= 0)
        {
            _previous[_firstChild[p]] = slot;
        }

        _firstChild[p] = slot;
    }

    /// <summary>Roots have no siblings here: what links siblings holds their place among the roots instead.</summary>
    private void AddRoot(int slot)
    {
        _previous[slot] = _roots.Count;
        _roots.Add(slot);
    }

    private void Detach(int slot)
    {
        var p = _parents[slot];
        if (p < 0)
        {
            if (_previous[slot] >= 0)
            {
                // The last root takes its place.
                var last = _roots[^1];
                _roots[_previous[slot]] = last;
                _previous[last] = _previous[slot];
                _roots.RemoveAt(_roots.Count - 1);
                _previous[slot] = -1;
            }

            return;
        }

        _outOfOrder -= p > slot ? 1 : 0;
        if (_previous[slot] >= 0)
        {
            _next[_previous[slot]] = _next[slot];
        }
        else
        {
            _firstChild[p] = _next[slot];
        }

        if (_next[slot] >= 0)
        {
            _previous[_next[slot]] = _previous[slot];
        }

        _parents[slot] = _next[slot] = _previous[slot] = -1;
    }

    private void SetLocal(int slot, Placement placement)
    {
        if (placement.Takes == Takes.All)
        {
            _partial.Remove(slot);
        }
        else
        {
            _partial[slot] = placement;
        }

        _placements[slot] = placement;
        _owns[slot] = null;
        Flat.Write(placement.Local(), _locals + slot * (long)WorldKernel.Stride);
    }

    /// <summary>Computes a node and all that rides on it; what is constrained waits for all that it looks at.</summary>
    private void EvaluateBranch(int top)
    {
        if ((_flags[top] & IsLinked) != 0)
        {
            _links.Pend(top);
        }
        else if (!_marked[top])
        {
            // Marked, an ancestor written in the same round has been through here, with this node's new local in place.
            Walk(top);
        }
    }

    /// <summary>
    /// Computes what waits, by rank: each after all that it depends on. What rides on it was not final before and is computed with it, up to
    /// the next that waits.
    /// </summary>
    private void EvaluateLinks()
    {
        while (_links.Next(out var slot))
        {
            Walk(slot);
        }
    }

    private void Walk(int top)
    {
        Visit(top);
        var child = _firstChild[top];
        if (child < 0)
        {
            return;
        }

        PushChildren(child);
        while (_walk.TryPop(out var slot))
        {
            Visit(slot);
            PushChildren(_firstChild[slot]);
        }
    }

    private void Visit(int slot)
    {
        EvaluateOne(slot);
        if (!_marked[slot])
        {
            _marked[slot] = true;
            _changed[ChangedCount++] = slot;
        }

        if (_flags[slot] != 0)
        {
            Link(slot);
        }
    }

    private void PushChildren(int child)
    {
        for (; child >= 0; child = _next[child])
        {
            if ((_flags[child] & IsLinked) != 0)
            {
                _links.Pend(child);
            }
            else
            {
                _walk.Push(child);
            }
        }
    }

    /// <summary>After everything was computed as placed: what is constrained, by rank, and what rides on it.</summary>
    private void SweepLinks()
    {
        foreach (var top in _links.ByRank())
        {
            EvaluateOne(top);
            Apply(top);
            for (var child = _firstChild[top]; child >= 0; child = _next[child])
            {
                if ((_flags[child] & IsLinked) == 0)
                {
                    _walk.Push(child);
                }
            }

            while (_walk.TryPop(out var slot))
            {
                EvaluateOne(slot);
                for (var child = _firstChild[slot]; child >= 0; child = _next[child])
                {
                    if ((_flags[child] & IsLinked) == 0)
                    {
                        _walk.Push(child);
                    }
                }
            }
        }
    }

    private void Link(int slot)
    {
        if ((_flags[slot] & IsLinked) != 0)
        {
            Apply(slot);
        }

        if ((_flags[slot] & IsRead) != 0)
        {
            _links.Touch(slot);
        }
    }

    /// <summary>Leads a constrained slot from where it is placed to where it stands.</summary>
    private void Apply(int slot)
    {
        var parent = _parents[slot];
        var place = parent < 0 ? _identity : WorldAt(parent);
        var basis = place;
        if (parent >= 0 && _partial.Count > 0 && _partial.TryGetValue(slot, out var placement))
        {
            place = placement.Takes.Position ? place : _identity;

            // The buffer is taken for targets, too.
            WorldKernel.Copy(_own, BasisAt(slot));
            basis = _own;
        }

        _links.Apply(slot, WorldAt(slot), place, basis, _own + Flat.Size);
    }

    private void EvaluateOne(int slot)
    {
        var world = _worlds + slot * (long)WorldKernel.Stride;
        var parent = _parents[slot];
        if (_partial.Count > 0 && parent >= 0 && _partial.TryGetValue(slot, out var placement))
        {
            var frame = ParentFrame.Of(Flat.Read(WorldAt(parent)), placement.Takes);
            Flat.Write(frame.Placed(placement), world);
        }
        else if (parent < 0)
        {
            WorldKernel.Copy(world, _locals + slot * (long)WorldKernel.Stride);
        }
        else
        {
            WorldKernel.Multiply(world, _worlds + parent * (long)WorldKernel.Stride, _locals + slot * (long)WorldKernel.Stride);
        }
    }

    private void Restart() => ChangedCount = 0;

    private void Finish()
    {
        for (var i = 0; i < ChangedCount; i++)
        {
            _marked[_changed[i]] = false;
        }
    }

    private void Reserve(int count)
    {
        if (count <= _capacity)
        {
            return;
        }

        var capacity = Math.Max(count, _capacity * 2);
        Grow(ref _locals, capacity, WorldKernel.Stride);
        Grow(ref _worlds, capacity, WorldKernel.Stride);
        Grow(ref _parents, capacity, 1);
        Grow(ref _firstChild, capacity, 1);
        Grow(ref _next, capacity, 1);
        Grow(ref _previous, capacity, 1);
        Grow(ref _changed, capacity, 1);
        Grow(ref _marked, capacity, 1);
        Grow(ref _flags, capacity, 1);
        Array.Resize(ref _placements, capacity);
        Array.Resize(ref _owns, capacity);
        _capacity = capacity;
    }

    private void Grow<T>(ref T* at, int capacity, int stride)
        where T : unmanaged
    {
        var bytes = (nuint)capacity * (nuint)stride * (nuint)sizeof(T);
        var grown = (T*)NativeMemory.AlignedAlloc(bytes, 64);
        var kept = (nuint)_capacity * (nuint)stride * (nuint)sizeof(T);
        NativeMemory.Clear(grown, bytes);
        if (at is not null)
        {
            Unsafe.CopyBlockUnaligned(grown, at, (uint)kept);
            NativeMemory.AlignedFree(at);
        }

        at = grown;
    }

    private void Free()
    {
        NativeMemory.AlignedFree(_locals);
        NativeMemory.AlignedFree(_worlds);
        NativeMemory.AlignedFree(_parents);
        NativeMemory.AlignedFree(_firstChild);
        NativeMemory.AlignedFree(_next);
        NativeMemory.AlignedFree(_previous);
        NativeMemory.AlignedFree(_changed);
        NativeMemory.AlignedFree(_marked);
        NativeMemory.AlignedFree(_flags);
        NativeMemory.AlignedFree(_identity);
        _locals = _worlds = null;
        _parents = _firstChild = _next = _previous = _changed = null;
        _marked = null;
        _flags = null;
        _identity = _basis = null;
        _capacity = 0;
    }
}
