using System.Globalization;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>A line of what is not the same: a channel with both values.</summary>
/// <param name="Channel">Of the node; "seen"; "camera" or "frames" of the shot itself.</param>
/// <param name="Words">"position X".</param>
public sealed record DifferenceLine(string Channel, string Words, string A, string B);

/// <summary>All that is not the same of one thing.</summary>
/// <param name="Id">Empty: the shot itself.</param>
public sealed record ThingDifference(string Id, string Name, IReadOnlyList<DifferenceLine> Lines);

/// <summary>Two shots, or a shot and the scene, beside each other in words.</summary>
/// <param name="Things">The first of them.</param>
/// <param name="Count">How many there are in all.</param>
/// <param name="Text">How much it is, as a sentence.</param>
public sealed record DiffReading(string A, string B, IReadOnlyList<ThingDifference> Things, int Count, string Text)
{
    /// <summary>Nobody reads more than so many.</summary>
    public const int Most = 200;

    /// <exception cref="Refusal">not-found.</exception>
    public static DiffReading Of(IScene scene, string? a, string? b)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (diff, say) = (ShotDiff.Of(scene, a, b), new Speaker(scene));
        List<ThingDifference> things = [];
        List<DifferenceLine> own = [];
        if (diff.Camera is { } camera)
        {
            own.Add(new("camera", "camera", camera.A is null ? "none" : say.Name(camera.A), camera.B is null ? "none" : say.Name(camera.B)));
        }

        if (diff.Frames is { } frames)
        {
            own.Add(new("frames", "length", FrameTime.Say(frames.A, scene.Timing.Fps), FrameTime.Say(frames.B, scene.Timing.Fps)));
        }

        if (own.Count > 0)
        {
            things.Add(new("", "The shot itself", own));
        }

        var (all, shown) = (new HashSet<string>(), new Dictionary<string, List<DifferenceLine>>());
        List<DifferenceLine>? LinesOf(string id)
        {
            if (all.Add(id) && all.Count <= Most)
            {
                shown[id] = [];
            }

            return shown.GetValueOrDefault(id);
        }

        foreach (var seen in diff.Seen)
        {
            LinesOf(seen.Id)?.Add(new(CheatChannel.Seen, "seen", OnOff(seen.A), OnOff(seen.B)));
        }

        foreach (var cheat in diff.Cheats)
        {
            if (LinesOf(cheat.Node) is { } lines)
            {
                lines.Add(LineOf(scene, cheat, say));
            }
        }

        things.AddRange(shown.Select(s => new ThingDifference(s.Key, say.Name(s.Key), s.Value)));
        var (left, right, of) = (TitleOf(scene, a), TitleOf(scene, b), all.Count);
        var text = diff.IsEmpty ? $"{left} and {right} are the same but for their names."
            : $"{(of, own.Count > 0) switch { (0, _) => "Only the shot itself is", (1, false) => "1 thing is", (1, true) => "The shot itself and 1 thing are", (_, false) => of.ToString(CultureInfo.InvariantCulture) + " things are", _ => $"The shot itself and {of} things are" }} otherwise in {left} than in {right}.";
        return new(left, right, things, of + (own.Count > 0 ? 1 : 0), text);
    }

    private static string TitleOf(IScene scene, string? shot) => shot is null ? "the scene" : Shot.TitleOf(scene, shot);

    private static string OnOff(bool on) => on ? "on" : "off";

    private static DifferenceLine LineOf(IScene scene, CheatDifference one, Speaker say)
    {
        var (channel, some) = (CheatChannel.Of(one.Channel)!, (Cheatable)scene.FindAny(one.Node)!);
        var words = CheatWords.Of(channel, some, say);
        words = words.StartsWith("a ", StringComparison.Ordinal) ? words[2..] : words.StartsWith("an ", StringComparison.Ordinal) ? words[3..] : words;
        return new(one.Channel, words, CheatWords.Value(channel, one.A, say), CheatWords.Value(channel, one.B, say));
    }
}
