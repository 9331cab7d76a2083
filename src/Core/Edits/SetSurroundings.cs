using CalmPivot.Core.Amounts;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Changes what lights the scene from all sides, and how bright its pictures are: what is given of it.</summary>
/// <param name="Color">Of even ones their colour, of a sky that from above.</param>
/// <param name="Picture">The hash of a picture that was brought in; empty: none.</param>
/// <param name="Turn">Degrees about the world's Y.</param>
/// <param name="Behind">Whether they are seen behind all.</param>
/// <param name="Exposure">In stops.</param>
/// <param name="Mode">Whether the numbers given are the new ones, or change the present ones.</param>
public sealed record SetSurroundings(
    SurroundingsKind? Style = null,
    string? Color = null,
    string? Ground = null,
    string? Picture = null,
    double? Strength = null,
    double? Turn = null,
    bool? Behind = null,
    double? Exposure = null,
    AmountMode Mode = AmountMode.Set) : Edit
{
    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        double New(double? given, double present) => given is { } value ? new Amount(Mode, value).ApplyTo(present) : present;
        var s = draft.Surroundings;
        var asked = (s with
        {
            Kind = Style ?? (Picture is { Length: > 0 } ? SurroundingsKind.Picture : s.Kind),
            Color = Color ?? s.Color,
            Ground = Ground ?? s.Ground,
            Picture = Picture is null ? s.Picture : Picture.Length == 0 ? null : Picture,
            Strength = New(Strength, s.Strength),
            Turn = New(Turn, s.Turn),
            Behind = Behind ?? s.Behind,
            Exposure = New(Exposure, s.Exposure),
        }).Checked();
        if (asked != s)
        {
            // Where they are as usual, there are none.
            draft.Put(asked);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var parts = new[]
        {
            Style switch { null => null, SurroundingsKind.Even => "of one colour", SurroundingsKind.Picture => "a picture", _ => "a sky of two colours" },
            Color is null ? null : $"colour {Color}",
            Ground is null ? null : $"from below {Ground}",
            Picture is null ? null : Picture.Length == 0 ? "no picture" : "another picture",
            EditWords.Changed("strength", Strength, Mode, v => Unit.Figure(v, 3)),
            EditWords.Changed("turned", Turn, Mode, say.Angle),
            Behind switch { null => null, true => "seen behind all", _ => "not seen" },
        }.OfType<string>().ToList();
        var exposure = EditWords.Changed(Mode == AmountMode.Set ? "exposure to" : "exposure", Exposure, Mode, v => $"{Unit.Figure(v, 2)} {(Math.Abs(v) == 1 ? "stop" : "stops")}");
        return parts.Count > 0 ? $"Changed the surroundings: {string.Join(", ", [.. parts, .. exposure is null ? Array.Empty<string>() : [exposure]])}"
            : exposure is null ? "Changed nothing of the surroundings" : $"Changed the {exposure}";
    }
}
