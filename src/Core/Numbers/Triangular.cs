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

        // Scaled first, so that very large or small matrices do not over- or underflow. The smallest value follows from the
        // determinant, which keeps digits that AᵀA has lost.
        var scale = 1 / a.Norm;
        var m = new Mat3(a.X * scale, a.Y * scale, a.Z * scale);
        var gram = m.Transposed() * m;
        if (Math.Max(Math.Abs(gram.Y.X), Math.Max(Math.Abs(gram.Z.X), Math.Abs(gram.Z.Y))) < 1e-15)
        {
            // Columns that are square to each other, as nearly always: their lengths are the singular values.
            var (x, y, z) = (gram.X.X, gram.Y.Y, gram.Z.Z);
            return Math.Sqrt(Math.Max(x, Math.Max(y, z)) / Math.Min(x, Math.Min(y, z)));
        }

        var (squares, _) = Symmetric.Eigen(gram);
        double[] sorted = squares.ToArray();
        Array.Sort(sorted);
        var (most, middle) = (Math.Sqrt(sorted[2]), Math.Sqrt(Math.Max(0, sorted[1])));
        var least = Math.Abs(m.Determinant) / (most * middle);
        return least > 0 ? most / least : double.PositiveInfinity;
    }

    private static Mat3 Reflect(Mat3 m, Vec3 v, double vv)
    {
        Vec3 One(Vec3 c) => c - v * (2 * v.Dot(c) / vv);
        return new(One(m.X), One(m.Y), One(m.Z));
    }
}
