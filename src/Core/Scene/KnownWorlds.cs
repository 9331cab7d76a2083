using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// The world matrices of a draft: computed when they are asked for, after all that they read (parents, and what constraints look
/// at), and forgotten when something that they read is written.
/// </summary>
internal sealed class KnownWorlds(SceneDraft draft)
{
    private readonly Dictionary<string, Known> _worlds = [];
    private readonly Stack<string> _forgetting = new();

    public bool IsEmpty => _worlds.Count == 0;

    /// <exception cref="Refusal">not-found; would-loop.</exception>
    public Affine Of(string id)
    {
        if (_worlds.TryGetValue(id, out var known))
        {
            return known.World;
        }

        // No recursion, since chains may be a thousand deep. Only what is constrained can close a loop.
        var walk = new Stack<string>([id]);
        HashSet<string>? open = null;
        while (walk.TryPeek(out var at))
        {
            if (_worlds.ContainsKey(at))
            {
                walk.Pop();
                continue;
            }

            var node = draft.Get(at);
            var waits = Wait(walk, node.Parent);
            foreach (var entry in node.Constraints)
            {
                waits |= Wait(walk, entry.Target) | Wait(walk, entry.Toward);
            }

            if (!waits)
            {
                walk.Pop();
                Compute(node);
            }
            else if (!node.Constraints.IsEmpty && !(open ??= []).Add(at))
            {
                throw Edges.Loop(draft, at) ?? throw new InvalidOperationException("A world waits for itself.");
            }
        }

        return _worlds[id].World;
    }

    /// <summary>Where the constraints of a node lead it from where it is placed; it need not be the one of the draft.</summary>
    public unsafe Affine Led(Node node, Affine placed, int count = int.MaxValue)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size];
        double* buffer = stackalloc double[3 * Flat.Size], scratch = stackalloc double[ConstraintList.ScratchSize];
        Flat.Write(placed, world);
        Frame(node, place, basis);
        new ConstraintList(node.ToOwn(), node.Constraints).Evaluate(world, place, basis, new Standing(draft, node, buffer), scratch, count);
        return Flat.Read(world);
    }

    /// <summary>What each entry of a node's list warns of as things stand, and what those that stop would have to reach.</summary>
    public unsafe (LinkWarning Warning, double Asked)[] Warnings(Node node)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size];
        double* buffer = stackalloc double[3 * Flat.Size], scratch = stackalloc double[ConstraintList.ScratchSize];
        Flat.Write(draft.Placed(node), world);
        Frame(node, place, basis);
        var list = new ConstraintList(node.ToOwn(), node.Constraints);
        list.Listen();
        list.Evaluate(world, place, basis, new Standing(draft, node, buffer), scratch);
        return [.. list.Warnings!.Zip(list.Asked!)];
    }

    /// <summary>What is taken of the parent, flat.</summary>
    public unsafe void Frame(Node node, double* place, double* basis)
    {
        var frame = draft.FrameOf(node);
        Flat.Write(frame.Place, place);
        Flat.Write(new(frame.Basis, Vec3.Zero), basis);
    }

    /// <summary>
    /// Forgets the worlds that read what was written, and no others. Each that is forgotten was computed before, so that
    /// forgetting costs no more than computing did.
    /// </summary>
    public void Forget(string id)
    {
        _forgetting.Push(id);
        while (_forgetting.TryPop(out var next))
        {
            if (_worlds.Remove(next, out var known))
            {
                known.Readers.ForEach(_forgetting.Push);
            }
        }
    }

    private bool Wait(Stack<string> walk, string? on)
    {
        if (on is null || _worlds.ContainsKey(on) || draft.Find(on) is null)
        {
            return false;
        }

        walk.Push(on);
        return true;
    }

    private void Compute(Node node)
    {
        draft.Spend(1);
        var parent = node.Parent is null ? null : _worlds.GetValueOrDefault(node.Parent);
        parent?.Readers.Add(node.Id);
        var placed = (parent is null ? ParentFrame.World : ParentFrame.Of(parent.World, node.Placement.Takes)).Placed(node.Placement);
        if (!node.Constraints.IsEmpty)
        {
            draft.Spend(node.Constraints.Length);
            foreach (var name in node.Constraints.SelectMany(c => c.Names))
            {
                _worlds.GetValueOrDefault(name)?.Readers.Add(node.Id);
            }

            placed = Led(node, placed);
        }

        _worlds[node.Id] = new(placed);
    }

    /// <summary>Where the things stand in the draft that the constraints of a node look at.</summary>
    internal sealed unsafe class Standing(SceneDraft draft, Node node, double* buffer) : IStanding
    {
        public void Fill(int entry, ref Situation at)
        {
            var constraint = node.Constraints[entry];
            if (constraint.Target is { } target && draft.Find(target) is { } there)
            {
                Flat.Write(draft.World(there), buffer);
                Flat.Write(new(draft.FrameOf(there).Basis, Vec3.Zero), buffer + Flat.Size);
                at.Target = buffer;
                at.TargetBasis = buffer + Flat.Size;
                at.TargetOwn = there.Placement.ToOwn();
                at.Surface = constraint.ReadsSurface ? Surfaces.Of(draft, there) : null;
            }

            if (constraint.Toward is { } toward && draft.Find(toward) is { } up)
            {
                Flat.Write(draft.World(up), buffer + 2 * Flat.Size);
                at.Toward = buffer + 2 * Flat.Size;
                at.TowardOwn = up.Placement.ToOwn();
            }
        }
    }

    /// <summary>A world matrix that was computed, and the nodes whose own were computed from it.</summary>
    private sealed class Known(Affine world)
    {
        public Affine World => world;

        /// <summary>A node may stand here more than once: as often as it was computed.</summary>
        public List<string> Readers { get; } = [];
    }
}
