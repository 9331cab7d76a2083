using System.Collections.Immutable;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>Where the things stand that the entries of a list name.</summary>
public interface IStanding
{
    /// <summary>Fills in target and up object of an entry, as far as they are there.</summary>
    void Fill(int entry, ref Situation at);
}

/// <summary>
/// The constraints of one node in their order, evaluated on flat memory: <c>Wᵢ = mix(Wᵢ₋₁, Cᵢ(Wᵢ₋₁), weightᵢ)</c>. A run of entries that write the very
/// same shares: acc = C₁, s = w₁; then s += wⱼ, acc = mix(acc, Cⱼ, wⱼ/s); W = mix(W, acc, min(1, s)).
/// <code>
/// var list = new ConstraintList(node.ToOwn(), node.Constraints);
/// list.Evaluate(world, place, basis, standing, scratch); // world: in as placed, out as it stands
/// </code>
/// </summary>
public sealed unsafe class ConstraintList(Own own, ImmutableArray<Constraint> entries)
{
    /// <summary>How much room an evaluation takes.</summary>
    public const int ScratchSize = 2 * Stances.Size + Situation.ScratchSize;

    public Own Own => own;

    public ImmutableArray<Constraint> Entries => entries;

    /// <summary>What each entry had to say when it was evaluated last, for those who <see cref="Listen"/>.</summary>
    public LinkWarning[]? Warnings { get; private set; }

    /// <summary>What each entry that stops would have to reach, where that was listened for.</summary>
    public double[]? Asked { get; private set; }

    /// <summary>Whether any entry does anything.</summary>
    public bool Pulls { get; } = entries.Any(e => e.Pulls);

    public void Listen() => (Warnings, Asked) = (Warnings ?? new LinkWarning[entries.Length], Asked ?? new double[entries.Length]);

    /// <summary>Evaluates the list, or as many of its entries.</summary>
    /// <param name="world">In: as placed; out: as the node stands. Untouched where nothing pulls.</param>
    /// <param name="place">What the node takes of its parent for places, a world matrix; <paramref name="basis"/>: for directions.</param>
    /// <param name="scratch">Room for <see cref="ScratchSize"/> numbers, so that nothing is allocated.</param>
    public void Evaluate(double* world, double* place, double* basis, IStanding standing, double* scratch, int count = int.MaxValue)
    {
        double* stance = scratch, placed = scratch + Stances.Size;
        if (!Pulls || !Begin(world, stance))
        {
            return;
        }

        // Of a single entry the stance before it is that as placed.
        if (entries.Length > 1)
        {
            Stances.CopyAll(stance, placed);
        }

        var now = new Situation { Placed = entries.Length > 1 ? placed : stance, Place = place, Basis = basis, Own = own, Scratch = placed + Stances.Size };
        var pulled = false;
        for (var i = 0; i < entries.Length && i < count;)
        {
            i = Run(ref now, i, count, stance, standing, null, ref pulled);
        }

        if (pulled)
        {
            Stances.Compose(stance, own, world);
        }
    }

    /// <summary>
    /// What has to be stored for the node to stand as wanted: walked backwards, entries with an offset and at least half their share take the difference
    /// up in it, others hand it on, those without an offset unchanged; what arrives at the front belongs to the placement. See model.md.
    /// </summary>
    /// <param name="world">As placed now.</param>
    /// <param name="wanted">A stance; what of it is left for the placement stands in it afterwards.</param>
    /// <param name="parts">Which parts are to change; afterwards those that are left for the placement.</param>
    /// <param name="asked">Those that the edit asks for; of all others rounding is no difference.</param>
    /// <param name="held">The entries that turn or move it away again.</param>
    /// <returns>The entries to be stored.</returns>
    public ImmutableArray<Constraint> Reach(
        double* world,
        double* place,
        double* basis,
        IStanding standing,
        double* wanted,
        ref Writes parts,
        Writes asked,
        List<int> held)
    {
        double* stance = stackalloc double[Stances.Size], placed = stackalloc double[Stances.Size], scratch = stackalloc double[Situation.ScratchSize];
        if (!Pulls || !Begin(world, stance))
        {
            return entries;
        }

        Stances.CopyAll(stance, placed);
        var now = new Situation { Placed = placed, Place = place, Basis = basis, Own = own, Scratch = scratch };
        var (pulled, runs) = (false, new List<SharedRun>());
        for (var i = 0; i < entries.Length;)
        {
            i = Run(ref now, i, int.MaxValue, stance, standing, runs, ref pulled);
        }

        var stored = entries.ToBuilder();
        for (var i = runs.Count - 1; i >= 0 && parts != Writes.Nothing; i--)
        {
            Back(ref now, runs[i], standing, wanted, ref parts, asked, stored, held);
        }

        return stored.ToImmutable();
    }

