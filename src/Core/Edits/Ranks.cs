using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Seats nodes among siblings. A rank is a number between its neighbours', so that the siblings stay unwritten.</summary>
internal static class Ranks
{
    /// <summary>Puts what says by its parent that it stands in one list before the sibling at an index (counted without themselves), or last.</summary>
    public static void Seat(SceneDraft draft, IReadOnlyList<Entity> nodes, int? index)
    {
        if (nodes.Count == 0)
        {
            return;
        }

        var key = nodes[0].List;
        var list = draft.Children(key);

        // Where those that move stand in the list already, asked of them, not of the list: many new ones come to long lists.
        var standing = nodes.Select(n => draft.FindAny(n.Id)).OfType<Entity>().Where(n => n.List == key).Select(draft.IndexOf).Order().ToList();
        var count = list.Count - standing.Count;

        // The sibling of a number when those that move are not counted.
        string Sibling(int number)
        {
            foreach (var moving in standing)
            {
                number += moving <= number ? 1 : 0;
            }

            return list[number];
        }

        draft.Spend(nodes.Count + list.Count / 64);
        var at = Math.Clamp(index ?? count, 0, count);
        double? low = at > 0 ? draft.FindAny(Sibling(at - 1))!.Rank : null;
        double? high = at < count ? draft.FindAny(Sibling(at))!.Rank : null;
        var first = low ?? (high - nodes.Count - 1) ?? 0;
        var gap = high is { } h ? (h - first) / (nodes.Count + 1) : 1;

        // After some fifty insertions at one place no number is left between two neighbours.
        if (gap < Math.Max(1, Math.Abs(first)) * 1e-12)
        {
            var movers = nodes.Select(n => n.Id).ToHashSet();
            Renumber(draft, [.. list.Where(id => !movers.Contains(id))]);
            Seat(draft, nodes, index);
            return;
        }

        draft.PutInRow([.. nodes.Select((node, i) => node with { Rank = first + gap * (i + 1) })]);
    }

    /// <summary>Puts new nodes, in their order, right after a sibling.</summary>
    public static void SeatAfter(SceneDraft draft, IReadOnlyList<Entity> nodes, Entity sibling) =>
        Seat(draft, nodes, draft.IndexOf(sibling) + 1);

    /// <summary>How many generations a branch has.</summary>
    public static int Height(SceneDraft draft, Entity top)
    {
        if (draft.Children(top.Id).Count == 0)
        {
            return 1;
        }

        var height = 0;
        List<string> level = [top.Id];
        while (level.Count > 0)
        {
            height++;
            level = [.. level.SelectMany(id => draft.Children(id))];
        }

        return height;
    }

    private static void Renumber(SceneDraft draft, IReadOnlyList<string> siblings)
    {
        draft.PutInRow([.. siblings.Select((id, i) => draft.FindAny(id)! with { Rank = i + 1 })]);
    }
}
