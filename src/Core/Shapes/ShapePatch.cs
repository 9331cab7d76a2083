namespace CalmPivot.Core.Shapes;

/// <summary>Some parameters of a shape, as the API writes them; those left out stay as they are.</summary>
public sealed record ShapePatch
{
    public string? Type { get; init; }
    public double[]? Size { get; init; }
    public double? Radius { get; init; }
    public double? TopRadius { get; init; }
    public double? Height { get; init; }
    public double? Tube { get; init; }
    public double? Inner { get; init; }
    public int? Segments { get; init; }
    public int? Rings { get; init; }
    public int? Sides { get; init; }
    public int? Divisions { get; init; }
    public bool? Caps { get; init; }
}

/// <summary>Hands a patch's parameters to a shape, each checked against its range, and notices those nobody asked for.</summary>
public sealed class ShapeTaker(ShapePatch patch)
{
    private readonly HashSet<string> _asked = [];

    public ShapePatch Patch => patch;

    public double Length(string name, double? given, double present, double least = 1e-6)
    {
        _asked.Add(name);
        if (given is not { } value)
        {
            return present;
        }

        return value >= least && value <= Shape.MostLength
            ? value
            : throw Out(name, least == 0 ? $"0 to {Shape.MostLength:0} m" : $"0.000001 to {Shape.MostLength:0} m");
    }

    public double[] Size(int count, double[] present)
    {
        _asked.Add("size");
        if (patch.Size is not { } size)
        {
            return present;
        }

        if (size.Length != count)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The size needs {count} numbers here; {size.Length} were given.");
        }

        return [.. size.Select(s => Length("size", s, s))];
    }

    public int Count(string name, int? given, int present, int least, int most = Shape.MostSegments)
    {
        _asked.Add(name);
        return given is not { } value ? present : value >= least && value <= most ? value : throw Out(name, $"{least} to {most}");
    }

    public bool Flag(string name, bool? given, bool present)
    {
        _asked.Add(name);
        return given ?? present;
    }

    internal void CheckAllTaken(string type)
    {
        (string Name, bool Given)[] all =
        [
            ("size", patch.Size is not null), ("radius", patch.Radius is not null), ("topRadius", patch.TopRadius is not null),
            ("height", patch.Height is not null), ("tube", patch.Tube is not null), ("inner", patch.Inner is not null),
            ("segments", patch.Segments is not null), ("rings", patch.Rings is not null), ("sides", patch.Sides is not null),
            ("divisions", patch.Divisions is not null), ("caps", patch.Caps is not null),
        ];
        foreach (var (name, given) in all)
        {
            if (given && !_asked.Contains(name))
            {
                throw new Refusal(Refusals.NotUnderstood, $"A {type} has no {name}.");
            }
        }
    }

    private static Refusal Out(string name, string range) =>
        new(Refusals.NotUnderstood, $"The {name} must lie within {range}.");
}
