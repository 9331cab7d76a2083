using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>Fields of constraints of any kind, as the API writes them; those left out stay as they are, or as usual.</summary>
public sealed record ConstraintPatch
{
    public string? Kind { get; init; }

    public string? Id { get; init; }

    public bool? Enabled { get; init; }

    public double? Weight { get; init; }

    public string? Target { get; init; }

    /// <summary>The place on the target that is looked at, in its own frame; left out: its pivot.</summary>
    public Vec3? Point { get; init; }

    /// <summary>The own axis that aims.</summary>
    public string? Axis { get; init; }

    /// <summary>The own axis that is kept upright; another letter than <see cref="Axis"/>.</summary>
    public string? UpAxis { get; init; }

    public Up? Up { get; init; }

    /// <summary>Directions in the parent's frame.</summary>
    public Vec3? Hinge { get; init; }

    public Vec3? Zero { get; init; }

    /// <summary>The own axis that turns to the target.</summary>
    public string? Facing { get; init; }

    /// <summary>Degrees.</summary>
    public double? From { get; init; }

    public double? To { get; init; }

    /// <summary>Letters, such as "xz".</summary>
    public string? Axes { get; init; }

    /// <summary>"world" or "parent".</summary>
    public string? Frame { get; init; }

    /// <summary>Three numbers; of "rideOn" sixteen; of "stayOnSurface" one.</summary>
    public double[]? Offset { get; init; }

    public double? Factor { get; init; }

    /// <summary>Of a limit: "position", "rotation" or "scale".</summary>
    public string? Of { get; init; }

    public double?[]? Low { get; init; }

    public double?[]? High { get; init; }

    /// <summary>"nearest" or "along".</summary>
    public string? How { get; init; }

    /// <summary>A direction in the world.</summary>
    public Vec3? Along { get; init; }

    /// <summary>The own axis that turns to the normal.</summary>
    public string? Align { get; init; }

    /// <summary>Fields that are taken out: point, from, to, factor, align, low, high.</summary>
    public string[]? Without { get; init; }
}

/// <summary>Hands a patch's fields to a constraint, each checked, and notices those that nobody asked for.</summary>
public sealed class ConstraintTaker(ConstraintPatch patch, string kind)
{
    public const double MostAngle = 1e6;

    private readonly HashSet<string> _asked = ["kind", "id", "enabled", "weight", "without"];

    public ConstraintPatch Patch => patch;

    public string Target(string present)
    {
        _asked.Add("target");
        return patch.Target ?? present;
    }

    /// <summary>A place on the target; that of a former target says nothing of another.</summary>
    public Vec3? Point(string target, Vec3? present)
    {
        _asked.Add("point");
        return IsOut("point") ? null
            : patch.Point is not { } point ? (patch.Target is { } other && other != target ? null : present)
            : Math.Max(Math.Abs(point.X), Math.Max(Math.Abs(point.Y), Math.Abs(point.Z))) <= 1e15 ? point
            : throw new Refusal(Refusals.NotUnderstood, "The point of this constraint needs three numbers of a size that can be computed with.");
    }

    public SignedAxis Axis(string name, string? given, SignedAxis present)
    {
        _asked.Add(name);
        return given is null ? present : SignedAxis.Parse(name, given);
    }

    public SignedAxis? MaybeAxis(string name, string? given, SignedAxis? present)
    {
        _asked.Add(name);
        return IsOut(name) ? null : given is null ? present : SignedAxis.Parse(name, given);
    }

    public T Value<T>(string name, T? given, T present)
        where T : class
    {
        _asked.Add(name);
        return given ?? present;
    }

    public AxisMask Mask(AxisMask present)
    {
        _asked.Add("axes");
        return patch.Axes is { } text ? AxisMask.Parse(text) : present;
    }

    public T Word<T>(string name, string? given, T present, params (string Word, T Value)[] words)
    {
        _asked.Add(name);
        if (given is null)
        {
            return present;
        }

        var at = Array.FindIndex(words, w => w.Word == given);
        return at >= 0 ? words[at].Value
            : throw new Refusal(Refusals.NotUnderstood, $"The {name} is {string.Join(" or ", words.Select(w => w.Word))}.");
    }

