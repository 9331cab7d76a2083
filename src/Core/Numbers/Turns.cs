namespace CalmPivot.Core.Numbers;

/// <summary>Follows the three angles of a turn from its start, so that whole turns are not lost (law 3).</summary>
public static class Turns
{
    /// <summary>Beyond so many revolutions the whole ones are counted, not followed.</summary>
    public const int MostFollowed = 1_000;

    /// <summary>Into how many equal parts a turn is divided: ⌈|θ|/15°⌉, at least one.</summary>
    public static int Parts(double degrees) => Math.Max(1, (int)Math.Min(1e6, Math.Ceiling(Math.Abs(degrees) / 15)));

    /// <summary>The shortest turn that brings one direction to another; where they are opposite, about any way square to them.</summary>
    /// <param name="from">Of length one, as is the other.</param>
    public static Mat3 Shortest(Vec3 from, Vec3 to)
    {
        var axis = from.Cross(to);
        if (!(axis.Length > 1e-12))
        {
            return from.Dot(to) > 0 ? Mat3.Identity : Mat3.Rotation(from.Cross(Math.Abs(from.X) < 0.9 ? Vec3.UnitX : Vec3.UnitY).Unit(), 180);
        }

        return Mat3.Rotation(axis.Unit(), Math.Atan2(axis.Length, from.Dot(to)) * (180 / Math.PI));
    }

    /// <summary>
    /// The angles after a turn. A revolution leads to the same directions, in angles of the same or of the other of the two
    /// families that give them; two add whole turns, always the same. So beyond a thousand two are followed, and counted as
    /// often as they come.
    /// </summary>
    /// <param name="at">The angles after a part of the turn, in degrees, near to the angles of the part before.</param>
    public static Vec3 Followed(Vec3 start, double degrees, Func<double, Vec3, Vec3> at)
    {
        ArgumentNullException.ThrowIfNull(at);
        if (Math.Abs(degrees) > 360.0 * MostFollowed)
        {
            var rest = degrees % 720;
            var twice = (Followed(start, Math.Sign(degrees) * 720, at) - start).Map(v => Math.Round(v / 360) * 360);
            return Followed(start, rest, at) + twice * Math.Round(Math.Abs(degrees - rest) / 720);
        }

        var (angles, parts) = (start, Parts(degrees));
        for (var part = 1; part <= parts; part++)
        {
            angles = at(degrees * part / parts, angles);
        }

        return angles;
    }
}
