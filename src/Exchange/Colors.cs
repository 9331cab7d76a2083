using System.Numerics;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange;

/// <summary>Colours as glTF's linear factors in single precision.</summary>
internal static class Colors
{
    /// <summary>What single precision makes of a share: some units of its last place.</summary>
    private const double Single = 3e-7;

    /// <summary>The least number that it has with all its digits.</summary>
    private const double Least = 1.2e-38;

    public static Vector3 ToLinear(Color color) => new((float)color.Linear.X, (float)color.Linear.Y, (float)color.Linear.Z);

    /// <summary>By six figures where these say it as exactly as the file does.</summary>
    public static Color FromLinear(float r, float g, float b)
    {
        var linear = new Vec3(Share(r), Share(g), Share(b));
        Color nearest = Color.Of(linear).Nearest;
        return Agree(nearest, Color.Of(linear)) ? nearest : Color.Of(linear);
    }

    /// <summary>Whether two are the same but for single precision.</summary>
    public static bool Agree(Color a, Color b) =>
        Enumerable.Range(0, 3).All(i => Math.Abs(a.Linear[i] - b.Linear[i]) <= Single * Math.Max(a.Linear[i], b.Linear[i]) + Least);

    private static double Share(float l) => float.IsNaN(l) ? 0 : Math.Clamp(l, 0, 1);
}
