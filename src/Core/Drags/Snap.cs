using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Drags;

/// <summary>Kinds of targets, the stronger first: of several in reach the first kind wins.</summary>
[JsonConverter(typeof(CamelCase<SnapKind>))]
public enum SnapKind
{
    Vertex,
    Pivot,
    Corner,
    EdgeMiddle,
    Edge,
    Grid,
    Face,
}

/// <summary>What of the moved goes to the target.</summary>
[JsonConverter(typeof(CamelCase<SnapSource>))]
public enum SnapSource
{
    /// <summary>The pivot, or the point that the handles stand at.</summary>
    Pivot,

    /// <summary>The corner of the lead's own bounds that is nearest to the target.</summary>
    Corner,

    /// <summary>A point that was picked on it.</summary>
    Picked,
}

/// <summary>Triangles of a node near the pointer, as the page's index proposes them; nine numbers each, in the node's own frame.</summary>
public sealed record SnapNear(string Node, IReadOnlyList<double> Triangles);

/// <summary>How a drag snaps.</summary>
/// <param name="Radius">Pixels around the pointer.</param>
/// <param name="Focal">Pixels that a length of 1 takes at a distance of 1 from the eye; in parallel views, pixels a metre.</param>
/// <param name="Grid">Metres between the points of the ground's grid; 0: none.</param>
/// <param name="Turn">True: the own y turns to the upright of the face that was caught.</param>
/// <param name="Next">Which of the candidates is taken, the best being 0.</param>
/// <param name="From">The picked point, in the world, as it was before the drag.</param>
public sealed record SnapRequest(
    IReadOnlyList<SnapKind> Kinds,
    IReadOnlyList<SnapNear> Near,
    double Radius,
    double Focal,
    double Grid = 0,
    SnapSource Source = SnapSource.Pivot,
    bool Turn = false,
    int Next = 0,
    Vec3? From = null);

/// <summary>What was caught: the kind, the point in the world, the upright of its face where it has one, and whose it is.</summary>
/// <param name="Node">Null for points of the grid.</param>
public readonly record struct SnapTarget(SnapKind Kind, Vec3 Point, Vec3? Normal, string? Node, double Pixels, double Depth);
