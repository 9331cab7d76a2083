namespace CalmPivot.Core.Numbers;

/// <summary>The 256 steps of a channel of sRGB and their linear shares, the same bits wherever they are computed. Formula: IEC 61966-2-1.</summary>
public static class SRgb
{
    private static readonly double[] Shares = [.. Enumerable.Range(0, 256).Select(step => Share(step / 255.0))];

    /// <summary>The linear share of a step from 0 to 255.</summary>
    public static double Linear(int step) => Shares[step];

    /// <summary>The step that is nearest to a linear share as the eye has it; beyond 0 and 1 the first and the last.</summary>
    public static int Step(double linear)
    {
        var above = Array.BinarySearch(Shares, linear);
        above = above < 0 ? ~above : above;
        if (above is 0 or > 255)
        {
            return Math.Min(above, 255);
        }

        // Between two steps a straight line is as good as the curve.
        return linear - Shares[above - 1] < Shares[above] - linear ? above - 1 : above;
    }

    private static double Share(double c) => c <= 0.04045 ? c / 12.92 : ToThe12Fifths((c + 0.055) / 1.055);

    /// <summary>x to the power of 2.4 by additions, multiplications and divisions alone, which are the same on every machine: x²·⁵√x².</summary>
    private static double ToThe12Fifths(double x)
    {
        var (square, root) = (x * x, 1.0);
        for (var i = 0; i < 40; i++)
        {
            root = (4 * root + square / (root * root * root * root)) / 5;
        }

        return square * root;
    }
}
