using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>What a scene counts time by; there is one of it, or none, and then it is as usual.</summary>
/// <param name="Fps">Frames a second.</param>
/// <param name="FirstFrame">The number of the first frame of the first shot.</param>
public sealed record Timing(double Fps, int FirstFrame) : Entity(Single, "", 0)
{
    /// <summary>No node has such an id.</summary>
    public const string Single = "/timing";

    /// <summary>A first frame has at most eight digits.</summary>
    public const int MostFirstFrame = 100_000_000;

    public static readonly Timing Usual = new(24, 1);

    public override IFields Fields => TimingFields.Table;

    public override string List => Lists.Timing;

    public override IEnumerable<string> Names() => [];

    /// <exception cref="Refusal">not-understood.</exception>
    public Timing Checked() => this is { Fps: >= 1 and <= 240, FirstFrame: >= -MostFirstFrame and <= MostFirstFrame }
        ? this
        : throw new Refusal(Refusals.NotUnderstood, "A scene counts 1 to 240 frames a second, and its first frame has at most eight digits.");

    public override Entity? Without(Predicate<string> gone) => this;
}

public static class TimingFields
{
    public static readonly Fields<Timing> Table = new(
        new Field<Timing, double>("fps", Parts.Length, Touches.Shots, t => t.Fps, (t, v) => t with { Fps = v }),
        new Field<Timing, int>("firstFrame", Parts.Length, Touches.Shots, t => t.FirstFrame, (t, v) => t with { FirstFrame = v }));
}