    /// <summary>What each entry pulls to by itself, as world matrices; null: it does nothing.</summary>
    public Affine?[] Pulled(double* world, double* place, double* basis, IStanding standing)
    {
        var pulled = new Affine?[entries.Length];
        double* before = stackalloc double[Stances.Size], c = stackalloc double[Stances.Size], flat = stackalloc double[Flat.Size];
        for (var i = 0; i < entries.Length; i++)
        {
            if (Before(world, place, basis, standing, i, before, c))
            {
                Stances.Compose(c, own, flat);
                pulled[i] = Flat.Read(flat);
            }
        }

        return pulled;
    }

    /// <summary>The entries with offsets by which each pulls to where it pulled, one after the other from the front, as far as offsets do that.</summary>
    /// <param name="former">What they <see cref="Pulled"/> to.</param>
    public ImmutableArray<Constraint> Kept(double* world, double* place, double* basis, IStanding standing, Affine?[] former)
    {
        ArgumentNullException.ThrowIfNull(former);
        double* before = stackalloc double[Stances.Size], c = stackalloc double[Stances.Size], then = stackalloc double[Stances.Size];
        double* scratch = stackalloc double[Situation.ScratchSize], placed = stackalloc double[Stances.Size], flat = stackalloc double[Flat.Size];
        var kept = this;
        for (var i = 0; i < entries.Length && i < former.Length; i++)
        {
            if (!entries[i].HasOffset || former[i] is not { } was || !kept.Before(world, place, basis, standing, i, before, c))
            {
                continue;
            }

            Flat.Write(was, flat);
            if (!Stances.Split(flat, own, then) || (Stances.Differ(c, then) & entries[i].Writes) == Writes.Nothing || !Stances.Split(world, own, placed))
            {
                continue;
            }

            var now = new Situation { Placed = placed, Place = place, Basis = basis, Own = own, Scratch = scratch, Stance = before };
            standing.Fill(i, ref now);
            kept = kept.Entries[i].Offset(ref now, then) is { } entry ? new(own, kept.Entries.SetItem(i, entry)) : kept;
        }

        return kept.Entries;
    }

    /// <summary>The stance that an entry is evaluated on, that before the run that it is part of, and what it makes of it.</summary>
    /// <returns>False: it does nothing, or there are no directions.</returns>
    private bool Before(double* world, double* place, double* basis, IStanding standing, int index, double* before, double* pulled)
    {
        if (!entries[index].Pulls)
        {
            return false;
        }

        var start = index;
        for (var i = index - 1; i >= 0 && (!entries[i].Pulls || entries[i].Shares(entries[index])); i--)
        {
            start = entries[i].Pulls ? i : start;
        }

        double* led = stackalloc double[Flat.Size], placed = stackalloc double[Stances.Size], scratch = stackalloc double[ScratchSize];
        for (var i = 0; i < Flat.Size; i++)
        {
            led[i] = world[i];
        }

        Evaluate(led, place, basis, standing, scratch, start);
        if (!Stances.Split(led, own, before) || !Stances.Split(world, own, placed))
        {
            return false;
        }

        Stances.CopyAll(before, pulled);
        var now = new Situation { Placed = placed, Place = place, Basis = basis, Own = own, Scratch = scratch };
        One(ref now, index, pulled, standing);
        return true;
    }

