namespace CalmPivot.Core.Scene;

/// <summary>Who rides on whom, and the lists beside the tree, in the artist's order: the ranks of the siblings, ties by id.</summary>
internal sealed class SceneTree
{
    private const string Top = "";
    private readonly Dictionary<string, List<(double Rank, string Id)>> _children = [];
    private readonly Dictionary<string, string[]> _ids = [];

    public IReadOnlyList<string> Children(string? parent)
    {
        var key = parent ?? Top;
        if (_ids.TryGetValue(key, out var ids))
        {
            return ids;
        }

        return _children.TryGetValue(key, out var list) ? _ids[key] = [.. list.Select(c => c.Id)] : [];
    }

    public void Add(Node node)
    {
        var key = Lists.Of(node) ?? Top;
        if (!_children.TryGetValue(key, out var list))
        {
            _children[key] = list = [];
        }

        var seat = (node.Rank, node.Id);
        if (list.Count == 0 || Seats.Instance.Compare(list[^1], seat) < 0)
        {
            // Most come last, and many at once do.
            list.Add(seat);
        }
        else
        {
            list.Insert(~list.BinarySearch(seat, Seats.Instance), seat);
        }

        _ids.Remove(key);
    }

    /// <summary>Takes nodes out of the lists that they stand in; each list is gone through once, however many leave it.</summary>
    public void Remove(IEnumerable<Node> nodes)
    {
        foreach (var leaving in nodes.GroupBy(n => Lists.Of(n) ?? Top))
        {
            var list = _children[leaving.Key];
            if (leaving.Take(2).ToList() is [var one])
            {
                list.RemoveAt(list.BinarySearch((one.Rank, one.Id), Seats.Instance));
            }
            else
            {
                var ids = leaving.Select(n => n.Id).ToHashSet();
                list.RemoveAll(seat => ids.Contains(seat.Id));
            }

            _ids.Remove(leaving.Key);
            if (list.Count == 0)
            {
                _children.Remove(leaving.Key);
            }
        }
    }

    private sealed class Seats : IComparer<(double Rank, string Id)>
    {
        public static readonly Seats Instance = new();

        public int Compare((double Rank, string Id) a, (double Rank, string Id) b)
        {
            var byRank = a.Rank.CompareTo(b.Rank);
            return byRank != 0 ? byRank : string.CompareOrdinal(a.Id, b.Id);
        }
    }
}
