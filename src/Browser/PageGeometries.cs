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

    public void Add(string hash, byte[] bytes) => _known[hash] = GeometryBinary.Read(bytes);
}
