using System.Runtime.InteropServices;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Browser;

/// <summary>The stored geometry that the page has fetched.</summary>
internal sealed class PageGeometries : IGeometries
{
    private readonly Dictionary<string, Geometry> _known = [];

    public Geometry? Find(string hash) => _known.GetValueOrDefault(hash);

    public void Keep(string hash, Geometry geometry) => _known[hash] = geometry;

    /// <summary>Lets go of all that a scene does not use.</summary>
    public void KeepOnly(IEnumerable<string> used)
    {
        var kept = used.ToHashSet();
        foreach (var hash in _known.Keys.Where(hash => !kept.Contains(hash)).ToList())
        {
            _known.Remove(hash);
        }
    }

    /// <summary>Takes in the order in which the triangles of a geometry are found fast; four bytes each.</summary>
    public void Index(string hash, byte[] order)
    {
        if (Find(hash) is { } geometry && order.Length % 4 == 0)
        {
            geometry.Index(MemoryMarshal.Cast<byte, int>(order).ToArray());
        }
    }

    public void Add(string hash, byte[] bytes) => _known[hash] = GeometryBinary.Read(bytes);
}
