namespace CalmPivot.Core.Shapes;

/// <summary>
/// Geometry made from parameters. Lengths in metres; round shapes stand along Y; the node's frame sits at the middle of
/// the shape's bounds.
/// </summary>
public abstract record Shape
{
    public const int MostSegments = 512;
    public const double MostLength = 1e6;

    /// <summary>The words of all types.</summary>
    public static readonly IReadOnlyList<string> Types = ["box", "ball", "icoball", "cylinder", "cone", "ring", "plane", "capsule", "disc"];

    /// <summary>The word that names the type in the API.</summary>
    public abstract string Type { get; }

    /// <summary>The triangles, with normals and texture coordinates, wound counter-clockwise seen from outside.</summary>
    public abstract Geometry Tessellate();

    /// <summary>The same shape with the parameters that the patch holds.</summary>
    /// <exception cref="Refusal">not-understood: a parameter that this type does not have, or a value out of its range.</exception>
    public Shape With(ShapePatch patch)
    {
        ArgumentNullException.ThrowIfNull(patch);
        if (patch.Type is { } type && type != Type)
        {
            return Default(type).With(patch);
        }

        var take = new ShapeTaker(patch);
        var fitting = Fit(take);
        take.CheckAllTaken(Type);
        return fitting;
    }

    /// <summary>All parameters, as a patch that makes this shape out of any other.</summary>
    public abstract ShapePatch ToPatch();

    /// <summary>A shape of a type in its usual size.</summary>
    public static Shape Default(string type) => type switch
    {
        "box" => new Box(new(1, 1, 1)),
        "ball" => new Ball(0.5, 32, 16),
        "icoball" => new Icoball(0.5, 2),
        "cylinder" => new Cylinder(0.5, 1, 32, true),
        "cone" => new Cone(0.5, 0, 1, 32, true),
        "ring" => new Ring(0.5, 0.125, 48, 16),
        "plane" => new Plane(1, 1, 1),
        "capsule" => new Capsule(0.25, 1, 32, 8),
        "disc" => new Disc(0.5, 0, 32),
        _ => throw new Refusal(
            Refusals.NotUnderstood,
            $"There is no shape “{type}”. Use {string.Join(", ", Types.SkipLast(1))} or {Types[^1]}."),
    };

    protected abstract Shape Fit(ShapeTaker take);
}
