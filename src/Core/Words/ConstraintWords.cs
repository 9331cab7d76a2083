using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>Constraints in words: in the history, in lists, and where they have their way.</summary>
public static class ConstraintWords
{
    /// <summary>What an entry is called: "Aim at Sun lamp".</summary>
    public static string Title(Constraint entry, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(say);
        string Target() => entry.Target is { } id ? $"{(entry.Place is null ? "" : "a place on ")}{say.Name(id)}" : "";
        return entry switch
        {
            Aim => $"Aim at {Target()}",
            Swivel => $"Swivel to {Target()}",
            Follow => $"Follow {Target()}",
            MatchRotation => $"Match rotation of {Target()}",
            MatchScale => $"Match scale of {Target()}",
            RideOn => $"Ride on {Target()}",
            StayOnSurface => $"Stay on {Target()}",
            Limit limit => $"Limit of {limit.Of.ToString().ToLowerInvariant()}",
            _ => entry.Kind,
        };
    }

    /// <summary>A kind by its name: "Match rotation".</summary>
    public static string Kind(string kind) => kind switch
    {
        "matchRotation" => "Match rotation",
        "matchScale" => "Match scale",
        "rideOn" => "Ride on",
        "stayOnSurface" => "Stay on surface",
        _ => string.Concat(kind[..Math.Min(1, kind.Length)].ToUpperInvariant(), kind.AsSpan(Math.Min(1, kind.Length))),
    };

    /// <summary>The line of the history that says that an entry was added.</summary>
    /// <param name="each">Whether several face their target with different sides.</param>
    /// <param name="several">Whether it was added to several.</param>
    public static string Did(Constraint entry, string names, Speaker say, bool each = false, bool several = false)
    {
        ArgumentNullException.ThrowIfNull(say);
        string With(SignedAxis axis) => each ? "each with the side that is nearest" : $"with {(several ? "their" : "its")} {Axis(axis)}";
        string Target() => entry.Target is { } id ? $"{(entry.Place is null ? "" : "a place on ")}{say.Name(id)}" : "";
        return entry switch
        {
            Aim aim => $"Aimed {names} at {Target()} {With(aim.Axis)}, {Upright(aim.Up, say)}",
            Swivel swivel => $"Let {names} swivel to {Target()} {With(swivel.Facing)}",
            Follow follow => $"Let {names} follow {Target()}{Along(follow.Axes)}",
            MatchRotation { Factor: { } factor } turn => $"Let {names} turn with {Target()}{Along(turn.Axes)}, × {Unit.Figure(factor, 4)}",
            MatchRotation turn => $"Let {names} turn with {Target()}{Along(turn.Axes)}",
            MatchScale scale => $"Let {names} be sized like {Target()}{Along(scale.Axes)}",
            RideOn => $"Let {names} ride on {Target()}",
            StayOnSurface stay => $"Let {names} stay on {Target()}{(stay.Align is { } axis ? $", its {Axis(axis)} to the normal" : "")}",
            Limit limit => $"Limited the {limit.Of.ToString().ToLowerInvariant()} of {names}",
            _ => $"Constrained {names}",
        };
    }

    /// <summary>"up by the world's Y".</summary>
    public static string Upright(Up up, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return up switch
        {
            { World: { } axis } => $"up by the world's {Axis(axis)}",
            { Parent: { } axis } => $"up by its parent's {Axis(axis)}",
            { Toward: { } id } => $"up toward {say.Name(id)}",
            _ => "up by nothing",
        };
    }

    /// <summary>"−Z" with the sign said only where it turns round.</summary>
    public static string Axis(SignedAxis axis) => $"{(axis.Negative ? "−" : "+")}{"XYZ"[axis.Index]}";

    internal static string Axis(string? text) => text is [var sign, var letter] ? $"{(sign == '-' ? '−' : '+')}{char.ToUpperInvariant(letter)}" : "";

