namespace CalmPivot.Core.Numbers;

/// <summary>
/// The split of an invertible 3×3 matrix into an orthogonal and an upper triangular one, <c>A = Q·U</c>, by Householder
/// reflections (Golub and Van Loan, Matrix Computations, 5.2), and the measure of how close a matrix is to singular.
/// </summary>
public static class Triangular
{
    /// <summary>A = Q·U with the diagonal of U positive; Q has the sign of the determinant of A.</summary>
    public static (Mat3 Q, Mat3 U) Split(Mat3 a)
    {
        var q = Mat3.Identity;
        var u = a;
        for (var k = 0; k < 2; k++)
        {
            var x = u.Column(k);
            if (k == 1)
            {
                x = x with { X = 0 };
            }

            // Reflecting onto the side away from x avoids cancellation.
            var norm = x.Length;
            var v = x + Vec3.Axis(k) * (x[k] < 0 ? -norm : norm);
            var vv = v.LengthSquared;
            if (vv == 0)
            {
                continue;
            }

            u = Reflect(u, v, vv);
            q = Reflect(q, v, vv);
        }

        q = q.Transposed();
        u = new(u.X with { Y = 0, Z = 0 }, u.Y with { Z = 0 }, u.Z);
        var signs = new Vec3(u.X.X < 0 ? -1 : 1, u.Y.Y < 0 ? -1 : 1, u.Z.Z < 0 ? -1 : 1);
        var d = Mat3.Diagonal(signs);
        return (q * d, d * u);
    }

    /// <summary>Largest over smallest singular value; infinite when singular or not finite.</summary>
    public static double Condition(Mat3 a)
    {
        var det = a.Determinant;
        if (!a.IsFinite || det == 0 || !double.IsFinite(det))
        {
            return double.PositiveInfinity;
        }

        // Singular values are the roots of the eigenvalues of AᵀA, found by Jacobi turns; rows are scaled first
        // so that very large or small matrices do not over- or underflow.
        var scale = 1 / a.Norm;
        var m = new Mat3(a.X * scale, a.Y * scale, a.Z * scale);
        var s = m.Transposed() * m;
        for (var sweep = 0; sweep < 12; sweep++)
        {
            s = Annul(Annul(Annul(s, 0, 1), 0, 2), 1, 2);
        }

        // The smallest follows from the determinant, which keeps digits that AᵀA has lost.
        var most = Math.Sqrt(Math.Max(s.X.X, Math.Max(s.Y.Y, s.Z.Z)));
        var middle = Math.Sqrt(Math.Max(0, s.Trace - Math.Max(s.X.X, Math.Max(s.Y.Y, s.Z.Z)) - Math.Min(s.X.X, Math.Min(s.Y.Y, s.Z.Z))));
        var least = Math.Abs(m.Determinant) / (most * middle);
        return least > 0 ? most / least : double.PositiveInfinity;
    }

    private static Mat3 Reflect(Mat3 m, Vec3 v, double vv)
    {
        Vec3 One(Vec3 c) => c - v * (2 * v.Dot(c) / vv);
        return new(One(m.X), One(m.Y), One(m.Z));
    }

    private static Mat3 Annul(Mat3 s, int p, int q)
    {
        var off = s[p, q];
        if (off == 0)
        {
            return s;
        }

        var theta = (s[q, q] - s[p, p]) / (2 * off);
        var t = (theta < 0 ? -1 : 1) / (Math.Abs(theta) + Math.Sqrt(theta * theta + 1));
        var c = 1 / Math.Sqrt(t * t + 1);
        var turn = Mat3.Identity
            .WithColumn(p, Vec3.Zero.With(p, c).With(q, -t * c))
            .WithColumn(q, Vec3.Zero.With(q, c).With(p, t * c));
        return turn.Transposed() * s * turn;
    }
}
