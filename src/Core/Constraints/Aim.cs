using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Keeps an own axis pointing at a target, with another one kept upright. With d the direction to the target and g that of up:
/// s = unit(g − (g·d)·d), ΔR = [d, s, d×s]·[a, u, a×u]ᵀ·Oᵀ. By nothing: the shortest arc from O·a to d. Of cameras and lamps O are the lens axes. See model.md.
/// </summary>
/// <param name="Axis">The own axis a that aims.</param>
/// <param name="UpAxis">The own axis u that is kept upright; another letter.</param>
/// <param name="Point">What of the target it aims at, in the target's own frame; null: its pivot.</param>
public sealed record Aim(string Id, bool Enabled, double Weight, string At, SignedAxis Axis, SignedAxis UpAxis, Up Up, Vec3? Point = null) : Constraint(Id, Enabled, Weight)
{
    public Vec3? Point { get; init => field = value?.Plain(); } = Point?.Plain();

    internal static readonly Aim Blank = new("", true, 1, "", new(2, true), new(1), new(World: new SignedAxis(1)));

    public override string Kind => "aim";

    public override string Verb => "aims at";

    public override Writes Writes => Writes.Turn;

    public override string Target => At;

    public override bool LooksFromPivot => true;

    public override Vec3? Place => Point;

    public override SignedAxis? Points => Axis;

    public override string? Toward => Up.Toward;

    public override Vec3 Side(Own own)
    {
        ArgumentNullException.ThrowIfNull(own);
        return own.IsLens ? own.Turn.Transposed() * Axis.Vector : Axis.Vector * own.Facing(Axis.Index);
    }

    public override unsafe void Evaluate(ref Situation at)
    {
        double* d = at.Scratch, f = d + 3, g = d + 6;
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return;
        }

        if (!Toward3(at.Target, Point ?? at.TargetOwn!.Pivot, at.Stance, d))
        {
            at.Warning = LinkWarning.AtTarget;
            return;
        }

        if (Up is { World: null, Parent: null, Toward: null })
        {
            Shortest(ref at, d, f);
            return;
        }

        if (Up.World is { } world)
        {
            g[0] = g[1] = g[2] = 0;
            g[world.Index] = world.Sign;
        }
        else if (Up.Parent is { } parent)
        {
            at.FromParent(parent.Vector, g);
        }
        else if (at.Toward == null || !Toward3(at.Toward, Up.Point ?? at.TowardOwn!.Pivot, at.Stance, g))
        {
            at.Warning = LinkWarning.AlongUp;
            Shortest(ref at, d, f);
            return;
        }

        var along = g[0] * d[0] + g[1] * d[1] + g[2] * d[2];
        var (x, y, z) = (g[0] - along * d[0], g[1] - along * d[1], g[2] - along * d[2]);
        var sine = Math.Sqrt(x * x + y * y + z * z);
        if (!(sine >= 1e-6))
        {
            at.Warning = LinkWarning.AlongUp;
            Shortest(ref at, d, f);
            return;
        }

        at.Warning = Situation.IsNear(sine) ? LinkWarning.NearUp : LinkWarning.None;
        var k = 1 / sine;
        (x, y, z) = (x * k, y * k, z * k);

