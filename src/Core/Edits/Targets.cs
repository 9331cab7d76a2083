using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Edits;

/// <summary>A node that an edit works on, with all that the edit needs of it as it was before.</summary>
/// <param name="Axes">The axes of the chosen space, in the world.</param>
/// <param name="Centre">The point to work about, in the world; null: the node's own pivot.</param>
public readonly record struct Target(Node Node, ParentFrame Frame, Affine World, Mat3 Axes, Vec3? Centre)
{
    public Placement Placement => Node.Placement;

    /// <summary>The same node placed anew, with the point of it that was at the centre put back there.</summary>
    public Placement Held(Placement edited) =>
        Centre is { } centre ? Frame.Holding(edited, World.Inverse().Point(centre), centre) : edited;

    /// <summary>Where in the world the pivot is, or the common centre.</summary>
    public Vec3 Point => Centre ?? Frame.Place.Point(Placement.Position);
}

/// <summary>
/// Finds what an edit works on and writes the outcome, children kept or carried.
/// <code>
/// var targets = Targets.Of(draft, nodes, space, about, ChildrenMode.Along);
/// Targets.Place(draft, targets, ChildrenMode.Along, target => target.Placement with { … });
/// </code>
/// </summary>
public static class Targets
{
    /// <summary>
    /// The picked nodes with their axes and centres. A node whose ancestor is picked too is left out, since it rides
    /// along; with children staying, every picked node is edited.
    /// </summary>
    /// <exception cref="Refusal">nothing-picked, not-found, locked.</exception>
    public static List<Target> Of(SceneDraft draft, IReadOnlyList<string> nodes, Space space, About about, ChildrenMode children)
    {
        var movers = Movers(draft, nodes, children);
        var lead = draft.Get(nodes[^1]);
        var centre = about.Centre(draft, movers, lead);
        var shared = space.PerNode || space is SurfaceSpace ? (Mat3?)null : space.Axes(draft, lead, lead);
        var targets = new List<Target>(movers.Count);
        foreach (var mover in movers)
        {
            var node = draft.AsItStands(mover);
            var frame = draft.FrameOf(node);
            targets.Add(new(node, frame, draft.World(node), shared ?? space.Axes(draft, node, lead), centre));
            if (centre is not null)
            {
                frame.CheckInvertible(node.Name);
            }
        }

        return targets;
    }

    /// <summary>The picked nodes that are edited themselves.</summary>
    /// <exception cref="Refusal">nothing-picked, not-found, locked, not-understood for a collection.</exception>
    public static List<Node> Movers(SceneDraft draft, IReadOnlyList<string> nodes, ChildrenMode children = ChildrenMode.Along)
    {
        ArgumentNullException.ThrowIfNull(draft);
        CheckPicked(nodes);
        List<Node> movers = children == ChildrenMode.Stay ? [.. nodes.Distinct().Select(draft.Get)] : Tops(draft, nodes);
        if (draft.LeftOut.Count > 0 && movers.RemoveAll(node => draft.LeftOut.Contains(node.Id)) > 0 && movers.Count == 0)
        {
            throw Layered.Cheated(draft, nodes[^1]);
        }

        movers.ForEach(node => CheckUnlocked(draft, node));
        return movers;
    }

    /// <summary>The same for edits that collections can take, too.</summary>
    /// <exception cref="Refusal">nothing-picked, not-found, locked.</exception>
    public static List<Arranged> Arranged(SceneDraft draft, IReadOnlyList<string> picked, ChildrenMode children = ChildrenMode.Along)
    {
        ArgumentNullException.ThrowIfNull(draft);
        CheckPicked(picked);
        var all = new HashSet<string>(picked);
        var movers = picked.Distinct().Select(draft.GetArranged)
            .Where(some => children == ChildrenMode.Stay || !draft.Above(some).Any(a => all.Contains(a.Id))).ToList();
        movers.ForEach(some => CheckUnlocked(draft, some));
        return movers;
    }

    /// <summary>The picked nodes without those that ride on another of them, each once.</summary>
    /// <exception cref="Refusal">nothing-picked, not-found, not-understood for a collection.</exception>
    public static List<Node> Tops(SceneDraft draft, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        CheckPicked(nodes);
        var picked = new HashSet<string>(nodes);
        return [.. picked.Select(draft.Get).Where(node => !draft.Ancestors(node).Any(a => picked.Contains(a.Id)))];
    }

    /// <summary>
    /// The ids that a caller made for what comes of some nodes, one for each that rides on no other of them; null: they do not fit. Since they were
    /// made somebody may have put one of the nodes under another: that one needs none any more.
    /// </summary>
    internal static IReadOnlyList<string>? IdsFor(IReadOnlyList<Node> tops, IReadOnlyList<string> nodes, IReadOnlyList<string>? ids)
    {
        if (ids is null || ids.Count == tops.Count)
        {
            return ids;
        }

        var given = nodes.Distinct().ToList();
        return ids.Count == given.Count ? [.. tops.Select(top => ids[given.IndexOf(top.Id)])] : null;
    }

