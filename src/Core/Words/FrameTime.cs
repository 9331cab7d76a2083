using System.Globalization;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>
/// Lengths in frames, as artists type and read them.
/// <code>
/// FrameTime.Read("4s", 24)     // 96
/// FrameTime.Read("2:12", 24)   // two seconds and twelve frames: 60
/// FrameTime.Say(96, 24)        // "4 s · 96"
/// </code>
/// </summary>
public static class FrameTime
{
    /// <summary>Frames of a typed length: a number of frames, seconds with an s, or seconds and frames (minutes before them) with colons.</summary>
    /// <exception cref="Refusal">not-understood.</exception>
    public static int Read(string text, double fps)
    {
        ArgumentNullException.ThrowIfNull(text);
        var trimmed = text.Trim().ToLowerInvariant();
        if (trimmed.Split('·') is [var time, var count])
        {
            // As it is shown; what is changed in one half only says two lengths.
            var other = Read(count, fps);
            return time.Trim() == $"{Seconds(other, fps)} s" || Read(time, fps) == other ? other : throw new Refusal(
                Refusals.NotUnderstood, $"“{text.Trim()}” says two lengths. Type one: frames (96), seconds (4s), or seconds and frames (2:12).");
        }

        double? frames = null;
        if (trimmed.Contains(':'))
        {
            var parts = trimmed.Split(':');
            if (parts.Length is >= 2 and <= 4 && Array.TrueForAll(parts, p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out _)))
            {
                var numbers = Array.ConvertAll(parts, p => double.Parse(p, CultureInfo.InvariantCulture));
                var seconds = numbers[..^1].Aggregate(0.0, (sum, n) => sum * 60 + n);
                frames = numbers[^1] < Math.Round(fps) && Array.TrueForAll(numbers[1..^1], n => n < 60) ? Math.Round(seconds * fps) + numbers[^1] : null;
            }
        }
        else if (trimmed.EndsWith('s') && Number(trimmed[..^1]) is { } seconds)
        {
            frames = Math.Round(seconds * fps);
        }
        else if (Number(trimmed) is { } plain && plain == Math.Floor(plain))
        {
            frames = plain;
        }

        return frames is >= 1 and <= Shot.MostFrames
            ? (int)frames
            : throw new Refusal(
                Refusals.NotUnderstood,
                $"“{text.Trim()}” is no length of 1 to {Shot.MostFrames} frames. Type frames (96), seconds (4s), or seconds and frames (2:12).");
    }

    /// <summary>"4 s · 96".</summary>
    public static string Say(int frames, double fps) => $"{Seconds(frames, fps)} s · {frames.ToString(CultureInfo.InvariantCulture)}";

    /// <summary>Hours, minutes, seconds and frames from the beginning: "00:00:06:12". Seconds are counted by whole frames, so that none is dropped.</summary>
    public static string Code(long frames, double fps)
    {
        var rate = Math.Max(1, (long)Math.Round(fps));
        var (seconds, rest) = Math.DivRem(Math.Abs(frames), rate);
        return string.Create(CultureInfo.InvariantCulture, $"{(frames < 0 ? "-" : "")}{seconds / 3600:00}:{seconds / 60 % 60:00}:{seconds % 60:00}:{rest:00}");
    }

    private static string Seconds(int frames, double fps) => Math.Round(frames / fps, 2).ToString("0.##", CultureInfo.InvariantCulture);

    private static double? Number(string text) =>
        double.TryParse(text.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;
}
