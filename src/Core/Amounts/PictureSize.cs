using System.Globalization;
using System.Text.RegularExpressions;

namespace CalmPivot.Core.Amounts;

/// <summary>
/// How wide and how high a picture is, as it is shown and typed: <c>640 × 360</c>, <c>800x600</c>, <c>4:3</c>.
/// <code>
/// PictureSize.Read("800x600") // (800, 600)
/// PictureSize.Read("4:3")     // (4, 3): a proportion
/// PictureSize.Read("640")     // null: a number, to be understood as such
/// </code>
/// </summary>
public static partial class PictureSize
{
    /// <summary>Understands two numbers with a sign between them.</summary>
    /// <returns>Null: it is something else.</returns>
    public static (double Width, double Height, bool IsProportion)? Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        if (Two().Match(text) is not { Success: true } found)
        {
            return null;
        }

        double Number(int group) => double.Parse(found.Groups[group].Value.Replace(',', '.'), CultureInfo.InvariantCulture);
        return Number(1) > 0 && Number(3) > 0 ? (Number(1), Number(3), found.Groups[2].Value is ":" or "/") : null;
    }

    [GeneratedRegex(@"^\s*(\d{1,6}(?:[.,]\d{1,6})?)\s*([x×X*:/])\s*(\d{1,6}(?:[.,]\d{1,6})?)\s*(?:px)?\s*$")]
    private static partial Regex Two();
}
