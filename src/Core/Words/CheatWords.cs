using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>Channels and their values in words.</summary>
public static class CheatWords
{
    /// <summary>"its position X", "the weight of Aim at Sun lamp".</summary>
    public static string Of(CheatChannel channel, Cheatable some, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(channel);
        var (name, dot) = (channel.Name, channel.Name.LastIndexOf('.'));
        if (channel.Entry is { } id)
        {
            var entry = (some as Node)?.Constraints.FirstOrDefault(c => c.Id == id);
            var field = name[(dot + 1)..] switch { "enabled" => "switch", var other => other };
            return $"the {field} of {(entry is null ? "a constraint" : ConstraintWords.Title(entry, say))}";
        }

        return name switch
        {
            CheatChannel.Seen => "being seen",
            _ when CheatChannel.IsOfMaterial(name) => name.EndsWith(":0", StringComparison.Ordinal) ? "a material" : $"a material in slot {int.Parse(name[(name.IndexOf(':') + 1)..], System.Globalization.CultureInfo.InvariantCulture) + 1}",
            CheatChannel.OfSurroundings => "surroundings",
            CheatChannel.Exposure => "an exposure",
            "camera.fov" => "an angle of view",
            "camera.pixels" => "a picture width",
            "camera.shiftX" => "a shift to the right",
            "camera.shiftY" => "a shift up",
            "camera.focusOn" => "something it is sharp at",
            "light.panelHeight" => "a height",
            "light.color" => "a colour",
            "light.innerCone" => "an inner cone",
            "light.outerCone" => "an outer cone",
            _ when name.StartsWith("camera.", StringComparison.Ordinal) || name.StartsWith("light.", StringComparison.Ordinal) => $"{(name[dot + 1] is 'a' or 'i' ? "an" : "a")} {name[(dot + 1)..]}",
            _ when dot > 0 => $"a {name[..dot]} {char.ToUpperInvariant(name[^1])}",
            _ => $"a {name}",
        };
    }

    /// <summary>A value as it stands in a hint.</summary>
    public static string Value(CheatChannel channel, CheatValue value, Speaker say)
    {
        ArgumentNullException.ThrowIfNull(channel);
        ArgumentNullException.ThrowIfNull(value);
        ArgumentNullException.ThrowIfNull(say);
        return channel.Name switch
        {
            _ when CheatChannel.IsOfMaterial(channel.Name) => value.Word is { Length: > 0 } id ? say.Name(id) : "none",
            CheatChannel.FocusOn => value.Word is { Length: > 0 } id ? say.Name(id) : "as far as it says",
            CheatChannel.OfSurroundings => SurroundingsWords.With(Surroundings.Usual, value) is var s ? $"{s.Kind.ToString().ToLowerInvariant()}, × {Unit.Figure(s.Strength, 3)}" : "",
            CheatChannel.Exposure => $"{Unit.Figure(value.Number, 2)} stops",
            "light.temperature" when value.NumberOrNothing is { } kelvin => $"{Unit.Figure(kelvin, 0)} K",
            "camera.aperture" when value.NumberOrNothing is { } number => $"f/{Unit.Figure(number, 1)}",
            _ when value.IsSwitch => value.IsOn ? "on" : "off",
            _ when value.Word is not null && value.Numbers.IsEmpty => value.Word,
            "light.color" => Color.Of(new Numbers.Vec3(value.Numbers[0], value.Numbers[1], value.Numbers[2])).ToString(),
            "rotation" => string.Join(", ", value.Numbers.Select(say.Angle)),
            "camera.fov" or "light.innerCone" or "light.outerCone" => say.Angle(value.Number),
            var name when name.StartsWith("position.", StringComparison.Ordinal) || name is "camera.height" or "camera.near" or "camera.far" or "light.range" => say.Length(value.Number),
            _ => string.Join(", ", value.Numbers.Select(v => Unit.Figure(v, 4))),
        };
    }
}
