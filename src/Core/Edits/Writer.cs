using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>
/// The one writer of placements. Verbs compute on nodes <see cref="Standing.AsItStands">as they stand</see>; this decides what is stored for them to stand as
/// wanted: the offset of a constraint, or the placement. What cannot be reached is noted in the draft (<see cref="SceneDraft.Held"/>). See model.md, Constraints.
/// <code>
/// Writer.Write(draft, [draft.AsItStands(node) with { Placement = … }]);
/// </code>
/// </summary>
internal static class Writer
{
    /// <summary>
    /// Writes nodes that were edited as they stood. Where they are to stand is worked out for all of them first; then they are written in the order in
    /// which they depend on each other, so that what is picked together with its target moves once.
    /// </summary>
    public static void Write(SceneDraft draft, IReadOnlyList<Node> edited)
    {
        if (draft.Constrained.Count == 0)
        {
            foreach (var node in edited)
            {
                draft.Put(node);
            }

            return;
        }

        var wanted = new Dictionary<string, (Node Edited, ParentFrame Frame, Affine World, Affine Before)>();
        foreach (var node in edited)
        {
            var frame = draft.FrameOf(node);
            var before = draft.Get(node.Id);
            wanted[node.Id] = (node, frame, frame.Placed(node.Placement), before.Constraints.IsEmpty ? default : draft.World(before));
        }

        foreach (var id in Edges.InOrder(draft, wanted.Keys))
        {
            var (node, before, world, stood) = wanted[id];
            var present = draft.Get(id);
            if (!present.Constraints.IsEmpty)
            {
                Reach(draft, present, world, stood, node.Placement);
                continue;
            }

            // What it rides on may have turned to something that was written before.
            var frame = draft.FrameOf(present);
            var placement = frame == before ? node.Placement
                : frame.Basis == before.Basis ? frame.Standing(node.Placement, world.Point(node.Placement.Pivot), node.Name)
                : frame.Storing(world, node.Placement, node.Name);
            placement.Check(node.Name, present.Placement);
            draft.Put(present with { Placement = placement });
        }
    }

    /// <summary>Where nodes stand and what they take of their parents, to be kept over what is about to happen to them.</summary>
    public static Dictionary<string, (Affine World, ParentFrame Frame)> Remember(SceneDraft draft, IEnumerable<Node> nodes) =>
        nodes.Where(n => !n.Constraints.IsEmpty).DistinctBy(n => n.Id).ToDictionary(n => n.Id, n => (draft.World(n), draft.FrameOf(n)));

    /// <summary>
    /// Brings constrained nodes back to where they stood, after their frames, pivots or numbers were changed with their places kept as placed: what they say of their
    /// parent's frame is said anew, and offsets take up what is left.
    /// </summary>
    public static void Restore(SceneDraft draft, Dictionary<string, (Affine World, ParentFrame Frame)> remembered)
    {
        if (remembered.Count == 0)
        {
            return;
        }

        foreach (var id in Edges.InOrder(draft, remembered.Keys))
        {
            if (draft.Find(id) is not { } node)
            {
                continue;
            }

            var (world, before) = remembered[id];
            var frame = draft.FrameOf(node);
            if (frame != before && frame.IsInvertible)
            {
                var (into, turn) = (frame.Place.Inverse(), frame.Basis.RotationPart().Transposed() * before.Basis.RotationPart());
                var to = new Reframing(turn, into.Linear * before.Place.Linear, into * before.Place);
                var again = node with { Constraints = [.. node.Constraints.Select(c => c.Reframed(to))] };
                if (!again.Constraints.SequenceEqual(node.Constraints))
                {
                    draft.Put(node = again);
                }
            }

            Reach(draft, node, world, null, null);
        }
    }

    /// <summary>Puts nodes to where they are to stand in the world.</summary>
    public static void Stand(SceneDraft draft, Dictionary<string, Affine> worlds)
    {
        foreach (var id in Edges.InOrder(draft, worlds.Keys))
        {
            var node = draft.Get(id);
            if (!node.Constraints.IsEmpty)
            {
                Reach(draft, node, worlds[id], null, null);
                continue;
            }

            var placement = draft.FrameOf(node).Storing(worlds[id], node.Placement, node.Name);
            placement.Check(node.Name, node.Placement);
            draft.Put(node with { Placement = placement });
        }
    }

