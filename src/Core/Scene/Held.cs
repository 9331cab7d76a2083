using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>How far apart two world matrices of one node are: metres that its pivot moved, degrees, and a factor of its size.</summary>
public readonly record struct Jump(double Moved, double Turned, double Scaled)
{
    public static readonly Jump None = new(0, 0, 1);

    /// <summary>Whether there is anything to speak of.</summary>
    public bool IsSome => Moved > 1e-9 || Turned > 1e-7 || Math.Abs(Scaled - 1) > 1e-9;

    public static unsafe Jump Of(Own own, Affine from, Affine to)
    {
        ArgumentNullException.ThrowIfNull(own);
        double* a = stackalloc double[Stances.Size], b = stackalloc double[Stances.Size];
        var moved = (to.Point(own.Pivot) - from.Point(own.Pivot)).Length;
        return Standing.Split(from, own, a) && Standing.Split(to, own, b)
            ? new(moved, Stances.Angle(a + Stances.R, b + Stances.R), Math.Cbrt(b[12] * b[14] * Math.Abs(b[17]) / (a[12] * a[14] * Math.Abs(a[17]))))
            : new(moved, 0, 1);
    }
}

/// <summary>A node that an edit could not bring to where it was to stand, or that it makes jump, and the entry that does it.</summary>
/// <param name="Link">The id of the entry; null: no single one.</param>
/// <param name="Parts">What the entry has its way with.</param>
/// <param name="Off">By how much it stands elsewhere than it was to.</param>
/// <param name="In">Where it was to stay though it is not edited there: a shot, or the scene where its shot is null; null: where it is edited.</param>
public sealed record Held(string Node, string? Link, Writes Parts, Jump Off, Layer? In = null);

/// <summary>A shot, or the scene itself.</summary>
/// <param name="Shot">The shot's id; null: the scene.</param>
public sealed record Layer(string? Shot);