    /// <summary>An entry with what was not given of it proposed for how things stand before it.</summary>
    public Constraint Proposed(int index, ConstraintPatch given, double* world, double* place, double* basis, IStanding standing)
    {
        double* stance = stackalloc double[Stances.Size], placed = stackalloc double[Stances.Size], scratch = stackalloc double[ScratchSize];
        Evaluate(world, place, basis, standing, scratch, index);
        if (!Stances.Split(world, own, stance))
        {
            return entries[index];
        }

        Stances.CopyAll(stance, placed);
        var now = new Situation { Placed = placed, Place = place, Basis = basis, Own = own, Scratch = scratch, Stance = stance };
        standing.Fill(index, ref now);
        return entries[index].Proposed(ref now, given);
    }

    private bool Begin(double* world, double* stance)
    {
        if (Warnings is not null)
        {
            Array.Clear(Warnings);
        }

        if (Stances.Split(world, own, stance))
        {
            return true;
        }

        if (Warnings is not null)
        {
            Array.Fill(Warnings, LinkWarning.TooThin);
        }

        return false;
    }

    /// <summary>Evaluates the run that begins at an entry.</summary>
    /// <returns>The entry after it.</returns>
    private int Run(ref Situation now, int from, int count, double* stance, IStanding standing, List<SharedRun>? runs, ref bool pulled)
    {
        var first = entries[from];
        if (!first.Pulls)
        {
            return from + 1;
        }

        pulled = true;
        if (entries.Length == 1 && first.Weight == 1 && runs is null)
        {
            One(ref now, from, stance, standing);
            return 1;
        }

        return RunOn(ref now, from, count, stance, standing, runs);
    }

    private int RunOn(ref Situation now, int from, int count, double* stance, IStanding standing, List<SharedRun>? runs)
    {
        var first = entries[from];
        var end = Math.Min(entries.Length, count);
        var next = from + 1;
        while (next < end && !entries[next].Pulls)
        {
            next++;
        }

        var alone = next >= end || !first.Shares(entries[next]);
        if (alone && first.Weight == 1 && runs is null)
        {
            One(ref now, from, stance, standing);
            return next;
        }

        var run = runs is null ? null : new SharedRun(Saved(stance));
        double* acc = stackalloc double[Stances.Size], c = stackalloc double[Stances.Size];
        Stances.CopyAll(stance, acc);
        One(ref now, from, acc, standing);
        run?.Entries.Add((from, first.Weight, Saved(acc), Saved(acc)));
        var sum = first.Weight;
        while (next < end && first.Shares(entries[next]))
        {
            var entry = entries[next];
            sum += entry.Weight;
            Stances.CopyAll(stance, c);
            One(ref now, next, c, standing);
            var own = run is null ? null : Saved(c);
            Stances.Mix(acc, c, entry.Weight / sum, entry.Writes, entry.Side(Own));
            Stances.CopyAll(c, acc);
            run?.Entries.Add((next, entry.Weight / sum, own!, Saved(acc)));
            do
            {
                next++;
            }
            while (next < end && !entries[next].Pulls);
        }

        if (run is not null)
        {
            run.Share = Math.Min(1, sum);
            runs!.Add(run);
        }

        Stances.Mix(stance, acc, Math.Min(1, sum), first.Writes, first.Side(Own));
        Stances.CopyAll(acc, stance);
        return next;
    }

    private void One(ref Situation now, int at, double* stance, IStanding standing)
    {
        now.Stance = stance;
        Clear(ref now);
        standing.Fill(at, ref now);
        entries[at].Evaluate(ref now);
        if (Warnings is not null)
        {
            (Warnings[at], Asked![at]) = (now.Warning, now.Asked);
        }
    }

    private static void Clear(ref Situation now)
    {
        now.Target = now.Toward = null;
        now.Surface = null;
        now.Warning = LinkWarning.None;
    }

