using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
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
/// <remarks>Invariant: <c>world[slot] = parentWorld · local[slot]</c> after every <see cref="Follow(IScene, IEnumerable{string})"/> and <see cref="Sweep"/>.</remarks>
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

    private double* _locals;
    private double* _worlds;
    private int* _parents;
    private int* _firstChild;
    private int* _next;
    private int* _previous;
    private int* _changed;
    private bool* _marked;
    private int _capacity;
    private int _outOfOrder;

    public Evaluator(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        Reserve(Math.Max(64, scene.Count));
        foreach (var node in scene.Branch(null))
        {
            Add(node);
        }

        foreach (var mark in scene.Marks)
        {
            Add(scene.Find(mark)!);
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
    public Affine World(string id) => Read(_worlds + _slots[id] * (long)WorldKernel.Stride);

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
        }

        Restart();
        foreach (var slot in _tops)
        {
            EvaluateBranch(slot);
        }

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
            return;
        }

        Restart();
        foreach (var root in _roots)
        {
            EvaluateBranch(root);
        }

        Finish();
    }

    public void Dispose()
    {
        Free();
        GC.SuppressFinalize(this);
    }

    private static void Write(double* at, Affine a)
    {
        var (m, o) = a;
        (at[0], at[1], at[2], at[3]) = (m.X.X, m.Y.X, m.Z.X, o.X);
        (at[4], at[5], at[6], at[7]) = (m.X.Y, m.Y.Y, m.Z.Y, o.Y);
        (at[8], at[9], at[10], at[11]) = (m.X.Z, m.Y.Z, m.Z.Z, o.Z);
    }

    private static Affine Read(double* m) =>
        new(new(new(m[0], m[4], m[8]), new(m[1], m[5], m[9]), new(m[2], m[6], m[10])), new(m[3], m[7], m[11]));

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
        _ids[slot] = null;
        _free.Push(slot);
    }

    private bool RidesOn(int slot, string? parent) =>
        _parents[slot] is >= 0 and var p ? parent is not null && _ids[p] == parent : parent is null;

    private void Attach(int slot, string? parent)
    {
        Detach(slot);
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

        Write(_locals + slot * (long)WorldKernel.Stride, placement.Local());
    }

    /// <summary>Computes a node and all that rides on it, each once a round.</summary>
    private void EvaluateBranch(int top)
    {
        if (_marked[top])
        {
            // An ancestor written in the same round has been through here, with this node's new local in place.
            return;
        }

        _walk.Push(top);
        while (_walk.TryPop(out var slot))
        {
            EvaluateOne(slot);
            if (!_marked[slot])
            {
                _marked[slot] = true;
                _changed[ChangedCount++] = slot;
            }

            for (var child = _firstChild[slot]; child >= 0; child = _next[child])
            {
                _walk.Push(child);
            }
        }
    }

    private void EvaluateOne(int slot)
    {
        var world = _worlds + slot * (long)WorldKernel.Stride;
        var parent = _parents[slot];
        if (_partial.Count > 0 && parent >= 0 && _partial.TryGetValue(slot, out var placement))
        {
            var frame = ParentFrame.Of(Read(_worlds + parent * (long)WorldKernel.Stride), placement.Takes);
            Write(world, frame.Placed(placement));
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
        _locals = _worlds = null;
        _parents = _firstChild = _next = _previous = _changed = null;
        _marked = null;
        _capacity = 0;
    }
}
