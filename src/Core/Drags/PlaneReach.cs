using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Drags;

/// <summary>
/// Where a ray meets a plane, held back where the plane turns away from the eye: exact up to a few times the view's distance,
/// beyond that slower and slower, and at the horizon at rest.
/// </summary>
internal static class PlaneReach
{
    /// <summary>Up to so many times the distance a plane is followed exactly.</summary>
    public const double Exact = 4;

    /// <summary>Nothing goes further than so many times the distance.</summary>
    public const double Most = 8;

    /// <summary>The way from a point of the plane to where the ray meets it.</summary>
    /// <param name="normal">Of length 1.</param>
    /// <param name="distance">From the eye to the point; in parallel views, a length of the picture.</param>
    public static Vec3 From(Vec3 point, Vec3 normal, Ray ray, double distance, bool parallel)
    {
        var toward = ray.Direction.Dot(normal);
        var height = (point - ray.Origin).Dot(normal);
        if (parallel)
        {
            // Parallel rays meet a plane wherever it does not stand on edge, before or behind the picture.
            var most = 200 * distance;
            var way = toward == 0 ? most : height / toward;
            return ray.Origin + ray.Direction * Math.Clamp(way, -most, most) - point;
        }

        var met = ray.Origin + ray.Direction * (height / toward) - point;
        var far = met.Length / distance;
        if (height * toward > 0 && far < 1e9)
        {
            return far <= Exact ? met : met * (Held(far) / far);
        }

        // Beyond the horizon the plane lies in the direction in which the ray runs along it.
        var along = ray.Direction - normal * toward;
        return along.Length > 1e-12 ? along.Unit() * (Most * distance) : Vec3.Zero;
    }

    /// <summary>
    /// A way along a plane as far as a hand can mean it: exact up to three times the way across the picture, never more than four times; and beyond the way across the
    /// picture never further than the picture is wide, half of that exactly. Near the horizon a small move would go anywhere otherwise.
    /// </summary>
    /// <param name="way">Along the plane, from its centre.</param>
    /// <param name="across">The same across the picture, at the centre's distance.</param>
    public static Vec3 ByHand(Vec3 way, Vec3 across, double distance)
    {
        var (far, shown) = (way.Length, across.Length);
        if (far <= shown || shown < 1e-12)
        {
            return way;
        }

        var gain = Soft(far / shown, ExactGain, MostGain);
        var width = Width * distance;
        return way * ((shown + Soft(shown * (gain - 1), width / 2, width)) / far);
    }

    private const double ExactGain = 3;
    private const double MostGain = 4;

    /// <summary>As wide as a picture of the usual angle of view is, for its distance.</summary>
    private const double Width = 1.1;

    /// <summary>As it is up to a bound, from there without a bend, and at rest at the most.</summary>
    private static double Soft(double value, double exact, double most) =>
        value <= exact ? value : most - (most - exact) * Math.Exp((exact - value) / (most - exact));

    /// <summary>Goes on from the exact part without a bend, and comes to rest at the most.</summary>
    private static double Held(double far) => Soft(far, Exact, Most);
}