        // The own axes a, u and a×u are to be d, s and d×s; the columns of R are these times the signs.
        var axes = stackalloc double[9];
        var (third, own) = (3 - Axis.Index - UpAxis.Index, at.Own);
        var turns = (UpAxis.Index - Axis.Index + 3) % 3 == 1 ? 1 : -1;
        var into = own.IsLens ? axes : at.Stance + Stances.R;
        double Facing(int axis) => own.IsLens ? 1 : own.Facing(axis);
        Write(into, Axis.Index, d[0], d[1], d[2], Axis.Sign * Facing(Axis.Index));
        Write(into, UpAxis.Index, x, y, z, UpAxis.Sign * Facing(UpAxis.Index));
        Write(
            into,
            third,
            d[1] * z - d[2] * y,
            d[2] * x - d[0] * z,
            d[0] * y - d[1] * x,
            turns * Axis.Sign * UpAxis.Sign * Facing(third));
        if (own.IsLens)
        {
            at.TurnLens(axes);
        }
    }

    /// <summary>The own axis that is nearest to the target aims, and of the others the one nearest to up is kept upright.</summary>
    public override unsafe Constraint Proposed(ref Situation at, ConstraintPatch given)
    {
        ArgumentNullException.ThrowIfNull(given);
        double* d = stackalloc double[3], g = stackalloc double[3];
        if (at.Target == null || !Toward3(at.Target, Point ?? at.TargetOwn!.Pivot, at.Stance, d))
        {
            return this;
        }

        // Along which the target lies, and up.
        (g[0], g[1], g[2]) = Up.World?.Vector ?? Vec3.UnitY;
        if (Up.Parent is { } parent)
        {
            at.FromParent(parent.Vector, g);
        }
        else if (Up.Toward is not null && at.Toward != null)
        {
            Toward3(at.Toward, Up.Point ?? at.TowardOwn!.Pivot, at.Stance, g);
        }

        var axis = given.Axis is null ? Nearest(ref at, d, given.UpAxis is null ? -1 : UpAxis.Index) : Axis;
        return this with { Axis = axis, UpAxis = given.UpAxis is null ? Nearest(ref at, g, axis.Index) : UpAxis };
    }

    /// <summary>The own axis that is nearest to a direction, of another letter than one.</summary>
    internal static unsafe SignedAxis Nearest(ref Situation at, double* direction, int without) =>
        SignedAxis.Nearest(Situation.Pointers(at.Stance, at.Own), new(direction[0], direction[1], direction[2]), without);

    public override Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place)
    {
        ArgumentNullException.ThrowIfNull(was);
        ArgumentNullException.ThrowIfNull(now);
        var told = target == At && Point is null && was.OwnPoint != now.OwnPoint ? this with { Point = was.OwnPoint } : this;
        return Up is { Toward: { } toward, Point: null } && toward == target && was.OwnPoint != now.OwnPoint ? told with { Up = Up with { Point = was.OwnPoint } } : told;
    }

    public override Constraint? Led(Func<string, string?> to) =>
        to(At) is not { } target ? null
        : Up.Toward is not { } toward ? this with { At = target }
        : to(toward) is { } up ? this with { At = target, Up = Up with { Toward = up } } : null;

    public override ConstraintPatch ToPatch() =>
        Common() with { Target = At, Point = Point, Axis = Axis.ToString(), UpAxis = UpAxis.ToString(), Up = Up };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var (axis, up) = (take.Axis("axis", take.Patch.Axis, Axis), take.Axis("upAxis", take.Patch.UpAxis, UpAxis));
        if (axis.Index == up.Index)
        {
            if (take.Patch.UpAxis is not null)
            {
                throw new Refusal(Refusals.NotUnderstood, "The axis that aims cannot be the one that is kept upright, too. Choose another letter for one of them.");
            }

            // Who only chooses another axis to aim with gets the next letter for up.
            up = new((axis.Index + 1) % 3);
        }

        return this with { At = take.Target(At), Point = take.Point(At, Point), Axis = axis, UpAxis = up, Up = take.Value("up", take.Patch.Up, Up) };
    }

    /// <summary>The direction from the pivot to a place of something that stands with a world matrix.</summary>
    /// <returns>False: it is too near to have one.</returns>
    internal static unsafe bool Toward3(double* world, Vec3 point, double* pivot, double* into)
    {
        Situation.Point(world, point, into);
        var most = Math.Max(into[0] * into[0] + into[1] * into[1] + into[2] * into[2], pivot[0] * pivot[0] + pivot[1] * pivot[1] + pivot[2] * pivot[2]);
        into[0] -= pivot[0];
        into[1] -= pivot[1];
        into[2] -= pivot[2];
        var length = Math.Sqrt(into[0] * into[0] + into[1] * into[1] + into[2] * into[2]);
        if (!(length > 1e-9 + 1e-12 * Math.Sqrt(most)))
        {
            return false;
        }

        var k = 1 / length;
        into[0] *= k;
        into[1] *= k;
        into[2] *= k;
        return true;
    }

    private static unsafe void Write(double* columns, int column, double x, double y, double z, double sign)
    {
        var r = columns + 3 * column;
        r[0] = x * sign;
        r[1] = y * sign;
        r[2] = z * sign;
    }

    private unsafe void Shortest(ref Situation at, double* d, double* f)
    {
        at.Pointer(Axis, f);
        if (ShortestArc(at.Stance + Stances.R, f, d))
        {
            return;
        }

        if (at.Own.IsLens)
        {
            at.Pointer(UpAxis, f);
            Swivel.Turn(at.Stance + Stances.R, f, 180);
            return;
        }

        HalfTurn(at.Stance + Stances.R, UpAxis.Index);
    }

    /// <summary>
    /// The shortest arc from f to d, as two reflections: across the plane that f is normal to, then across that of
    /// h = unit(f + d).
    /// </summary>
    /// <returns>False: they are opposite to 1e-12, and nothing is turned.</returns>
    internal static unsafe bool ShortestArc(double* r, double* f, double* d)
    {
        var (x, y, z) = (f[0] + d[0], f[1] + d[1], f[2] + d[2]);
        var length = Math.Sqrt(x * x + y * y + z * z);
        if (!(length > 1e-12))
        {
            return false;
        }

        var k = 1 / length;
        (x, y, z) = (x * k, y * k, z * k);
        for (var i = 0; i < 9; i += 3)
        {
            var by = 2 * (f[0] * r[i] + f[1] * r[i + 1] + f[2] * r[i + 2]);
            var (a, b, c) = (r[i] - by * f[0], r[i + 1] - by * f[1], r[i + 2] - by * f[2]);
            by = 2 * (x * a + y * b + z * c);
            r[i] = a - by * x;
            r[i + 1] = b - by * y;
            r[i + 2] = c - by * z;
        }

        return true;
    }

    /// <summary>Half a turn about one of the axes: only that one stays.</summary>
    internal static unsafe void HalfTurn(double* r, int about)
    {
        for (var i = 0; i < 9; i++)
        {
            r[i] = i / 3 == about ? r[i] : -r[i];
        }
    }
}
