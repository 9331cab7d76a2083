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

    public void Add(Node node) => Edit(node, (list, at, seat) => list.Insert(at < 0 ? ~at : at, seat));

    public void Remove(Node node) => Edit(node, (list, at, _) => list.RemoveAt(at));

    private void Edit(Node node, Action<List<(double Rank, string Id)>, int, (double Rank, string Id)> edit)
    {
        var key = Lists.Of(node) ?? Top;
        if (!_children.TryGetValue(key, out var list))
        {
            _children[key] = list = [];
        }

        var seat = (node.Rank, node.Id);
        edit(list, list.BinarySearch(seat, Seats.Instance), seat);
        _ids.Remove(key);
        if (list.Count == 0)
        {
            _children.Remove(key);
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
