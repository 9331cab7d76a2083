using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>What a node stores of itself that its constraints, and those of others that look at it, go by.</summary>
/// <param name="Pivot">A point of its own frame.</param>
/// <param name="Turn">The directions Q of its pivot.</param>
/// <param name="Signs">Those of its stored scale.</param>
/// <param name="Rotation">The stored angles, degrees.</param>
/// <param name="IsLens">A camera or a lamp: what points something at something points its lens axes.</param>
public sealed record Own(Vec3 Pivot, Mat3 Turn, Vec3 Signs, Vec3 Rotation, EulerOrder Order, bool IsLens = false)
{
    private readonly double[] _facing = [Signs.X, Signs.Y, Signs.X * Signs.Y];

    /// <summary>Whether the directions of the pivot differ from the node's own.</summary>
    public bool IsTurned { get; } = Turn != Mat3.Identity;

    /// <summary>σx, σy and σx·σy: the own axes are the columns of R times these.</summary>
    public double Facing(int axis) => _facing[axis];
}
