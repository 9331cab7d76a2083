using System.Buffers;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>
/// Texts of a table that a spreadsheet must not compute: before one that begins as a formula does stands an apostrophe, which is taken off on reading. One that
/// has apostrophes there of its own gets one more, so that every text comes back as it was.
/// Source: OWASP, CSV Injection.
/// </summary>
internal static class PlainText
{
    private const char Mark = '\'';

    /// <summary>What a formula begins with, in the widths of all scripts.</summary>
    private static readonly SearchValues<char> Begin = SearchValues.Create("=+-@\t\r\n＝＋－＠");

    public static string Marked(string text) => IsFormula(text) ? Mark + text : text;

    public static string Unmarked(string text) => text.StartsWith(Mark) && IsFormula(text) ? text[1..] : text;

    private static bool IsFormula(string text)
    {
        var said = text.AsSpan().TrimStart(Mark);
        return !said.IsEmpty && Begin.Contains(said[0]);
    }
}
