using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A picture of the sequence that the scene is arranged for: a camera, a length, and what it has of its own (its <see cref="Cheat">cheats</see> and what it
/// sees). Everything else is the scene's. Its number is a text and stays when shots are put in another order.
/// <code>
/// var shot = new Shot("dome", "Dome", 1) { Number = "030", Camera = "dome-camera", Frames = 96 };
/// var seen = new ShotScene(scene, "dome"); // the scene as that shot has it
/// </code>
/// </summary>
public sealed record Shot(string Id, string Name, double Rank = 0) : Entity(Id, Name, Rank)
{
    public const int Most = 2_000;
    public const int MostFrames = 1_000_000;
    public const int MostNumberLength = 20;

    /// <summary>As the artist counts: "030"; empty: none.</summary>
    public string Number { get; init; } = "";

    /// <summary>The node that it is seen through; it may be gone, which the shot then says.</summary>
    public string? Camera { get; init; }

    public int Frames { get; init; } = 96;

    public string? Note { get; init; }

    /// <summary>#RRGGBB; null: none.</summary>
    public string? Colour { get; init; }

    /// <summary>"030 Dome".</summary>
    public string Title => Number.Length == 0 ? Name : $"{Number} {Name}";

    public override IFields Fields => ShotFields.Table;

    public override string List => Lists.Shots;

    public override IEnumerable<string> Names() => ShotFields.Through.Of(this);

    public override Entity? Without(Predicate<string> gone) => this;

    /// <summary>How a shot is called in a sentence, be it there or not.</summary>
    public static string TitleOf(IScene scene, string id) => scene.FindShot(id)?.Title ?? "a shot that is gone";
}

/// <summary>The fields of a shot, each declared once, and what it names.</summary>
public static class ShotFields
{
    public static readonly Fields<Shot> Table = new(
        new Field<Shot, string>("name", Parts.Name, Touches.Shots, s => s.Name, (s, v) => s with { Name = v }) { Required = true, Sum = Digests.Add },
        new Field<Shot, string>("number", Parts.Name, Touches.Shots, s => s.Number, (s, v) => s with { Number = v }) { Sum = Digests.Add },
        new Field<Shot, double>("rank", Parts.Seat, Touches.Shots, s => s.Rank, (s, v) => s with { Rank = v }) { Alike = NodeFields.SameBits, Sum = Digests.Add },
        new Field<Shot, string?>("camera", Parts.Lens, Touches.Shots, s => s.Camera, (s, v) => s with { Camera = v }) { Usual = v => v is null },
        new Field<Shot, int>("frames", Parts.Length, Touches.Shots, s => s.Frames, (s, v) => s with { Frames = v }),
        new Field<Shot, string?>("note", Parts.Label, Touches.Shots, s => s.Note, (s, v) => s with { Note = v }) { Usual = v => v is null },
        new Field<Shot, string?>("colour", Parts.Label, Touches.Shots, s => s.Colour, (s, v) => s with { Colour = v }) { Usual = v => v is null });

    /// <summary>A shot whose camera goes says so and offers others.</summary>
    public static readonly Reference<Shot> Through = new(
        "camera",
        s => s.Camera is { } camera ? [camera] : [],
        (s, to) => s.Camera is { } camera ? s with { Camera = to(camera) } : s)
    { Outlives = true };
}
