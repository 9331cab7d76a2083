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
        // Reflecting onto the side away from the column avoids cancellation.
        var x = a.X;
        var length = x.Length;
        var v = new Vec3(x.X + (x.X < 0 ? -length : length), x.Y, x.Z);
        var (q, u) = (Reflect(Mat3.Identity, v), Reflect(a, v));
        var (y, z) = (u.Y.Y, u.Y.Z);
        length = Math.Sqrt(y * y + z * z);
        v = new(0, y + (y < 0 ? -length : length), z);
        (q, u) = (Reflect(q, v), Reflect(u, v));

        // Rows of both get the signs that make the diagonal positive; Q's are the columns of the result.
        var (sx, sy, sz) = (u.X.X < 0 ? -1.0 : 1.0, u.Y.Y < 0 ? -1.0 : 1.0, u.Z.Z < 0 ? -1.0 : 1.0);
        return (
            new(new(sx * q.X.X, sx * q.Y.X, sx * q.Z.X), new(sy * q.X.Y, sy * q.Y.Y, sy * q.Z.Y), new(sz * q.X.Z, sz * q.Y.Z, sz * q.Z.Z)),
            new(new(sx * u.X.X, 0, 0), new(sx * u.Y.X, sy * u.Y.Y, 0), new(sx * u.Z.X, sy * u.Z.Y, sz * u.Z.Z)));
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
        var most = Math.Sqrt(sorted[2]);

        // The middle one is at least the root of the product of the two smaller, also where rounding has left nothing of it.
        var product = Math.Abs(m.Determinant) / most;
        var middle = Math.Max(Math.Sqrt(Math.Max(0, sorted[1])), Math.Sqrt(product));
        var least = product / middle;
        return least > 0 ? most / least : double.PositiveInfinity;
    }

    /// <summary>Each column mirrored across the plane that v is normal to; v zero: none is.</summary>
    private static Mat3 Reflect(Mat3 m, Vec3 v)
    {
        var vv = v.LengthSquared;
        return vv == 0 ? m : new(m.X - v * (2 * v.Dot(m.X) / vv), m.Y - v * (2 * v.Dot(m.Y) / vv), m.Z - v * (2 * v.Dot(m.Z) / vv));
    }
}
