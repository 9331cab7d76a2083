using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Copied nodes: branches with parents before children, and where their tops were placed in the world.</summary>
/// <param name="CalmPivot">The version of this form.</param>
/// <param name="Nodes">Nodes as the API writes them; a parent that is not among them is left out.</param>
/// <param name="Worlds">The world matrix of each top, in their order.</param>
/// <param name="Geometries">What the meshes look like, in the stored binary form, by hash.</param>
/// <param name="Materials">What they are made of.</param>
/// <param name="Stands">Where those with constraints stood, by id; where what they look at is not found, they are put there.</param>
public sealed record CopiedNodes(
    int CalmPivot,
    NodeData[] Nodes,
    Affine[] Worlds,
    Dictionary<string, byte[]>? Geometries = null,
    Dictionary<string, Affine>? Stands = null,
    EntityData[]? Materials = null);
