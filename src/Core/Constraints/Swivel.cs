using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Turns about a hinge alone, so that an own axis faces a target as far as the hinge lets it. With V what the entries before have
/// turned, h = V·E_P·hinge, z = V·E_P·zero, f = O·facing and t' = t − p, each less its part along h: α is the angle from z to t',
/// φ that from z to f; ΔR = Rot(h, clamp(α) − φ). Of cameras and lamps O are the lens axes. See model.md.
/// </summary>
/// <param name="Hinge">A unit vector in the parent's frame.</param>
/// <param name="Zero">From where angles count; a unit vector in the parent's frame.</param>
/// <param name="Point">What of the target it faces, in the target's own frame; null: its pivot.</param>
/// <param name="From">The least angle, in degrees; null: none.</param>
public sealed record Swivel(
    string Id,
    bool Enabled,
    double Weight,
    string At,
    Vec3 Hinge,
    Vec3 Zero,
    SignedAxis Facing,
    double? From,
    double? To,
    Vec3? Point = null) : Constraint(Id, Enabled, Weight)
{
    public Vec3 Hinge { get; init => field = value.Plain(); } = Hinge.Plain();

    public Vec3 Zero { get; init => field = value.Plain(); } = Zero.Plain();

    public double? From { get; init => field = value + 0.0; } = From + 0.0;

    public double? To { get; init => field = value + 0.0; } = To + 0.0;

    public Vec3? Point { get; init => field = value?.Plain(); } = Point?.Plain();

    internal static readonly Swivel Blank = new("", true, 1, "", Vec3.UnitY, Vec3.UnitZ, new(2), null, null);

    public override string Kind => "swivel";

    public override string Verb => "swivels to";

    public override Writes Writes => Writes.Turn;

    public override string Target => At;

    public override bool LooksFromPivot => true;

    public override Vec3? Place => Point;

    public override SignedAxis? Points => Facing;

    public override Vec3 Side(Own own)
    {
        ArgumentNullException.ThrowIfNull(own);
        return own.IsLens ? own.Turn.Transposed() * Facing.Vector : Facing.Vector * own.Facing(Facing.Index);
    }

    public override unsafe void Evaluate(ref Situation at)
    {
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return;
        }

        double* h = at.Scratch, z = h + 3, f = h + 6, t = h + 9;
        at.FromParent(Hinge, h);
        at.FromParent(Zero, z);
        Turned(ref at, h);
        Turned(ref at, z);
        at.Pointer(Facing, f);
        Situation.Point(at.Target, Point ?? at.TargetOwn!.Pivot, t);
        var far = Math.Max(Length(t), Length(at.Stance));
        t[0] -= at.Stance[0];
        t[1] -= at.Stance[1];
        t[2] -= at.Stance[2];
        var away = Length(t);
        if (!(away > 1e-9 + 1e-12 * far))
        {
            at.Warning = LinkWarning.AtTarget;
            return;
        }

        Less(z, h);
        Less(f, h);
        Less(t, h);
        if (!(Length(z) > 1e-9) || !(Length(f) > 1e-9) || !(Length(t) > 1e-9 * away))
        {
            at.Warning = LinkWarning.AlongHinge;
            return;
        }

        var (asked, reached) = (Wound(Angle(h, z, t)), Clamped(Angle(h, z, t)));
        if (Math.Abs(asked - reached) > 1e-9)
        {
            (at.Warning, at.Asked) = (LinkWarning.Stops, asked);
        }

        Turn(at.Stance + Stances.R, h, reached - Angle(h, z, f));
    }

    /// <summary>An angle within the limits: first into the whole turn round their middle, then cut. Degrees.</summary>
    public double Clamped(double angle) => Limits is var (from, to) ? Math.Min(Math.Max(Wound(angle), from), to) : angle;

    /// <summary>What it turns between, in degrees; null: without end.</summary>
    private (double From, double To)? Limits =>
        (From ?? To - 180, To ?? From + 180) is ({ } from, { } to) && !(to - from >= 360) ? (from, to) : null;

    /// <summary>An angle in the whole turn round the middle of the limits: into (m − 180, m + 180], so that halfway round it goes to the upper end.</summary>
    private double Wound(double angle)
    {
        if (Limits is not var (from, to))
        {
            return angle;
        }

        var middle = from + (to - from) / 2;
        var off = Math.IEEERemainder(angle - middle, 360);
        return middle + (off == -180 ? 180 : off);
    }

    /// <summary>Those about other hinges turn one after the other, as pan and tilt do.</summary>
    public override bool Shares(Constraint other) => other is Swivel swivel && swivel.Hinge == Hinge;

    /// <summary>The own axis nearest to the target faces it, its hinge apart; angles count from where that faces as placed.</summary>
    public override unsafe Constraint Proposed(ref Situation at, ConstraintPatch given)
    {
        ArgumentNullException.ThrowIfNull(given);
        double* d = stackalloc double[3], h = stackalloc double[3], f = stackalloc double[3], e = stackalloc double[9];
        at.FromParent(Hinge, h);
        var facing = Facing;
        if (given.Facing is null && at.Target != null && Aim.Toward3(at.Target, Point ?? at.TargetOwn!.Pivot, at.Stance, d))
        {
            Less(d, h);
            var along = Aim.Nearest(ref at, h, -1);
            facing = Length(d) > 1e-9 ? Aim.Nearest(ref at, d, along.Index) : facing;
        }

        if (given.Zero is not null)
        {
            return this with { Facing = facing };
        }

        at.Pointer(facing, f);
        Less(f, h);
        at.Parent(e);
        var zero = new Vec3(
            e[0] * f[0] + e[1] * f[1] + e[2] * f[2],
            e[3] * f[0] + e[4] * f[1] + e[5] * f[2],
            e[6] * f[0] + e[7] * f[1] + e[8] * f[2]);
        return this with { Facing = facing, Zero = zero.Length > 1e-9 ? zero.Unit() : Across(Hinge) };
    }

    /// <summary>Some direction at right angles to another.</summary>
    internal static Vec3 Across(Vec3 v) => v.Cross(Math.Abs(v.X) < 0.9 ? Vec3.UnitX : Vec3.UnitY).Unit();

    public override Constraint Reframed(Reframing to) => this with { Hinge = (to.Turn * Hinge).Unit(), Zero = (to.Turn * Zero).Unit() };

    public override Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place)
    {
        ArgumentNullException.ThrowIfNull(was);
        ArgumentNullException.ThrowIfNull(now);
        return target == At && Point is null && was.OwnPoint != now.OwnPoint ? this with { Point = was.OwnPoint } : this;
    }

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() =>
        Common() with { Target = At, Point = Point, Hinge = Hinge, Zero = Zero, Facing = Facing.ToString(), From = From, To = To };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var made = this with
        {
            At = take.Target(At),
            Point = take.Point(At, Point),
            Hinge = take.Direction("hinge", take.Patch.Hinge, Hinge),
            Zero = take.Direction("zero", take.Patch.Zero, Zero),
            Facing = take.Axis("facing", take.Patch.Facing, Facing),
            From = take.Angle("from", take.Patch.From, From),
            To = take.Angle("to", take.Patch.To, To),
        };
        return made.From > made.To
            ? throw new Refusal(Refusals.NotUnderstood, "The limits of a swivel are crossed: from lies beyond to. Exchange them.")
            : made;
    }

    private static unsafe double Length(double* v) => Math.Sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);

    /// <summary>What the entries before have turned, V = R·R₀ᵀ, does to a direction.</summary>
    private static unsafe void Turned(ref Situation at, double* v)
    {
        double* r = at.Stance + Stances.R, o = at.Placed + Stances.R;
        if (r == o)
        {
            return;
        }

        var same = true;
        for (var i = 0; i < 9 && same; i++)
        {
            same = r[i] == o[i];
        }

        if (same)
        {
            return;
        }

        var (x, y, z) = (
            o[0] * v[0] + o[1] * v[1] + o[2] * v[2],
            o[3] * v[0] + o[4] * v[1] + o[5] * v[2],
            o[6] * v[0] + o[7] * v[1] + o[8] * v[2]);
        v[0] = r[0] * x + r[3] * y + r[6] * z;
        v[1] = r[1] * x + r[4] * y + r[7] * z;
        v[2] = r[2] * x + r[5] * y + r[8] * z;
    }

    private static unsafe void Less(double* v, double* along)
    {
        var by = v[0] * along[0] + v[1] * along[1] + v[2] * along[2];
        v[0] -= by * along[0];
        v[1] -= by * along[1];
        v[2] -= by * along[2];
    }

    /// <summary>The angle about h from one direction to another, both at right angles to it; degrees.</summary>
    private static unsafe double Angle(double* h, double* from, double* to) => Degrees.Atan2(
        h[0] * (from[1] * to[2] - from[2] * to[1]) + h[1] * (from[2] * to[0] - from[0] * to[2]) + h[2] * (from[0] * to[1] - from[1] * to[0]),
        from[0] * to[0] + from[1] * to[1] + from[2] * to[2]);

    /// <summary>Turns three directions about an axis (Rodrigues); degrees.</summary>
    internal static unsafe void Turn(double* r, double* h, double degrees)
    {
        var (s, c) = Degrees.SinCos(degrees);
        for (var i = 0; i < 9; i += 3)
        {
            var (x, y, z) = (r[i], r[i + 1], r[i + 2]);
            var along = (h[0] * x + h[1] * y + h[2] * z) * (1 - c);
            r[i] = c * x + s * (h[1] * z - h[2] * y) + along * h[0];
            r[i + 1] = c * y + s * (h[2] * x - h[0] * z) + along * h[1];
            r[i + 2] = c * z + s * (h[0] * y - h[1] * x) + along * h[2];
        }
    }
}
