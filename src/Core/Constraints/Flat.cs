using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>World matrices on flat memory: twelve numbers, the rows of the 3×4 matrix.</summary>
public static unsafe class Flat
{
    public const int Size = 12;

    public static void Write(Affine a, double* at)
    {
        var (m, o) = a;
        (at[0], at[1], at[2], at[3]) = (m.X.X, m.Y.X, m.Z.X, o.X);
        (at[4], at[5], at[6], at[7]) = (m.X.Y, m.Y.Y, m.Z.Y, o.Y);
        (at[8], at[9], at[10], at[11]) = (m.X.Z, m.Y.Z, m.Z.Z, o.Z);
    }

    public static Affine Read(double* m) =>
        new(new(new(m[0], m[4], m[8]), new(m[1], m[5], m[9]), new(m[2], m[6], m[10])), new(m[3], m[7], m[11]));
}