    public Frame Frame(Frame present) =>
        Word("frame", patch.Frame, present, ("world", Constraints.Frame.World), ("parent", Constraints.Frame.Parent));

    /// <summary>A direction, at length 1.</summary>
    public Vec3 Direction(string name, Vec3? given, Vec3 present)
    {
        _asked.Add(name);
        if (given is not { } v)
        {
            return present;
        }

        // What has length 1 already stays so to the bit: what is stored reads as it was written.
        return !v.IsFinite || !(v.Length is > 1e-9 and < 1e15)
            ? throw new Refusal(Refusals.NotUnderstood, $"The {name} needs a direction.")
            : Math.Abs(v.LengthSquared - 1) < 1e-15 ? v : v.Unit();
    }

    public double[] Numbers(string name, double[]? given, int count, double[] present)
    {
        _asked.Add(name);
        if (given is null)
        {
            return present;
        }

        if (given.Length != count || Array.Exists(given, v => !(Math.Abs(v) <= 1e15)))
        {
            throw new Refusal(Refusals.NotUnderstood, $"The {name} of this constraint needs {(count == 1 ? "one number" : $"{count} numbers")} of a size that can be computed with.");
        }

        return given;
    }

    public Vec3 Three(double[]? given, Vec3 present) => Numbers("offset", given, 3, present.ToArray()) is var v ? new(v[0], v[1], v[2]) : present;

    public double? Angle(string name, double? given, double? present)
    {
        _asked.Add(name);
        return IsOut(name) ? null : Within(name, given ?? present);
    }

    /// <summary>Three numbers of which some may be left out; all left out are none.</summary>
    public Bound Bound(string name, double?[]? given, Bound present)
    {
        _asked.Add(name);
        if (IsOut(name))
        {
            return Constraints.Bound.None;
        }

        if (given is null)
        {
            return present;
        }

        return given.Length == 3 && given.All(v => v is not { } some || Math.Abs(some) <= 1e15)
            ? new(given[0], given[1], given[2])
            : throw new Refusal(Refusals.NotUnderstood, $"The {name} of a limit has three numbers, each of which may be left out.");
    }

    internal void CheckAllTaken()
    {
        (string Name, bool Given)[] all =
        [
            ("target", patch.Target is not null), ("point", patch.Point is not null), ("axis", patch.Axis is not null), ("upAxis", patch.UpAxis is not null), ("up", patch.Up is not null),
            ("hinge", patch.Hinge is not null), ("zero", patch.Zero is not null), ("facing", patch.Facing is not null), ("from", patch.From is not null),
            ("to", patch.To is not null), ("axes", patch.Axes is not null), ("frame", patch.Frame is not null), ("offset", patch.Offset is not null),
            ("factor", patch.Factor is not null), ("of", patch.Of is not null), ("low", patch.Low is not null), ("high", patch.High is not null),
            ("how", patch.How is not null), ("along", patch.Along is not null), ("align", patch.Align is not null),
        ];
        var names = all.Where(f => f.Given).Select(f => f.Name).Concat(patch.Without ?? []);
        if (names.FirstOrDefault(name => !_asked.Contains(name)) is { } other)
        {
            throw new Refusal(Refusals.NotUnderstood, $"A constraint of the kind {kind} has no {other}.");
        }
    }

    private static double? Within(string name, double? value) =>
        value is { } some && !(Math.Abs(some) <= MostAngle) ? throw new Refusal(Refusals.NotUnderstood, $"The {name} of this constraint is too large.") : value;

    private bool IsOut(string name) => patch.Without?.Contains(name) == true;
}

/// <summary>Three numbers of which some may be missing.</summary>
public readonly record struct Bound(double? X, double? Y, double? Z)
{
    public double? X { get; init => field = value + 0.0; } = X + 0.0;

    public double? Y { get; init => field = value + 0.0; } = Y + 0.0;

    public double? Z { get; init => field = value + 0.0; } = Z + 0.0;

    public static readonly Bound None;

    public double? this[int i] => i switch { 0 => X, 1 => Y, _ => Z };

    public double?[]? ToArray() => this == None ? null : [X, Y, Z];
}
