using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>Who names what beside the tree, kept in step with every change.</summary>
internal sealed class Referrers
{
    private readonly Dictionary<string, HashSet<string>> _of = [];

    /// <summary>The ids of those that name something; in no order.</summary>
    public IReadOnlyCollection<string> Of(string id) => _of.TryGetValue(id, out var all) ? all : [];

    public void Add(Entity entity)
    {
        foreach (var id in NodeReferences.BesideTree(entity))
        {
            if (!_of.TryGetValue(id, out var all))
            {
                _of[id] = all = [];
            }

            all.Add(entity.Id);
        }
    }

    public void Remove(Entity entity)
    {
        foreach (var id in NodeReferences.BesideTree(entity))
        {
            if (_of.TryGetValue(id, out var all) && all.Remove(entity.Id) && all.Count == 0)
            {
                _of.Remove(id);
            }
        }
    }
}
