using System.Text;
using CalmPivot.Core;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>Reads lists of shots, whatever form they are in.</summary>
public static class ShotListReader
{
    public const int MostBytes = 16 * 1024 * 1024;

    /// <param name="fps">The scene's rate, in which lengths are told.</param>
    /// <exception cref="Refusal">broken-file, unsupported-file, too-large.</exception>
    public static ShotListFile Read(byte[] bytes, double fps)
    {
        ArgumentNullException.ThrowIfNull(bytes);
        if (bytes.Length > MostBytes)
        {
            throw new Refusal(Refusals.TooLarge, $"A list of shots has at most {MostBytes / 1024 / 1024} MB.");
        }

        string text;
        try
        {
            text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes).TrimStart('\uFEFF');
        }
        catch (ArgumentException)
        {
            throw new Refusal(Refusals.UnsupportedFile, "This is no list of shots: it is no text in UTF-8. Bring in a table with commas (.csv) or a timeline (.otio).");
        }

        var file = text.AsSpan().TrimStart() is not ['{' or '[', ..] ? CsvShots.Read(text, fps)
            : text.Contains("\"OTIO_SCHEMA\"", StringComparison.Ordinal) ? TimelineShots.Read(text, fps)
            : JsonShots.Read(text, fps);
        return file.Shots.Count > 0 ? file : throw new Refusal(Refusals.BrokenFile, "There are no shots in this list. Nothing was changed.");
    }
}