    /// <summary>What an entry warns of; null: of nothing.</summary>
    /// <param name="asked">Of one that stops: what it would have to reach.</param>
    public static string? Warning(LinkWarning warning, Constraint entry, Speaker say, double asked = 0)
    {
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(say);
        var target = entry.Target is { } id && say.Scene.Find(id) is not null ? say.Name(id) : "The target";
        return warning switch
        {
            LinkWarning.AtTarget => $"{target} stands on its pivot, so there is no direction to it.",
            LinkWarning.AlongUp => "It looks straight along up, so it turns as little as it can. Up by nothing never rolls over.",
            LinkWarning.NearUp => "Within 10° of straight up or down: as the target passes there, it rolls over. Up by nothing does not.",
            LinkWarning.Gone => "Its target is gone. Choose another one.",
            LinkWarning.TooThin => "Something here is too thin to be worked out. Give it, or what carries it, a larger scale.",
            LinkWarning.AlongHinge => "The hinge points at the target, or along what faces it, so no turn about it helps.",
            LinkWarning.LinesUp => "Two rotation axes line up here, so single angles can jump.",
            LinkWarning.Missed => $"The direction does not meet {target}, so it stays where it is.",
            LinkWarning.Stops when entry is Swivel swivel => $"It stops at {say.Angle(swivel.Clamped(asked))} of {say.Angle(asked)}.",
            LinkWarning.NoSurface => $"{target} has no triangles to stay on.",
            _ => null,
        };
    }

    /// <summary>What keeps an edit from being seen, and the way out: "Aim at Sun lamp turns it. A turn by hand shows when that is off."</summary>
    /// <param name="along">The axes along which it does, where it lets other ones through.</param>
    public static string Held(Held held, Speaker say, string? along = null)
    {
        ArgumentNullException.ThrowIfNull(held);
        ArgumentNullException.ThrowIfNull(say);
        var node = say.Scene.Find(held.Node);
        var entry = node?.Constraints.FirstOrDefault(c => c.Id == held.Link);
        var (does, by) = (held.Parts & Writes.Turn) != 0 ? ("turns", "A turn") : (held.Parts & Writes.Place) != 0 ? ("places", "A move") : ("sizes", "A new size");
        return entry is null
            ? $"The constraints of {say.Name(held.Node)} keep it from there."
            : $"{Title(entry, say)} {does} {say.Name(held.Node)}{(along is null ? "" : $" along {along}")}. {by} by hand shows{(along is null ? "" : " there")} when that is off.";
    }

    /// <summary>"Turns Tube by 12.3°, and moves it by 0.2 m."</summary>
    public static string Jumps(IReadOnlyList<(string Node, Jump Jump)> jumps, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(jumps);
        ArgumentNullException.ThrowIfNull(say);
        return $"This makes {(jumps.Count > 1 ? $"{jumps.Count} objects" : say.Name(jumps[0].Node))} jump: {By([.. jumps.Select(j => j.Jump)], say)}.";
    }

    /// <summary>By how much things jump: "by 12.3° and by 0.2 m"; of several, "by up to 12.3° and 0.2 m".</summary>
    public static string By(IReadOnlyList<Jump> jumps, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(jumps);
        ArgumentNullException.ThrowIfNull(say);
        if (jumps.Count == 1)
        {
            return Figures(jumps[0], say, "by ");
        }

        var most = new Jump(jumps.Max(j => j.Moved), jumps.Max(j => j.Turned), jumps.Select(j => j.Scaled).MaxBy(factor => Math.Abs(Math.Log(factor))));
        return $"by up to {Figures(most, say, "")}";
    }

    private static string Figures(Jump jump, Speaker say, string by)
    {
        List<string> parts = [];
        if (jump.Turned > 1e-7)
        {
            parts.Add($"{by}{say.Angle(Math.Round(jump.Turned, 2))}");
        }

        if (jump.Moved > 1e-9)
        {
            parts.Add($"{by}{say.Length(jump.Moved)}");
        }

        if (Math.Abs(jump.Scaled - 1) > 1e-9)
        {
            parts.Add($"× {Unit.Figure(jump.Scaled, 4)} in size");
        }

        return string.Join(" and ", parts);
    }

    private static string Along(AxisMask axes) => axes == AxisMask.All ? "" : $" along {string.Join(" ", axes.ToString().ToUpperInvariant().AsEnumerable())}";
}