    /// <exception cref="Refusal">nothing-picked.</exception>
    public static void CheckPicked(IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        if (nodes.Count == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "Nothing is picked. Pick the objects first.");
        }
    }

    /// <summary>Sets switches of nodes, each once; what is locked can be switched, too.</summary>
    internal static void Switch(SceneDraft draft, IReadOnlyList<string> nodes, Func<Switches, Switches> set)
    {
        foreach (var node in nodes.Distinct().Select(draft.GetArranged))
        {
            draft.Put(node with { Switches = set(node.Switches) });
        }
    }

    /// <summary>A node that an edit is about to write.</summary>
    /// <exception cref="Refusal">not-found, locked, not-understood for a collection.</exception>
    public static Node One(SceneDraft draft, string id)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var node = draft.Get(id);
        CheckUnlocked(draft, node);
        return draft.LeftOut.Contains(id) ? throw Layered.Cheated(draft, id) : node;
    }

    /// <summary>Refuses what is locked itself or by a collection that it belongs to.</summary>
    public static void CheckUnlocked(SceneDraft draft, Cheatable some)
    {
        // Surroundings have no lock.
        if (some is not Arranged node)
        {
            return;
        }

        if (node.Switches.Locked)
        {
            throw new Refusal(Refusals.Locked, $"“{node.Name}” is locked. Unlock it in the tree to edit it.");
        }

        if (draft.LocksByCollection && Membership.LockOf(draft, node) is { } collection)
        {
            throw new Refusal(Refusals.Locked, $"“{node.Name}” is locked by the collection “{collection.Name}”. Unlock the collection to edit it.");
        }
    }

    /// <summary>The locked children of nodes: where children stay, these ride along, since nothing writes what is locked.</summary>
    public static IEnumerable<Node> LockedChildren(SceneDraft draft, IEnumerable<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var edited = nodes.ToHashSet();
        return edited.SelectMany(id => draft.Children(id)).Where(id => !edited.Contains(id)).Select(draft.Get).Where(child => IsLocked(draft, child));
    }

    private static bool IsLocked(SceneDraft draft, Node node) =>
        node.Switches.Locked || (draft.LocksByCollection && Membership.LockOf(draft, node) is not null);

    /// <summary>Computes a new placement for each target and writes them all; nothing is written when one is refused.</summary>
    public static void Place(SceneDraft draft, List<Target> targets, ChildrenMode children, Func<Target, Placement> edit)
    {
        var edited = targets.ConvertAll(target =>
        {
            var placement = edit(target);
            placement.Check(target.Node.Name, target.Placement);
            return target.Node with { Placement = placement };
        });

        if (children == ChildrenMode.Along)
        {
            Writer.Write(draft, edited);
            return;
        }

        PlaceWithChildrenStaying(draft, targets, edited);
    }

    private static void PlaceWithChildrenStaying(SceneDraft draft, List<Target> targets, List<Node> edited)
    {
        // Where each is to stand in the world: the edited by their edit, their other children where they are.
        var wanted = new Dictionary<string, Affine>();
        for (var i = 0; i < targets.Count; i++)
        {
            wanted[edited[i].Id] = targets[i].Frame.Placed(edited[i].Placement);
        }

        var staying = new List<Node>();
        foreach (var target in targets)
        {
            foreach (var child in draft.Children(target.Node.Id).Select(draft.Get))
            {
                if (!IsLocked(draft, child) && wanted.TryAdd(child.Id, draft.Placed(child)))
                {
                    staying.Add(child);
                }
            }
        }

        // Where only the parent's place changes, only that of its children does, to the bit.
        var remembered = Writer.Remember(draft, staying);
        var frames = wanted.Keys.ToDictionary(id => id, id => draft.FrameOf(draft.Get(id)));
        var numbers = edited.ToDictionary(n => n.Id);
        var moved = new List<Node>();
        foreach (var id in wanted.Keys.OrderBy(id => draft.Ancestors(draft.Get(id)).Count()).ToList())
        {
            var node = numbers.TryGetValue(id, out var own) ? own : draft.Get(id);
            var placement = node.Placement;
            if (node.Parent is { } parent && wanted.TryGetValue(parent, out var carried))
            {
                // Where the parent is to stand is known already; asking the draft would work it out anew after every write.
                var (before, after) = (frames[id], ParentFrame.Of(carried, placement.Takes));
                placement = after.Basis == before.Basis
                    ? after.Standing(placement, wanted[id].Point(placement.Pivot), node.Name)
                    : after.Storing(wanted[id], placement, node.Name);
                placement.Check(node.Name, node.Placement);
            }

            if (draft.Constrained.Count == 0)
            {
                draft.Put(node with { Placement = placement });
            }
            else
            {
                moved.Add(node with { Placement = placement });
            }
        }

        if (draft.Constrained.Count > 0)
        {
            WriteStaying(draft, moved, numbers, remembered);
        }
    }

    /// <summary>The edited by the one writer, what stays as it stood: each after those that it depends on.</summary>
    private static void WriteStaying(
        SceneDraft draft,
        List<Node> moved,
        Dictionary<string, Node> edited,
        Dictionary<string, Writer.Remembered> remembered)
    {
        foreach (var node in moved)
        {
            if (edited.ContainsKey(node.Id))
            {
                Writer.Write(draft, [node]);
            }
            else
            {
                draft.Put(node);
            }
        }

        Writer.Restore(draft, remembered);
    }
}
