using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>A column of the table of what shots see.</summary>
public sealed record SeenColumn(string Shot, string Number, string Title);

/// <summary>A row: a collection or a picked object.</summary>
/// <param name="Depth">How deep it stands in its list.</param>
/// <param name="Final">The scene's own switch.</param>
/// <param name="Cells">One letter a shot: <c>.</c> as in the scene, <c>+</c> on, <c>-</c> off.</param>
public sealed record SeenRow(string Id, string Name, bool IsCollection, int Depth, bool Final, string Cells);

/// <summary>
/// What is seen in which shot: collections and picked objects against shots. Rows stand as the tree and the list of collections have them, columns as the tray.
/// </summary>
public sealed record SeenTable(IReadOnlyList<SeenColumn> Columns, IReadOnlyList<SeenRow> Rows)
{
    /// <param name="picked">The objects that get a row of their own.</param>
    public static SeenTable Of(IScene scene, IReadOnlyList<string> picked)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(picked);
        var shots = scene.AllShots().ToList();
        List<(Arranged Some, int Depth)> rows = [];
        void Collections(string? parent, int depth)
        {
            foreach (var id in scene.Children(Lists.OfCollections(parent)))
            {
                rows.Add((scene.FindArranged(id)!, depth));
                Collections(id, depth + 1);
            }
        }

        Collections(null, 0);
        rows.AddRange(InTreeOrder(scene, picked).Select(node => ((Arranged)node, 0)));
        var at = rows.Select((row, i) => (row.Some.Id, i)).ToDictionary(r => r.Id, r => r.i);
        var cells = rows.ConvertAll(_ => new string('.', shots.Count).ToCharArray());
        for (var column = 0; column < shots.Count; column++)
        {
            foreach (var cheat in scene.CheatsOf(shots[column].Id))
            {
                if (cheat.IsSeen && at.TryGetValue(cheat.Of, out var row))
                {
                    cells[row][column] = cheat.Value.IsOn ? '+' : '-';
                }
            }
        }

        return new(
            [.. shots.Select(s => new SeenColumn(s.Id, s.Number, s.Title))],
            [.. rows.Select((row, i) => new SeenRow(row.Some.Id, row.Some.Name, row.Some is Collection, row.Depth, row.Some.Switches.Final, new(cells[i])))]);
    }

    /// <summary>Nodes as they follow each other in the tree, asked of their places and not of the whole tree.</summary>
    private static IEnumerable<Node> InTreeOrder(IScene scene, IReadOnlyList<string> picked) => picked.Distinct().Select(scene.Find).OfType<Node>()
        .Where(n => n.Kind.IsInTree())
        .Select(n => (Node: n, Way: scene.Ancestors(n).Reverse().Append(n).Select(a => a.Rank).ToArray()))
        .OrderBy(n => n.Way, Comparer<double[]>.Create((a, b) => a.AsSpan().SequenceCompareTo(b)))
        .Select(n => n.Node);
}
