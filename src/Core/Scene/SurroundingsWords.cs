using System.Globalization;

namespace CalmPivot.Core.Scene;

/// <summary>Surroundings as one value that a shot may have of its own: "sky #F2EFE8 #8A8378 - behind 0.3 0", with strength and turn.</summary>
internal static class SurroundingsWords
{
    private const string NoPicture = "-";
    private const string Behind = "behind";
    private const string Unseen = "unseen";

    public static CheatValue Of(Surroundings s) => CheatValue.Of(string.Join(
        ' ', s.Kind.ToString().ToLowerInvariant(), s.Color, s.Ground, s.Picture ?? NoPicture, s.Behind ? Behind : Unseen, Text(s.Strength), Text(s.Turn)));

    /// <exception cref="ArgumentException">It is no such value.</exception>
    public static Surroundings With(Surroundings s, CheatValue value) =>
        value.Word?.Split(' ') is [var kind, var color, var ground, var picture, Behind or Unseen, var strength, var turn] && value.Numbers.IsEmpty
        && Enum.TryParse<SurroundingsKind>(kind, ignoreCase: true, out var known) && Number(strength) is { } strong && Number(turn) is { } turned
            ? s with
            {
                Kind = known,
                Color = color,
                Ground = ground,
                Picture = picture == NoPicture ? null : picture,
                Behind = value.Word.Contains($" {Behind} ", StringComparison.Ordinal),
                Strength = strong,
                Turn = turned,
            }
            : throw new ArgumentException("These are no surroundings.", nameof(value));

    private static string Text(double number) => number.ToString("R", CultureInfo.InvariantCulture);

    private static double? Number(string text) => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;
}
