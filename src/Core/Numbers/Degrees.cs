namespace CalmPivot.Core.Numbers;

/// <summary>Angles are stored and shown in degrees; radians live only in here.</summary>
public static class Degrees
{
    public const double PerRadian = 180 / Math.PI;

    /// <summary>Sine and cosine, exact at every quarter turn, so that a turn by 90° leaves zeros and ones.</summary>
    public static (double Sin, double Cos) SinCos(double degrees)
    {
        // To the nearest quarter turn and what is left, both without rounding.
        var turn = Math.IEEERemainder(degrees, 360);
        var quarter = Math.Round(turn / 90, MidpointRounding.ToEven);
        var (sin, cos) = turn == 90 * quarter ? (0, 1) : Trigonometry.SinCosNearZero((turn - 90 * quarter) / PerRadian);
        return ((int)quarter & 3) switch
        {
            0 => (sin, cos),
            1 => (cos, 0 - sin),
            2 => (0 - sin, 0 - cos),
            _ => (0 - cos, sin),
        };
    }

    public static double Atan2(double y, double x) => Trigonometry.Atan2(y, x) * PerRadian;

    /// <summary>The angle that differs from <paramref name="angle"/> by whole turns and lies nearest to <paramref name="previous"/>.</summary>
    public static double Near(double angle, double previous) =>
        angle + 360 * Math.Round((previous - angle) / 360, MidpointRounding.ToEven);
}
