using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Makes copies of branches with their inner relations.</summary>
internal sealed class Copier(SceneDraft draft, List<Node> tops, bool sharing)
{
    /// <summary>Leaves room for the number that a descendant's id gets behind the id of its top.</summary>
    private const int MostTopIdLength = 56;

    private readonly Sharing.Keys _keys = new(draft);
    private readonly HashSet<string> _sharedWithin = SharedWithin(draft, tops);

    /// <summary>Copies branches; the copies of their tops lie beside them in the tree, still without their seats.</summary>
    public List<string> Copy(IReadOnlyList<string> from, IReadOnlyList<string>? ids)
    {
        var made = new List<string>(from.Count);
        var led = new Dictionary<string, string>();
        for (var i = 0; i < from.Count; i++)
        {
            if (ids?[i].Length > MostTopIdLength)
            {
                throw new Refusal(Refusals.NotUnderstood, $"The id of a copy has at most {MostTopIdLength} characters.");
            }

            var id = Seats.NewId(draft, ids?[i]);
            var number = 0;
            foreach (var node in draft.Branch(from[i]))
            {
                led[node.Id] = node.Id == from[i] ? id : Seats.NewId(draft, $"{id}-{++number}");
            }

            made.Add(id);
        }

        if (led.Values.Distinct().Count() < led.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, "Two copies would get the same id. Give each its own.");
        }

        // All of them have their ids before the first is made, so that copies name copies whatever their order.
        var shares = new Dictionary<string, string>();
        foreach (var id in from)
        {
            CopyBranch(draft.Get(id), led, shares);
        }

        return made;
    }

    /// <summary>Gives the copies their names and their seats: right after their original, in the order they were made.</summary>
    public void Seat(List<List<string>> copies)
    {
        for (var i = 0; i < tops.Count; i++)
        {
            var (column, origin) = (i, draft.Get(tops[i].Id));
            var named = copies.ConvertAll(copy =>
            {
                var node = draft.Get(copy[column]);
                draft.Remove(node);
                return node;
            });

            Ranks.SeatAfter(draft, named, origin);
            foreach (var node in named)
            {
                draft.Put(draft.Get(node.Id) with { Name = draft.DistinctName(origin.Name, origin.Kind, origin.Parent) });
            }
        }
    }

    private static HashSet<string> SharedWithin(SceneDraft draft, List<Node> tops) => [.. tops
        .SelectMany(top => draft.Branch(top.Id))
        .Where(n => n.Shares is not null)
        .GroupBy(n => n.Shares!)
        .Where(g => g.Count() > 1)
        .Select(g => g.Key)];

    private void CopyBranch(Node top, Dictionary<string, string> ids, Dictionary<string, string> shares)
    {
        foreach (var node in draft.Branch(top.Id).ToList())
        {
            // What is copied along is named by the copies, anything else as before.
            var copyId = ids[node.Id];
            draft.Origins[copyId] = draft.Origins.GetValueOrDefault(node.Id, node.Id);

            // A lock is for what stands in its place, not for what is made of it.
            var copy = node with { Id = copyId, Switches = node.Switches with { Locked = false }, Shares = SharesOf(node, copyId, shares) };
            draft.Put(NodeReferences.Led(copy, (reference, named) =>
                reference == NodeReferences.Collections && draft.LocksByCollection && IsLocked(named) ? null
                : ids.GetValueOrDefault(named, named)));
        }
    }

    private bool IsLocked(string id) =>
        draft.FindCollection(id) is { } collection && draft.Ancestors(collection).Prepend(collection).Any(c => c.Switches.Locked);

    private string? SharesOf(Node node, string copyId, Dictionary<string, string> shares)
    {
        if (sharing && (node.Shape is not null || node.Geometry is not null))
        {
            if (node.Shares is { } shared)
            {
                return shared;
            }

            // The same original may come again, in the next copy of a row.
            var present = draft.Get(node.Id);
            if (present.Shares is null)
            {
                draft.Put(present = present with { Shares = _keys.Free(node.Id) });
            }

            return present.Shares;
        }

        // Independent copies share with each other what their originals share among themselves.
        if (node.Shares is not { } key || !_sharedWithin.Contains(key))
        {
            return null;
        }

        if (!shares.TryGetValue(key, out var own))
        {
            shares[key] = own = _keys.Free(copyId);
        }

        return own;
    }
}
