using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Some of <see cref="Takes"/>; what is left out stays.</summary>
public sealed record TakesPatch(bool? Position = null, bool? Rotation = null, bool? Scale = null);

/// <summary>Some stored values of a placement; what is left out stays.</summary>
public sealed record PlacementPatch
{
    public Vec3? Position { get; init; }
    public Vec3? Rotation { get; init; }
    public EulerOrder? Order { get; init; }
    public Vec3? Scale { get; init; }
    public Vec3? Shear { get; init; }
    public Vec3? Pivot { get; init; }
    public Vec3? PivotTurn { get; init; }
    public TakesPatch? Takes { get; init; }

    public Placement ApplyTo(Placement placement)
    {
        ArgumentNullException.ThrowIfNull(placement);
        return new(
            Position ?? placement.Position,
            Rotation ?? placement.Rotation,
            Order ?? placement.Order,
            Scale ?? placement.Scale,
            Shear ?? placement.Shear,
            Pivot ?? placement.Pivot,
            PivotTurn ?? placement.PivotTurn,
            Takes is { } takes
                ? new(takes.Position ?? placement.Takes.Position, takes.Rotation ?? placement.Takes.Rotation, takes.Scale ?? placement.Takes.Scale)
                : placement.Takes);
    }
}