    /// <summary>Leads what is wanted behind a run back to what is wanted before it.</summary>
    private void Back(
        ref Situation now,
        SharedRun run,
        IStanding standing,
        double* wanted,
        ref Writes parts,
        Writes asked,
        ImmutableArray<Constraint>.Builder stored,
        List<int> held)
    {
        var first = stored[run.Entries[0].At];
        var mine = parts & first.Writes;
        if (mine == Writes.Nothing)
        {
            return;
        }

        if (!first.HasOffset)
        {
            held.AddRange(run.Entries.Select(e => e.At));
            return;
        }

        double* goal = stackalloc double[Stances.Size];
        Stances.CopyAll(wanted, goal);
        fixed (double* before = run.Before)
        {
            if (run.Share < 0.5)
            {
                Lead(ref now, run.Entries[^1].Acc, goal, 1 / (1 - run.Share), mine, first, 1 - run.Share);
                Stances.Copy(goal, wanted, mine);
                return;
            }

            Lead(ref now, run.Before, goal, 1 / run.Share, mine, first, run.Share);
            var at = run.Entries.Count - 1;
            for (; at > 0 && run.Entries[at].Share < 0.5; at--)
            {
                Lead(ref now, run.Entries[at].Own, goal, 1 / (1 - run.Entries[at].Share), mine, first, 1 - run.Entries[at].Share);
            }

            if (at > 0)
            {
                Lead(ref now, run.Entries[at - 1].Acc, goal, 1 / run.Entries[at].Share, mine, first, run.Entries[at].Share);
            }

            // What is not wanted otherwise is what this entry alone pulls to, not what the run comes to.
            var (index, _, own, _) = run.Entries[at];
            fixed (double* c = own)
            {
                Stances.Copy(c, goal, Writes.All & ~mine);
            }

            now.Stance = before;
            Clear(ref now);
            standing.Fill(index, ref now);
            if (stored[index].Offset(ref now, goal) is not { } entry)
            {
                held.Add(index);
                return;
            }

            stored[index] = entry;
            entry.HandOn(ref now, wanted);
            parts &= Stances.Differ(before, wanted, asked) | ~mine;
        }
    }

    /// <summary>Leads on from one stance beyond another; what the entry does not write of a part stays as it is there.</summary>
    /// <exception cref="Refusal">held: no turn and no size does.</exception>
    private static void Lead(ref Situation now, double[] start, double* to, double by, Writes parts, Constraint entry, double share)
    {
        if (by == 1)
        {
            return;
        }

        var whole = stackalloc double[Stances.Size];
        Stances.CopyAll(to, whole);
        fixed (double* from = start)
        {
            if ((parts & Writes.Turn) != 0 && Stances.Angle(from + Stances.R, to + Stances.R) * by > 180 + 1e-9)
            {
                throw new Refusal(
                    Refusals.Held,
                    $"With {share * 100:0} % of its turn left, it cannot be turned as far as that: at most {180 * share:0}°. Change the weight of its constraint first.");
            }

            Stances.Mix(from, to, by, parts, Vec3.Zero);
        }

        entry.Spare(ref now, whole, to);
        if ((parts & Writes.Stretch) != 0 && !(to[12] > 1e-12 && to[14] > 1e-12 && Math.Abs(to[17]) > 1e-12))
        {
            throw new Refusal(Refusals.Held, $"With {share * 100:0} % of its size left, it cannot become as small as that. Change the weight of its constraint first.");
        }
    }

    private static double[] Saved(double* stance) => new ReadOnlySpan<double>(stance, Stances.Size).ToArray();

    /// <summary>What entries that share made of a stance: of each its share in what the ones up to it came to, what it alone pulls to, and that.</summary>
    private sealed class SharedRun(double[] before)
    {
        public double[] Before => before;

        public double Share { get; set; }

        public List<(int At, double Share, double[] Own, double[] Acc)> Entries { get; } = [];
    }
}
