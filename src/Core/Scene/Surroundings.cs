using System.Text.Json.Serialization;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

[JsonConverter(typeof(CamelCase<SurroundingsKind>))]
public enum SurroundingsKind
{
    /// <summary>One colour from all sides.</summary>
    Even,

    /// <summary>One colour from above and another from below.</summary>
    Sky,

    /// <summary>A picture that goes all the way round.</summary>
    Picture,
}

/// <summary>
/// What lights a scene from all sides, and how bright its pictures are; there is one of it, or none, and then it is as usual. A shot may have either of
/// its own. Light of strength 1 in white is a radiance of 1 from every side.
/// </summary>
public sealed record Surroundings() : Cheatable(Single, "Surroundings", 0)
{
    /// <summary>No node has such an id.</summary>
    public const string Single = "/surroundings";

    public static readonly Surroundings Usual = new();

    public SurroundingsKind Kind { get; init; } = SurroundingsKind.Sky;

    /// <summary>Of even ones their colour, of a sky that from above.</summary>
    public string Color { get; init; } = "#F2EFE8";

    /// <summary>What comes from below, of a sky.</summary>
    public string Ground { get; init; } = "#8A8378";

    /// <summary>The hash of a picture whose width goes once round; null: there is none yet.</summary>
    public string? Picture { get; init; }

    public double Strength { get; init; } = 0.3;

    /// <summary>Degrees about the world's Y.</summary>
    public double Turn { get; init; }

    /// <summary>Whether they are seen behind all, or light only.</summary>
    public bool Behind { get; init; } = true;

    /// <summary>In stops: each doubles the light.</summary>
    public double Exposure { get; init; }

    public override IFields Fields => SurroundingsFields.Table;

    public override string List => Lists.Surroundings;

    public override IEnumerable<string> Names() => [];

    public override Entity? Without(Predicate<string> gone) => this;

    /// <summary>The same without a picture, for where none can go along: its two colours stand for it.</summary>
    public Surroundings WithoutPicture() => this with { Picture = null, Kind = Kind == SurroundingsKind.Picture ? SurroundingsKind.Sky : Kind };

    /// <summary>As one value that a shot may have of its own.</summary>
    public CheatValue ToValue() => SurroundingsWords.Of(this);

    /// <summary>What a shot has of its own instead; null: the value is none of surroundings.</summary>
    public static Surroundings? Of(Cheat cheat)
    {
        ArgumentNullException.ThrowIfNull(cheat);
        return CheatChannel.Of(CheatChannel.OfSurroundings)!.Takes(Usual, cheat.Value) ? SurroundingsWords.With(Usual, cheat.Value) : null;
    }

    /// <exception cref="Refusal">not-understood.</exception>
    public Surroundings Checked()
    {
        Scene.Color.Check(Color);
        Scene.Color.Check(Ground);
        return Strength is >= 0 and <= 1e6 && Turn is >= -1e6 and <= 1e6 && Exposure is >= -40 and <= 40 && Picture is null or { Length: > 0 and <= 200 } && Picture?.Contains(' ', StringComparison.Ordinal) != true
            ? this
            : throw new Refusal(Refusals.NotUnderstood, "Surroundings need a strength from 0 to a million, a turn in degrees, and an exposure from −40 to 40 stops.");
    }
}

/// <summary>The fields of the surroundings, each declared once. Their light, their picture and the exposure are written and undone each by themselves.</summary>
public static class SurroundingsFields
{
    public static readonly Fields<Surroundings> Table = new(
        Of("style", Parts.Colour, s => s.Kind, (s, v) => s with { Kind = v }),
        Of("color", Parts.Colour, s => s.Color, (s, v) => s with { Color = v }),
        Of("ground", Parts.Colour, s => s.Ground, (s, v) => s with { Ground = v }),
        Of("picture", Parts.Pictures, s => s.Picture, (s, v) => s with { Picture = v }),
        Of("strength", Parts.Colour, s => s.Strength, (s, v) => s with { Strength = v }),
        Of("turn", Parts.Colour, s => s.Turn, (s, v) => s with { Turn = v }),
        Of("behind", Parts.Colour, s => s.Behind, (s, v) => s with { Behind = v }),
        Of("exposure", Parts.Lens, s => s.Exposure, (s, v) => s with { Exposure = v }));

    private static Field<Surroundings, TValue> Of<TValue>(string name, Parts part, Func<Surroundings, TValue> get, Func<Surroundings, TValue, Surroundings> with) =>
        new(name, part, Touches.Shots, get, with) { Usual = v => EqualityComparer<TValue>.Default.Equals(v, get(Surroundings.Usual)) };
}
