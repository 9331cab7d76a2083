using System.Buffers;
using System.Globalization;
using CalmPivot.Core;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;
using CsvHelper;
using CsvHelper.Configuration;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>
/// Lists of shots as tables with commas (RFC 4180), a line each, with names of the columns in the first line. Read are other separators, other orders
/// and other usual names of columns as well; what else a table holds is passed over.
/// </summary>
public static class CsvShots
{
    private static readonly Dictionary<string, string[]> Columns = new()
    {
        ["number"] = ["number", "shot", "no", "nr", "#"],
        ["name"] = ["name", "title", "shotname", "clip", "clipname"],
        ["frames"] = ["frames", "duration", "length", "durationframes"],
        ["fps"] = ["fps", "rate", "framerate"],
        ["first"] = ["firstframe"],
        ["camera"] = ["camera"],
        ["note"] = ["note", "notes", "description", "comment", "comments"],
        ["colour"] = ["colour", "color"],
    };

    /// <summary>What a field holds that stands in quotation marks.</summary>
    private static readonly SearchValues<char> Quoted = SearchValues.Create(",;\"\r\n\t");

    public static string Write(IScene scene)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            NewLine = "\r\n",
            ShouldQuote = field => field.Field is { } said && (said.AsSpan().ContainsAny(Quoted) || said != said.Trim()),
        }))
        {
            void Line(params string[] fields)
            {
                foreach (var field in fields)
                {
                    csv.WriteField(field);
                }

                csv.NextRecord();
            }

            Line("number", "name", "frames", "fps", "first frame", "time code", "camera", "note", "colour");
            var fps = scene.Timing.Fps.ToString(CultureInfo.InvariantCulture);
            foreach (var (shot, reading) in ListedShot.Of(scene).Zip(ShotReading.All(scene)))
            {
                Line(Text(shot.Number), Text(shot.Name), Figure(reading.Frames), fps, Figure(reading.First), reading.Code, Text(shot.Camera), Text(shot.Note), Text(shot.Colour));
            }
        }

        return text.ToString();
    }

    /// <exception cref="Refusal">broken-file, too-large.</exception>
    public static ShotListFile Read(string text, double fps)
    {
        ArgumentNullException.ThrowIfNull(text);
        var (shots, notes) = (new List<ListedShot>(), new SortedSet<string>(StringComparer.Ordinal));
        using var csv = new CsvReader(new StringReader(text), new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = SeparatorOf(text),
            BadDataFound = bad => throw Broken($"a quotation mark stands where none belongs, near “{Speaker.Quoted(bad.Field ?? "")}”"),
            MissingFieldFound = null,
        });
        try
        {
            if (!csv.Read() || !csv.ReadHeader())
            {
                throw Broken("it is empty");
            }

            var at = PlacesOf(csv.HeaderRecord ?? []);
            if (!at.TryGetValue("name", out _))
            {
                throw Broken("its first line names no column “name”");
            }

            int? first = null;
            while (csv.Read())
            {
                var had = shots.Count;
                Add(csv, at, fps, shots, notes);

                // Of the first shot alone: lines without a name are none.
                if (had == 0 && shots.Count == 1)
                {
                    first = First(csv, at, fps, notes);
                }
            }

            return new(shots, [.. notes], first);
        }
        catch (CsvHelperException broken) when (broken.InnerException is Refusal refusal)
        {
            throw refusal;
        }
        catch (CsvHelperException)
        {
            throw Broken($"line {csv.Parser.Row} cannot be read");
        }
    }

    private static int? First(CsvReader csv, Dictionary<string, int> at, double fps, SortedSet<string> notes) =>
        at.TryGetValue("first", out var place) && csv.GetField(place)?.Trim() is { Length: > 0 } said
            ? InScene.First(NumberIn(said) ?? double.NaN, RateOf(csv, at, fps), fps, notes)
            : null;

    private static double RateOf(CsvReader csv, Dictionary<string, int> at, double fps) =>
        at.TryGetValue("fps", out var place) && NumberIn(csv.GetField(place)?.Trim()) is { } rate ? rate : fps;

    private static double? NumberIn(string? text) => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>What stands most often in the first line.</summary>
    private static string SeparatorOf(string text)
    {
        var first = text.AsSpan(0, text.AsSpan().IndexOfAny('\r', '\n') is >= 0 and var end ? end : text.Length);
        var (commas, semicolons, tabs) = (first.Count(','), first.Count(';'), first.Count('\t'));
        return semicolons > commas && semicolons >= tabs ? ";" : tabs > commas ? "\t" : ",";
    }

    private static Dictionary<string, int> PlacesOf(string[] header)
    {
        var names = Array.ConvertAll(header, h => string.Concat(h.Where(c => char.IsLetterOrDigit(c) || c == '#')).ToLowerInvariant());
        var at = new Dictionary<string, int>();
        foreach (var (column, words) in Columns)
        {
            if (words.Select(word => Array.IndexOf(names, word)).FirstOrDefault(i => i >= 0, -1) is >= 0 and var place)
            {
                at[column] = place;
            }
        }

        // A table may call the shots themselves so.
        if (!at.ContainsKey("name") && at.Remove("number", out var only))
        {
            at["name"] = only;
        }

        return at;
    }

    private static void Add(CsvReader csv, Dictionary<string, int> at, double fps, List<ListedShot> shots, SortedSet<string> notes)
    {
        string? Field(string column) => at.TryGetValue(column, out var place) && csv.GetField(place)?.Trim() is { } said ? PlainText.Unmarked(said) : null;
        var name = Field("name");
        if (name is null or "")
        {
            notes.Add("Lines without a name were left out.");
            return;
        }

        if (shots.Count >= Shot.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"This list holds more than {Shot.Most} shots, which is the most that a scene has. Take a part of it.");
        }

        int? frames = null;
        if (Field("frames") is { Length: > 0 } length)
        {
            var own = RateOf(csv, at, fps);
            try
            {
                frames = InScene.Frames(FrameTime.Read(length, own), own, fps, notes);
            }
            catch (Refusal)
            {
                notes.Add("Lengths that could not be read were left out; those shots keep theirs.");
            }
        }

        shots.Add(InScene.Fitting(new(name, Field("number"), frames, Field("camera"), at.TryGetValue("note", out var note) && csv.GetField(note) is { } noted ? PlainText.Unmarked(noted) : null, Field("colour")), notes));
    }

    private static string Text(string? text) => PlainText.Marked(text ?? "");

    private static string Figure(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static Refusal Broken(string why) => new(Refusals.BrokenFile, $"This table of shots cannot be read: {why}. Nothing was changed.");
}
