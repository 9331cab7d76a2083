using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>Who rides on whom, and the lists beside the tree, in the artist's order: the ranks of the siblings, ties by id.</summary>
internal sealed class SceneTree
{
    private const string Top = "";
    private readonly Dictionary<string, Siblings> _children = [];

    public IReadOnlyList<string> Children(string? parent)
    {
        return _children.TryGetValue(parent ?? Top, out var list) ? list.Ids : [];
    }

    public void Add(Entity node)
    {
        var key = node.List ?? Top;
        if (!_children.TryGetValue(key, out var list))
        {
            _children[key] = list = new();
        }

        var seat = (node.Rank, node.Id);
        var seats = list.ToChange();
        if (seats.Count == 0 || Seats.Instance.Compare(seats[^1], seat) < 0)
        {
            // Most come last, and many at once do.
            seats.Add(seat);
        }
        else
        {
            seats.Insert(~seats.BinarySearch(seat, Seats.Instance), seat);
        }
    }

    /// <summary>Takes nodes out of the lists that they stand in; each list is gone through once, however many leave it.</summary>
    public void Remove(IEnumerable<Entity> nodes)
    {
        foreach (var leaving in nodes.GroupBy(n => n.List ?? Top))
        {
            var list = _children[leaving.Key].ToChange();
            if (leaving.Take(2).ToList() is [var one])
            {
                list.RemoveAt(list.BinarySearch((one.Rank, one.Id), Seats.Instance));
            }
            else
            {
                var ids = leaving.Select(n => n.Id).ToHashSet();
                list.RemoveAll(seat => ids.Contains(seat.Id));
            }

            if (list.Count == 0)
            {
                _children.Remove(leaving.Key);
            }
        }
    }

    /// <summary>Those who stand in one list. Many may read at once; the ids are made by the first who asks.</summary>
    private sealed class Siblings
    {
        private readonly List<(double Rank, string Id)> _seats = [];
        private string[]? _ids;

        public string[] Ids => _ids ??= [.. _seats.Select(s => s.Id)];

        public List<(double Rank, string Id)> ToChange()
        {
            _ids = null;
            return _seats;
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
