using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A value of one channel of a node or a collection that holds in one shot only. Its id is its key, so that two people who cheat different things never
/// come into each other's way, and two who cheat the same do. It stands until it is taken back, also where it equals the scene's value. Whether a thing is seen in
/// a shot is such a value, too (<see cref="CheatChannel.Seen"/>).
/// <code>
/// var cheat = Cheat.Made("dome", "globe", "position.x", CheatValue.Of(1.2));
/// </code>
/// </summary>
/// <param name="Of">The node or collection.</param>
/// <param name="Channel">The name of a <see cref="CheatChannel"/>.</param>
public sealed record Cheat(string Id, string Shot, string Of, string Channel, CheatValue Value) : Entity(Id, "", 0)
{
    internal static readonly Cheat Blank = new("", "", "", "", CheatValue.Nothing);

    /// <summary>Whether it says that a thing is seen or not, rather than how it stands or looks.</summary>
    public bool IsSeen => Channel == CheatChannel.Seen;

    /// <summary>The material that it gives a slot; null: it is about something else, or takes the slot's away.</summary>
    public string? Material => CheatChannel.IsOfMaterial(Channel) && Value.Word is { Length: > 0 } id ? id : null;

    public override IFields Fields => CheatFields.Table;

    public override string List => Lists.OfCheats(Shot);

    /// <summary>What its value names: a material, or what a camera is sharp at; null: nothing.</summary>
    public string? Given => Material ?? (Channel == CheatChannel.FocusOn && Value.Word is { Length: > 0 } id ? id : null);

    public override IEnumerable<string> Names() => Given is { } given ? [Shot, Of, given] : [Shot, Of];

    /// <summary>It goes with its shot, with what it is of, and with what its value names.</summary>
    public override Entity? Without(Predicate<string> gone) => gone(Shot) || gone(Of) || (Given is { } given && gone(given)) ? null : this;

    public static string IdOf(string shot, string of, string channel) => $"{shot}/{of}/{channel}";

    public static Cheat Made(string shot, string of, string channel, CheatValue value) => new(IdOf(shot, of, channel), shot, of, channel, value);
}

/// <summary>The fields of a cheat, each declared once.</summary>
public static class CheatFields
{
    public static readonly Fields<Cheat> Table = new(
        new Field<Cheat, string>("shot", Parts.Seat, Touches.Shots, c => c.Shot, (c, v) => c with { Shot = v }) { Required = true, Sum = Digests.Add },
        new Field<Cheat, string>("of", Parts.Seat, Touches.Shots, c => c.Of, (c, v) => c with { Of = v }) { Required = true, Sum = Digests.Add },
        new Field<Cheat, string>("channel", Parts.Seat, Touches.Shots, c => c.Channel, (c, v) => c with { Channel = v }) { Required = true, Sum = Digests.Add },
        new Field<Cheat, CheatValue>("value", Parts.Value, Touches.Shots, c => c.Value, (c, v) => c with { Value = v }) { Required = true });
}
