namespace CalmPivot.Core.Numbers;

/// <summary>
/// Sine, cosine and arc tangent that give the same bits in the page and on the server, where the platforms' own differ in
/// the last one; what both compute can then be compared exactly. The polynomials and their constants are those of fdlibm
/// (Freely Distributable LIBM, Sun Microsystems, 1993: k_sin.c, k_cos.c, s_atan.c, e_atan2.c); errors stay below one unit in the last place.
/// </summary>
internal static class Trigonometry
{
    private const double PiLow = 1.2246467991473531772e-16;

    /// <summary>Sine and cosine of an angle of at most π/4.</summary>
    public static (double Sin, double Cos) SinCosNearZero(double x)
    {
        var z = x * x;
        var s = 8.33333333332248946124e-03 + z * (-1.98412698298579493134e-04
            + z * (2.75573137070700676789e-06 + z * (-2.50507602534068634195e-08 + z * 1.58969099521155010221e-10)));
        var c = z * (4.16666666666666019037e-02 + z * (-1.38888888888741095749e-03 + z * (2.48015872894767294178e-05
            + z * (-2.75573143513906633035e-07 + z * (2.08757232129817482790e-09 + z * -1.13596475577881948265e-11)))));
        var half = 0.5 * z;
        var w = 1 - half;
        return (x + z * x * (-1.66666666666666324348e-01 + z * s), w + (1 - w - half + z * c));
    }

    /// <summary>The angle of a direction, in radians.</summary>
    public static double Atan2(double y, double x)
    {
        if (x == 0 || y == 0 || !double.IsFinite(x) || !double.IsFinite(y))
        {
            // Multiples of π/4, the same everywhere.
            return Math.Atan2(y, x);
        }

        var steepness = Math.Abs(y / x);
        var z = steepness > 1.152921504606847e18 ? Math.PI / 2 + 0.5 * PiLow : x < 0 && steepness < 8.673617379884035e-19 ? 0 : Atan(steepness);
        return (y < 0, x < 0) switch
        {
            (false, false) => z,
            (true, false) => -z,
            (false, true) => Math.PI - (z - PiLow),
            (true, true) => z - PiLow - Math.PI,
        };
    }

    /// <param name="x">Not negative.</param>
    private static double Atan(double x)
    {
        if (x < 7.450580596923828e-09)
        {
            return x;
        }

        var (high, low, t) = x switch
        {
            < 0.4375 => (0.0, 0.0, x),
            < 0.6875 => (4.63647609000806093515e-01, 2.26987774529616870924e-17, (2 * x - 1) / (2 + x)),
            < 1.1875 => (7.85398163397448278999e-01, 3.06161699786838301793e-17, (x - 1) / (x + 1)),
            < 2.4375 => (9.82793723247329054082e-01, 1.39033110312309984516e-17, (x - 1.5) / (1 + 1.5 * x)),
            _ => (1.57079632679489655800e+00, 6.12323399573676603587e-17, -1 / x),
        };
        var z = t * t;
        var w = z * z;
        var odd = z * (3.33333333333329318027e-01 + w * (1.42857142725034663711e-01 + w * (9.09088713343650656196e-02
            + w * (6.66107313738753120669e-02 + w * (4.97687799461593236017e-02 + w * 1.62858201153657823623e-02)))));
        var even = w * (-1.99999999998764832476e-01 + w * (-1.11111104054623557880e-01 + w * (-7.69187620504482999495e-02
            + w * (-5.83357013379057348645e-02 + w * -3.65315727442169155270e-02))));
        return high == 0 ? t - t * (odd + even) : high - (t * (odd + even) - low - t);
    }
}
