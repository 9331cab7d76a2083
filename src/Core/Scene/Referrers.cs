namespace CalmPivot.Core.Scene;

/// <summary>Who names what beside the tree, kept in step with every change.</summary>
internal sealed class Referrers
{
    private readonly Dictionary<string, HashSet<string>> _of = [];

    /// <summary>The ids of those that name something; in no order.</summary>
    public IReadOnlyCollection<string> Of(string id) => _of.TryGetValue(id, out var all) ? all : [];

    public void Add(Node node)
    {
        foreach (var id in NodeReferences.BesideTree(node))
        {
            if (!_of.TryGetValue(id, out var all))
            {
                _of[id] = all = [];
            }

            all.Add(node.Id);
        }
    }

    public void Remove(Node node)
    {
        foreach (var id in NodeReferences.BesideTree(node))
        {
            if (_of.TryGetValue(id, out var all) && all.Remove(node.Id) && all.Count == 0)
            {
                _of.Remove(id);
            }
        }
    }
}
