using System.Globalization;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Trials;

/// <summary>
/// Placements as text that a spreadsheet takes: a line a channel, its word and three numbers apart by tabs; lengths in metres,
/// angles in degrees, a point as the decimal sign.
/// </summary>
public static class PlacementText
{
    public static string Write(Placement placement, ChannelName? only = null)
    {
        ArgumentNullException.ThrowIfNull(placement);
        var lines = new List<string>();
        void Line(ChannelName channel, Vec3 v)
        {
            if (only is null || only == channel)
            {
                var numbers = v.ToArray().Select(n => n.ToString("R", CultureInfo.InvariantCulture));
                lines.Add(string.Join('\t', numbers.Prepend(channel.Word())));
            }
        }

        Line(ChannelName.Position, placement.Position);
        Line(ChannelName.Rotation, placement.Rotation);
        Line(ChannelName.Scale, placement.Scale);
        return string.Join('\n', lines);
    }

    /// <summary>Understands such a text, also with commas or blanks between the numbers, and makes it an edit of some nodes.</summary>
    /// <param name="bare">What three numbers without a word are.</param>
    /// <exception cref="Refusal">not-understood, with the line.</exception>
    public static IReadOnlyList<Edit> Read(string text, IReadOnlyList<string> nodes, ChannelName bare = ChannelName.Position)
    {
        ArgumentNullException.ThrowIfNull(text);
        var edits = new List<Edit>();
        var lines = text.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        foreach (var line in lines.Take(50))
        {
            var words = line.Split(['\t', ' ', ';', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
            var channel = words.Length == 4 ? ChannelOf(words[0]) : bare;
            var numbers = words[^Math.Min(3, words.Length)..];
            var values = numbers.Select(w => double.TryParse(w, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && double.IsFinite(n) ? n : (double?)null).ToList();
            if (channel is not { } known || words.Length is not (3 or 4) || values.Exists(v => v is null))
            {
                throw new Refusal(
                    Refusals.NotUnderstood,
                    $"“{(line.Length > 60 ? line[..60] + "…" : line)}” is no placement. Paste lines such as “position 0 1.5 0”, or three numbers.");
            }

            edits.Add(new SetChannel(nodes, known, values));
        }

        return edits.Count > 0
            ? edits
            : throw new Refusal(Refusals.NotUnderstood, "There is nothing to paste. Copy a placement first.");
    }

    private static ChannelName? ChannelOf(string word) =>
        Enum.TryParse<ChannelName>(word, ignoreCase: true, out var channel) && !char.IsAsciiDigit(word[0]) ? channel : null;
}
