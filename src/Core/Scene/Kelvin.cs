using System.Globalization;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>The colour of what glows at a temperature.</summary>
public static class Kelvin
{
    public const double Least = 1_700;
    public const double Most = 25_000;

    /// <summary>#RRGGBB in sRGB, as bright as it goes.</summary>
    /// <param name="kelvin">From <see cref="Least"/> to <see cref="Most"/>.</param>
    /// <remarks>
    /// Source: Kim, Cho, Hong et al., Design of advanced color temperature control system for HDTV applications, 2002 (the Planckian locus in x and y);
    /// IEC 61966-2-1 (sRGB).
    /// </remarks>
    public static string Color(double kelvin)
    {
        var k = 1000 / Math.Clamp(kelvin, Least, Most);
        var x = kelvin <= 4000
            ? ((-0.2661239 * k - 0.2343589) * k + 0.8776956) * k + 0.179910
            : ((-3.0258469 * k + 2.1070379) * k + 0.2226347) * k + 0.240390;
        var y = kelvin <= 2222 ? ((-1.1063814 * x - 1.34811020) * x + 2.18555832) * x - 0.20219683
            : kelvin <= 4000 ? ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
            : ((3.0817580 * x - 5.87338670) * x + 3.75112997) * x - 0.37001483;
        var (high, deep) = (x / y, (1 - x - y) / y);
        var linear = new Vec3(
            3.2404542 * high - 1.5371385 - 0.4985314 * deep,
            -0.9692660 * high + 1.8760108 + 0.0415560 * deep,
            0.0556434 * high - 0.2040259 + 1.0572252 * deep);
        var most = Math.Max(linear.X, Math.Max(linear.Y, linear.Z));
        return "#" + string.Concat(linear.ToArray().Select(v => Byte(Math.Max(v / most, 0)).ToString("X2", CultureInfo.InvariantCulture)));
    }

    private static int Byte(double linear) =>
        (int)Math.Round(255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * Math.Pow(linear, 1 / 2.4) - 0.055));
}
