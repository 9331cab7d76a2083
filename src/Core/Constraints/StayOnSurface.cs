using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Stays on the target's own triangles: at the point nearest to the pivot, or where a line through the pivot meets them, an offset above;
/// with an own axis turned to the normal by the shortest arc when asked. See model.md.
/// </summary>
/// <param name="Along">A direction in the world; null: the nearest point.</param>
/// <param name="Above">Metres along the normal.</param>
public sealed record StayOnSurface(
    string Id,
    bool Enabled,
    double Weight,
    string At,
    bool IsAlong,
    Vec3 Along,
    SignedAxis? Align,
    double Above) : Constraint(Id, Enabled, Weight)
{
    public Vec3 Along { get; init => field = value.Plain(); } = Along.Plain();

    public double Above { get; init => field = value + 0.0; } = Above + 0.0;

    internal static readonly StayOnSurface Blank = new("", true, 1, "", false, new(0, -1, 0), null, 0);

    public override string Kind => "stayOnSurface";

    public override string Verb => "stays on";

    public override Writes Writes => Align is null ? Writes.Place : Writes.Place | Writes.Turn;

    public override string Target => At;

    public override SignedAxis? Points => Align;

    public override bool ReadsSurface => true;

    public override Vec3 Side(Own own) => Align is { } axis ? axis.Vector * own.Facing(axis.Index) : Vec3.Zero;

    public override unsafe void Evaluate(ref Situation at)
    {
        if (at.Target == null || at.Surface is not { IsEmpty: false } surface)
        {
            at.Warning = at.Target == null ? LinkWarning.Gone : LinkWarning.NoSurface;
            return;
        }

        var from = new Vec3(at.Stance[0], at.Stance[1], at.Stance[2]);
        var world = Flat.Read(at.Target);
        if (!(IsAlong ? surface.Meet(world, from, Along, out var point, out var number) : surface.Nearest(world, from, out point, out number)))
        {
            at.Warning = LinkWarning.Missed;
            return;
        }

        // As it is shown: smooth where that is smooth, so that nothing turns in steps.
        var normal = surface.Shown(number, world, point);
        (at.Stance[0], at.Stance[1], at.Stance[2]) = point + normal * Above;
        if (Align is { } axis)
        {
            double* f = stackalloc double[3], d = stackalloc double[3];
            at.Axis(axis, f);
            (d[0], d[1], d[2]) = normal;
            if (!Aim.ShortestArc(at.Stance + Stances.R, f, d))
            {
                Aim.HalfTurn(at.Stance + Stances.R, (axis.Index + 1) % 3);
            }
        }
    }

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() => Common() with
    {
        Target = At,
        How = IsAlong ? "along" : "nearest",
        Along = Along,
        Align = Align?.ToString(),
        Offset = [Above],
    };

    protected override Constraint Fit(ConstraintTaker take) => this with
    {
        At = take.Target(At),
        IsAlong = take.Word("how", take.Patch.How, IsAlong, ("nearest", false), ("along", true)),
        Along = take.Direction("along", take.Patch.Along, Along),
        Align = take.MaybeAxis("align", take.Patch.Align, Align),
        Above = take.Numbers("offset", take.Patch.Offset, 1, [Above])[0],
    };
}
