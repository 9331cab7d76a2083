namespace CalmPivot.Core.Numbers;

/// <summary>Angles are stored and shown in degrees; radians live only in here.</summary>
public static class Degrees
{
    public const double PerRadian = 180 / Math.PI;

    /// <summary>Sine and cosine, exact at every quarter turn, so that a turn by 90° leaves zeros and ones.</summary>
    public static (double Sin, double Cos) SinCos(double degrees)
    {
        var turn = Math.IEEERemainder(degrees, 360);
        return turn switch
        {
            0 => (0, 1),
            90 => (1, 0),
            -90 => (-1, 0),
            180 or -180 => (0, -1),
            _ => Math.SinCos(turn / PerRadian),
        };
    }

    public static double Atan2(double y, double x) => Math.Atan2(y, x) * PerRadian;

    /// <summary>The angle that differs from <paramref name="angle"/> by whole turns and lies nearest to <paramref name="previous"/>.</summary>
    public static double Near(double angle, double previous) =>
        angle + 360 * Math.Round((previous - angle) / 360, MidpointRounding.ToEven);
}