    /// <summary>Stores what brings a constrained node to where it is wanted.</summary>
    /// <param name="stood">Where it stood before the edit: only the parts that this changes are wanted; null: all are.</param>
    /// <param name="edited">The numbers that it would have without constraints; null: only its place counts.</param>
    /// <exception cref="Refusal">held: no offset and no placement does.</exception>
    private static unsafe void Reach(SceneDraft draft, Node node, Affine world, Affine? stood, Placement? edited)
    {
        double* placed = stackalloc double[Stances.Size], shown = stackalloc double[Stances.Size], wanted = stackalloc double[Stances.Size];
        var (frame, own) = (draft.FrameOf(node), node.Placement.ToOwn());
        if (!Standing.Split(frame.Placed(node.Placement), own, placed) || !Standing.Split(draft.World(node), own, shown) || !Standing.Split(world, own, wanted))
        {
            frame.CheckInvertible(node.Name);
            throw new Refusal(Refusals.TooThin, $"“{node.Name}” is too thin for its constraints to be worked out. Give it a larger scale first.");
        }

        var promised = Writes.All;
        var was = stackalloc double[Stances.Size];
        if (stood is { } before && Standing.Split(before, own, was))
        {
            promised = Stances.Differ(was, wanted);
        }

        var (parts, held) = (promised & Stances.Differ(shown, wanted), new List<int>());
        var goal = stackalloc double[Stances.Size];
        Stances.Copy(wanted, goal, Writes.All);
        var entries = node.Constraints;
        try
        {
            entries = Entries(draft, node, wanted, ref parts, held);
        }
        catch (Refusal refusal) when (refusal.Word == Refusals.Held && stood is null)
        {
            // What only promises to stay says by how much it does not.
            Stances.Copy(goal, wanted, Writes.All);
        }

        var placement = node.Placement;
        var written = node.Constraints.Where(c => c.Pulls).Aggregate(Writes.Nothing, (all, c) => all | c.Writes);
        const Writes Linear = Writes.Turn | Writes.Stretch;
        if (edited is not null && (written & Linear) == 0)
        {
            // Its own numbers, whole turns and all, but for the place.
            placement = edited with { Position = placement.Position };
        }
        else if ((parts & Linear) != 0)
        {
            Stances.Copy(wanted, placed, parts);
            placement = Standing.Storing(frame, placement, Standing.Composed(placed, own), node.Name);
        }

        if ((parts & Writes.Place) != 0)
        {
            placement = frame.Standing(placement, new(wanted[0], wanted[1], wanted[2]), node.Name);
        }

        placement.Check(node.Name, node.Placement);
        draft.Put(node with { Placement = placement, Constraints = entries });
        Note(draft, node.Id, world, promised, held);
    }

    private static unsafe System.Collections.Immutable.ImmutableArray<Constraint> Entries(SceneDraft draft, Node node, double* wanted, ref Writes parts, List<int> held)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size];
        var buffer = stackalloc double[3 * Flat.Size];
        Flat.Write(draft.Placed(node), world);
        draft.Worlds.Frame(node, place, basis);
        return new ConstraintList(node.Placement.ToOwn(), node.Constraints)
            .Reach(world, place, basis, new KnownWorlds.Standing(draft, node, buffer), wanted, ref parts, held);
    }

    /// <summary>Notes what of the promise is not kept, and through which entry.</summary>
    private static unsafe void Note(SceneDraft draft, string id, Affine wanted, Writes promised, List<int> held)
    {
        double* now = stackalloc double[Stances.Size], then = stackalloc double[Stances.Size];
        var node = draft.Get(id);
        var (own, world) = (node.Placement.ToOwn(), draft.World(node));
        if (!Standing.Split(world, own, now) || !Standing.Split(wanted, own, then))
        {
            return;
        }

        var off = Stances.Differ(now, then, 1e-9) & promised;
        if (off == Writes.Nothing)
        {
            return;
        }

        // Only what was promised counts: what was not may follow as it will.
        Stances.Copy(now, then, ~promised & Writes.All);
        var link = held.Count > 0 ? node.Constraints[held.MaxBy(at => node.Constraints[at].Weight)] : node.Constraints.LastOrDefault(c => c.Pulls && (c.Writes & off) != 0);
        draft.Held.Add(new(id, link?.Id, off, Jump.Of(own, Standing.Composed(then, own), world)));
    }
}
