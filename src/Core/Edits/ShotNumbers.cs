using System.Globalization;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Numbers of shots as the trade counts: by tens, so that there is room between.</summary>
internal static class ShotNumbers
{
    private const int Step = 10;
    private const int Digits = 3;

    /// <summary>The number of a shot that comes to stand at an index: between its neighbours', or ten after the last.</summary>
    /// <param name="index">Null: last.</param>
    public static string At(IScene scene, int? index)
    {
        var shots = scene.AllShots().ToList();
        var at = Math.Clamp(index ?? shots.Count, 0, shots.Count);
        var (before, after) = (at > 0 ? Of(shots[at - 1].Number) : 0, at < shots.Count ? Of(shots[at].Number) : null);
        if (before is not { } low)
        {
            return Free(shots, (shots.Max(s => Of(s.Number)) ?? 0) / Step * Step + Step);
        }

        if (after is not { } high)
        {
            return Free(shots, low / Step * Step + Step);
        }

        return high - low > 1 ? Free(shots, low + (high - low) / 2) : $"{(at > 0 ? shots[at - 1].Number : "000")}a";
    }

    public static string Say(long number) => number.ToString(CultureInfo.InvariantCulture).PadLeft(Digits, '0');

    private static string Free(List<Shot> shots, long number)
    {
        var taken = shots.Select(s => s.Number).ToHashSet();
        while (taken.Contains(Say(number)))
        {
            number++;
        }

        return Say(number);
    }

    private static long? Of(string number) => number.Length < 12 && long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var value) ? value : null;
}
