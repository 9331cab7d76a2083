using System.Globalization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Replicas;

/// <summary>
/// A short word for what a change wrote, the same wherever the same change was computed: by it a page and the server agree
/// without looking at every number again. The order of the nodes does not matter.
/// <code>
/// var word = Digest.Of(change); // the same on both sides
/// </code>
/// </summary>
public static class Digest
{
    public static string Of(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        ulong sum = 0;
        foreach (var one in change.All)
        {
            sum += Of(one);
        }

        return sum.ToString("x16", CultureInfo.InvariantCulture) + "-" + (change.Nodes.Count + change.Entities.Count).ToString(CultureInfo.InvariantCulture);
    }

    private static ulong Of(EntityChange change)
    {
        var parts = change.Written();
        var digest = Digests.Add(Digests.Add(Digests.Start, change.Id), (ulong)parts);
        return change.After is { } after ? after.Fields.Digest(digest, after, parts, WireJson.Options) : digest;
    }
}
