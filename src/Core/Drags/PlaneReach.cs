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

    /// <summary>Goes on from the exact part without a bend, and comes to rest at the most.</summary>
    private static double Held(double far) => Most - (Most - Exact) * Math.Exp((Exact - far) / (Most - Exact));
}
