namespace CalmPivot.Core.Numbers;

/// <summary>Eigenvalues of symmetric matrices, and by them the split of any matrix into turn, stretch, turn.</summary>
public static class Symmetric
{
    /// <summary>Eigenvalues, and eigenvectors as columns, by Jacobi turns (Golub and Van Loan, Matrix Computations, 8.5).</summary>
    public static (Vec3 Values, Mat3 Vectors) Eigen(Mat3 s)
    {
        var vectors = Mat3.Identity;
        for (var sweep = 0; sweep < 12; sweep++)
        {
            for (var pair = 0; pair < 3; pair++)
            {
                var (p, q) = pair switch { 0 => (0, 1), 1 => (0, 2), _ => (1, 2) };
                var turn = Annulling(s, p, q);
                s = turn.Transposed() * s * turn;
                vectors *= turn;
            }
        }

        return (new(s.X.X, s.Y.Y, s.Z.Z), vectors);
    }

    /// <summary>Singular values: A = U·diag(Σ)·Vᵀ with U and V rotations; one factor is negative where A mirrors.</summary>
    public static (Mat3 U, Vec3 Stretch, Mat3 V) Singular(Mat3 a)
    {
        var (_, v) = Eigen(a.Transposed() * a);
        if (v.Determinant < 0)
        {
            v = v with { Z = -v.Z };
        }

        // The images of V's columns stand square on each other; QR makes them exactly so.
        var (u, k) = Triangular.Split(a * v);
        var stretch = new Vec3(k.X.X, k.Y.Y, k.Z.Z);
        return u.Determinant < 0 ? (u with { Z = -u.Z }, stretch with { Z = -stretch.Z }, v) : (u, stretch, v);
    }

    private static Mat3 Annulling(Mat3 s, int p, int q)
    {
        var off = s[p, q];
        if (off == 0)
        {
            return Mat3.Identity;
        }

        var theta = (s[q, q] - s[p, p]) / (2 * off);
        var t = (theta < 0 ? -1 : 1) / (Math.Abs(theta) + Math.Sqrt(theta * theta + 1));
        var c = 1 / Math.Sqrt(t * t + 1);
        return Mat3.Identity
            .WithColumn(p, Vec3.Zero.With(p, c).With(q, -t * c))
            .WithColumn(q, Vec3.Zero.With(q, c).With(p, t * c));
    }
}
