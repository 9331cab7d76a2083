using System.Collections.Immutable;
using System.Security.Cryptography;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Scene;

/// <summary>What is stored already, with what the edits of a draft made on top.</summary>
internal sealed class MadeGeometries(IGeometries below) : IGeometries
{
    public ImmutableDictionary<string, Geometry> All { get; private set; } = ImmutableDictionary<string, Geometry>.Empty;

    public Geometry? Find(string hash) => All.GetValueOrDefault(hash) ?? below.Find(hash);

    public void Keep(string hash, Geometry geometry) => All = All.SetItem(hash, geometry);

    /// <summary>Takes in new geometry and gives it the name it is stored under: the hash of its stored form.</summary>
    public string Keep(Geometry geometry)
    {
        var bytes = GeometryBinary.Write(geometry);
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));

        // Kept as it will be read again, so that what is computed from it is the same now and later.
        Keep(hash, GeometryBinary.Read(bytes));
        return hash;
    }
}
