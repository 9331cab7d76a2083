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

        var wanted = new Dictionary<string, (Node Edited, ParentFrame Frame, Affine World, Stood? Before)>();
        foreach (var node in edited)
        {
            var frame = draft.FrameOf(node);
            var before = draft.Get(node.Id);
            var stood = before.Constraints.IsEmpty ? null : new Stood(draft.World(before), Asked(draft.AsItStands(before).Placement, node.Placement));
            wanted[node.Id] = (node, frame, frame.Placed(node.Placement), stood);
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
    public static Dictionary<string, Remembered> Remember(SceneDraft draft, IEnumerable<Node> nodes) =>
        nodes.Where(n => !n.Constraints.IsEmpty).DistinctBy(n => n.Id).ToDictionary(n => n.Id, n => new Remembered(draft.World(n), draft.FrameOf(n), Pulled(draft, n)));

    /// <summary>
    /// Brings constrained nodes back to where they stood, after their frames, pivots or numbers were changed with their places kept as placed: what they say of their
    /// parent's frame is said anew, and offsets take up what is left.
    /// </summary>
    public static void Restore(SceneDraft draft, Dictionary<string, Remembered> remembered)
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

            var (world, before, pulled) = remembered[id];
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

            Reach(draft, Keeping(draft, node, pulled), world, null, null);
        }
    }

    /// <summary>Where a constrained node stands, what it takes of its parent, and what each of its constraints pulls it to.</summary>
    internal sealed record Remembered(Affine World, ParentFrame Frame, Affine?[] Pulled);

    /// <summary>What each of a node's constraints pulls it to, to be kept.</summary>
    public static unsafe Affine?[] Pulled(SceneDraft draft, Node node)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size], buffer = stackalloc double[3 * Flat.Size];
        Flat.Write(draft.Placed(node), world);
        draft.Worlds.Frame(node, place, basis);
        return new ConstraintList(node.ToOwn(), node.Constraints).Pulled(world, place, basis, new KnownWorlds.Standing(draft, node, buffer));
    }

    /// <summary>Writes offsets by which each entry pulls to where it pulled.</summary>
    private static unsafe Node Keeping(SceneDraft draft, Node node, Affine?[] pulled)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size], buffer = stackalloc double[3 * Flat.Size];
        Flat.Write(draft.Placed(node), world);
        draft.Worlds.Frame(node, place, basis);
        var kept = new ConstraintList(node.ToOwn(), node.Constraints).Kept(world, place, basis, new KnownWorlds.Standing(draft, node, buffer), pulled);
        if (!kept.SequenceEqual(node.Constraints))
        {
            draft.Put(node = node with { Constraints = kept });
        }

        return node;
    }

    /// <summary>Puts nodes to where they are to stand in the world.</summary>
    /// <param name="kept">Where constrained ones are to be placed before their constraints, and what each of these is to pull to; null: that is open.</param>
    public static void Stand(SceneDraft draft, Dictionary<string, Affine> worlds, Func<string, (Affine Placed, Affine?[] Pulled)?>? kept = null)
    {
        foreach (var id in Edges.InOrder(draft, worlds.Keys))
        {
            var node = draft.Get(id);
            if (kept?.Invoke(id) is var (placed, pulled))
            {
                var again = Standing.Stored(draft.FrameOf(node), node, placed);
                again.Check(node.Name, node.Placement);
                draft.Put(node = node with { Placement = again });
                node = Keeping(draft, node, pulled);
            }

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

    /// <summary>How a node stood before an edit, and the parts of which it asks for other numbers than those that it would be stored with there.</summary>
    private sealed record Stood(Affine World, Writes Asked);

    private static Writes Asked(Placement stood, Placement edited) =>
        (stood.Position != edited.Position ? Writes.Place : 0)
        | (stood.Rotation != edited.Rotation ? Writes.Turn : 0)
        | (stood.Scale != edited.Scale || stood.Shear != edited.Shear ? Writes.Stretch : 0);

    /// <summary>Stores what brings a constrained node to where it is wanted.</summary>
    /// <param name="stood">How it stood before the edit: only the parts that this changes are wanted; null: all are.</param>
    /// <param name="edited">The numbers that it would have without constraints; null: only its place counts.</param>
    /// <exception cref="Refusal">held: no offset and no placement does.</exception>
    private static unsafe void Reach(SceneDraft draft, Node node, Affine world, Stood? stood, Placement? edited)
    {
        double* placed = stackalloc double[Stances.Size], shown = stackalloc double[Stances.Size], wanted = stackalloc double[Stances.Size];
        var (frame, own) = (draft.FrameOf(node), node.Placement.ToOwn());
        if (!Standing.Split(frame.Placed(node.Placement), own, placed) || !Standing.Split(draft.World(node), own, shown) || !Standing.Split(world, own, wanted))
        {
            frame.CheckInvertible(node.Name);
            throw new Refusal(Refusals.TooThin, $"“{node.Name}” is too thin for its constraints to be worked out. Give it a larger scale first.");
        }

        var (promised, asked) = (Writes.All, stood?.Asked ?? Writes.Nothing);
        var was = stackalloc double[Stances.Size];
        if (stood is not null && Standing.Split(stood.World, own, was))
        {
            promised = Stances.Differ(was, wanted) | asked;
        }

        var (parts, held) = (promised & Stances.Differ(shown, wanted, asked), new List<int>());
        var goal = stackalloc double[Stances.Size];
        Stances.Copy(wanted, goal, Writes.All);
        var entries = node.Constraints;
        try
        {
            entries = Entries(draft, node, wanted, ref parts, asked, held);
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

    private static unsafe System.Collections.Immutable.ImmutableArray<Constraint> Entries(
        SceneDraft draft,
        Node node,
        double* wanted,
        ref Writes parts,
        Writes asked,
        List<int> held)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size];
        var buffer = stackalloc double[3 * Flat.Size];
        Flat.Write(draft.Placed(node), world);
        draft.Worlds.Frame(node, place, basis);
        return new ConstraintList(node.ToOwn(), node.Constraints)
            .Reach(world, place, basis, new KnownWorlds.Standing(draft, node, buffer), wanted, ref parts, asked, held);
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
