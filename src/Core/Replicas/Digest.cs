using System.Globalization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Replicas;

/// <summary>
/// A short word for what a change wrote, the same wherever the same change was computed: by it a page and the server agree
/// without looking at every number again. FNV-1a (Fowler, Noll and Vo) over what was written of each node; the order of the nodes does not matter.
/// </summary>
public static class Digest
{
    private const ulong Start = 14695981039346656037;
    private const ulong Prime = 1099511628211;

    public static string Of(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        ulong sum = 0;
        foreach (var node in change.Nodes)
        {
            sum += OfNode(node);
        }

        return sum.ToString("x16", CultureInfo.InvariantCulture) + "-" + change.Nodes.Count.ToString(CultureInfo.InvariantCulture);
    }

    private static ulong OfNode(NodeChange change)
    {
        var fields = change.Written();
        var hash = Add(Add(Start, change.Id), (ulong)fields);
        if (change.After is not { } node)
        {
            return hash;
        }

        bool Has(NodeFields part) => (fields & (part | NodeFields.Existence)) != 0;
        hash = Has(NodeFields.Seat) ? Add(Add(hash, node.Parent ?? ""), BitConverter.DoubleToUInt64Bits(node.Rank)) : hash;
        hash = Has(NodeFields.Name) ? Add(hash, node.Name) : hash;
        hash = Has(NodeFields.Placement) ? Add(hash, node.Placement) : hash;
        const NodeFields Rest = ~(NodeFields.Seat | NodeFields.Name | NodeFields.Placement);
        if ((fields & Rest) != 0)
        {
            // The rest is small and rarely written: as it is stored, without what was taken in above.
            var rest = NodeData.From(node with { Placement = Placement.Default, Name = "", Parent = null, Rank = 0 });
            hash = Add(hash, WireJson.Write(rest));
        }

        return hash;
    }

    private static ulong Add(ulong hash, Placement p)
    {
        hash = Add(Add(Add(hash, p.Position), p.Rotation), p.Scale);
        hash = Add(Add(Add(hash, p.Shear), p.Pivot), p.PivotTurn);
        var takes = (p.Takes.Position ? 1u : 0) | (p.Takes.Rotation ? 2u : 0) | (p.Takes.Scale ? 4u : 0);
        return Add(hash, (ulong)p.Order << 3 | takes);
    }

    private static ulong Add(ulong hash, Vec3 v) => Add(
        Add(Add(hash, BitConverter.DoubleToUInt64Bits(v.X)), BitConverter.DoubleToUInt64Bits(v.Y)),
        BitConverter.DoubleToUInt64Bits(v.Z));

    /// <summary>Eight bytes at once: as good for telling apart, and a fraction of the steps.</summary>
    private static ulong Add(ulong hash, ulong value)
    {
        hash = (hash ^ value) * Prime;
        return hash ^ hash >> 29;
    }

    private static ulong Add(ulong hash, string text)
    {
        foreach (var c in text)
        {
            hash = (hash ^ c) * Prime;
        }

        return (hash ^ 0x1F) * Prime;
    }
}
