using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Words;

/// <summary>Where one of the 27 points of some bounds is seen: "left front edge of the base", as the view looks at them now.</summary>
public static class SeenAnchor
{
    /// <param name="anchor">−1, 0 or 1 along each axis: low, middle, high.</param>
    /// <param name="axes">The axes of the bounds in the world, as columns.</param>
    /// <param name="view">The world axes of the eye: its right, its up, and toward who looks.</param>
    public static string InWords(Vec3 anchor, Mat3 axes, Mat3 view)
    {
        // Each axis of the bounds says what it is seen as: of the six ways in which it can be, those that together fit best, each once.
        var (best, most) = (Orders[0], double.NegativeInfinity);
        foreach (var order in Orders)
        {
            var fit = 0.0;
            for (var i = 0; i < 3; i++)
            {
                fit += Math.Abs(axes.Column(i).Unit().Dot(view.Column(order[i]).Unit()));
            }

            (best, most) = fit > most + 1e-9 ? (order, fit) : (best, most);
        }

        var seen = new int[3];
        for (var i = 0; i < 3; i++)
        {
            seen[best[i]] = Math.Sign(anchor[i]) * (axes.Column(i).Dot(view.Column(best[i])) < 0 ? -1 : 1);
        }

        var (side, level, depth) = (Word(seen[0], "left", "right"), Word(seen[1], "bottom", "top"), Word(seen[2], "back", "front"));
        string[] words = [.. new[] { side, depth, level }.Where(w => w.Length > 0)];
        return words.Length switch
        {
            0 => "middle",
            1 => $"middle of the {words[0]}",
            2 => $"{string.Join(' ', words)} edge",
            _ => $"{side} {depth} corner of the {level}",
        };
    }

    private static readonly int[][] Orders = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]];

    private static string Word(int sign, string low, string high) => sign < 0 ? low : sign > 0 ? high : "";
}
