using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.History;

/// <summary>Where the value lies that some parts of a node have without a step: what an earlier step left, or what it found.</summary>
/// <param name="Left">What that step left; false: what it found, since no standing step has written these parts.</param>
public readonly record struct Earlier(string Node, Parts Fields, long Step, bool Left)
{
    /// <summary>
    /// What an undo restores is what holds without the step: of each part what the last standing step before it left, or what
    /// the first one found. That is what the step itself found, unless somebody else's earlier step was taken back, or done
    /// again, since: one's own steps before a standing one cannot have been.
    /// </summary>
    /// <param name="before">The steps before it, in their order.</param>
    internal static List<Earlier> Of(Step step, IEnumerable<Step> before)
    {
        var mine = step.Writes.ToDictionary(w => w.Node, w => w.Fields);
        var writers = new Dictionary<string, List<(Step Step, Parts Fields)>>();
        foreach (var other in before)
        {
            foreach (var (node, fields) in other.Writes)
            {
                if (mine.TryGetValue(node, out var written) && (Whole(written) & Whole(fields)) != 0)
                {
                    if (!writers.TryGetValue(node, out var list))
                    {
                        writers[node] = list = [];
                    }

                    list.Add((other, Whole(fields)));
                }
            }
        }

        var found = new List<Earlier>();
        foreach (var (node, list) in writers)
        {
            foreach (var field in PartsOf.All.Where(f => (Whole(mine[node]) & f) != 0))
            {
                var those = list.FindAll(w => (w.Fields & field) != 0).ConvertAll(w => w.Step);
                var standing = those.FindLast(s => s.Standing);

                // One's own that are undone were so when the step was made.
                var last = those.FindLast(s => s.Standing || s.By != step.By);
                if (last is not null && !(standing == last && (standing.By == step.By || !standing.Wavered)))
                {
                    found.Add(standing is null ? new(node, field, those[0].Number, false) : new(node, field, standing.Number, true));
                }
            }
        }

        return [.. found
            .GroupBy(e => (e.Node, e.Step, e.Left))
            .Select(g => new Earlier(g.Key.Node, g.Aggregate(Parts.None, (all, e) => all | e.Fields), g.Key.Step, g.Key.Left))];
    }

    /// <summary>What a step did, with what it found replaced by what holds without it.</summary>
    /// <param name="changeOf">What the steps did that are named here.</param>
    internal static Change Corrected(Change change, IReadOnlyList<Earlier> earlier, Func<long, Change> changeOf)
    {
        if (earlier.Count == 0)
        {
            return change;
        }

        var byNode = earlier.ToLookup(e => e.Node);
        return Change.Of(change.All.Select(n => n with { Before = Found(n.Before, byNode[n.Id], changeOf) })) with { Made = change.Made };
    }

    private static Entity? Found(Entity? before, IEnumerable<Earlier> earlier, Func<long, Change> changeOf)
    {
        foreach (var (id, fields, step, left) in earlier)
        {
            var there = changeOf(step).All.FirstOrDefault(n => n.Id == id);
            if ((left ? there.After : there.Before) is not { } source)
            {
                return null;
            }

            before = before?.Fields.Taking(before, fields, source);
        }

        return before;
    }

    /// <summary>To make or remove a node writes all its parts.</summary>
    private static Parts Whole(Parts fields) => (fields & Parts.Existence) != 0 ? PartsOf.Every : fields;
}
