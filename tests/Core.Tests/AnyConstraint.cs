using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Tests;

/// <summary>Random constraints of every registered kind.</summary>
internal static class AnyConstraint
{
    public static string Axis(Random r) => new SignedAxis(r.Next(3), r.Next(2) == 0).ToString();

    public static string Kind(Random r) => Constraint.Kinds[r.Next(Constraint.Kinds.Count)].Kind;

    /// <summary>A constraint of any kind, of which much may be left out.</summary>
    public static ConstraintPatch Of(Random r, Func<Predicate<Node>?, string> one, Func<string> any)
    {
        var kind = Kind(r);
        string? Axis() => r.Next(2) == 0 ? null : AnyConstraint.Axis(r);
        var patch = new ConstraintPatch { Kind = kind, Weight = r.Next(3) == 0 ? r.NextDouble() : null, Enabled = r.Next(6) == 0 ? false : null };
        patch = kind == "limit" ? patch : patch with { Target = kind == "stayOnSurface" ? one(n => n.Shape is not null || n.Geometry is not null) : r.Next(8) == 0 ? any() : one(null) };
        Vec3? Point() => r.Next(4) == 0 ? new(r.NextDouble(), -1, 2 * r.NextDouble()) : null;
        string? Frame() => r.Next(2) == 0 ? "parent" : null;
        string? Mask() => r.Next(2) == 0 ? "xz" : null;
        return kind switch
        {
            "aim" => patch with { Point = Point(), Axis = Axis(), Up = r.Next(4) switch { 0 => Up.Least, 1 => new(Parent: new SignedAxis(2)), 2 => new(Toward: one(null)), _ => null } },
            "swivel" => patch with { Point = Point(), Facing = Axis(), Hinge = Vec3.Axis(r.Next(3)), From = r.Next(2) == 0 ? -40 : null, To = r.Next(2) == 0 ? 70 : null },
            "follow" => patch with { Axes = Mask(), Frame = Frame() },
            "matchRotation" => r.Next(4) == 0 ? patch with { Axes = "y", Factor = -2 } : patch with { Axes = Mask(), Frame = Frame() },
            "matchScale" => patch with { Axes = Mask() },
            "limit" => patch with { Of = r.Next(3) switch { 0 => "position", 1 => "rotation", _ => "scale" }, Frame = Frame(), Low = [0.5, null, 0.1], High = [2, 1, null] },
            "stayOnSurface" => patch with { How = r.Next(2) == 0 ? "along" : null, Align = Axis(), Offset = [r.NextDouble()] },
            _ => patch,
        };
    }
}
