using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Turns as a target does, read in the world, or each in its own parent's frame. All three axes: composed, B·read·Rot(offset), without angles. Some: in
/// the node's order, the masked angles replaced by the target's + offset, both read nearest to the stored. With a factor: one axis, of the
/// target's stored angle, so that whole turns count. See model.md.
/// </summary>
/// <param name="Away">Degrees.</param>
/// <param name="Factor">As of a gear; null: none.</param>
public sealed record MatchRotation(
    string Id,
    bool Enabled,
    double Weight,
    string At,
    AxisMask Axes,
    Frame Frame,
    Vec3 Away,
    double? Factor) : Constraint(Id, Enabled, Weight)
{
    public Vec3 Away { get; init => field = value.Plain(); } = Away.Plain();

    public double? Factor { get; init => field = value + 0.0; } = Factor + 0.0;

    internal static readonly MatchRotation Blank = new("", true, 1, "", AxisMask.All, Frame.World, Vec3.Zero, null);

    public override string Kind => "matchRotation";

    public override string Verb => "turns with";

    public override Writes Writes => Writes.Turn;

    public override string Target => At;

    public override bool ReadsParentOfTarget => true;

    public override bool HasOffset => true;

    public override unsafe void Evaluate(ref Situation at)
    {
        if (Read(ref at) is not var (b, read))
        {
            return;
        }

        if (Factor is null && Axes == AxisMask.All)
        {
            at.SetAxes(b * (read * Euler.ToMatrix(Away, EulerOrder.XYZ)));
            return;
        }

        var own = at.Own;
        var angles = Angles(b, at.Stance, own, ref at);
        var wanted = Wanted(read, ref at);
        for (var i = 0; i < 3; i++)
        {
            angles = Axes[i] ? angles.With(i, wanted[i] + Away[i]) : angles;
        }

        at.SetAxes(b * Euler.ToMatrix(angles, own.Order));
    }

    /// <summary>A turn on an axis that is masked out cannot be taken up: then there is no offset.</summary>
    public override unsafe Constraint? Offset(ref Situation at, double* wanted)
    {
        if (Read(ref at) is not var (b, read))
        {
            return null;
        }

        var own = at.Own;
        if (Factor is null && Axes == AxisMask.All)
        {
            var turn = read.Transposed() * (b.Transposed() * Situation.Axes(wanted, own));
            return this with { Away = Euler.FromMatrix(turn, EulerOrder.XYZ, Away) };
        }

        var (present, target) = (Angles(b, at.Stance, own, ref at), Wanted(read, ref at));
        var angles = Fitting(Euler.FromMatrix(b.Transposed() * Situation.Axes(wanted, own), own.Order, present), present, own.Order);
        var away = Away;
        for (var i = 0; i < 3; i++)
        {
            if (!Axes[i] && Math.Abs(angles[i] - present[i]) > 1e-7)
            {
                return null;
            }

            away = Axes[i] ? away.With(i, angles[i] - target[i]) : away;
        }

        return this with { Away = away };
    }

    public override bool Shares(Constraint other) => other is MatchRotation match && match.Axes == Axes && match.Frame == Frame;

    public override unsafe void HandOn(ref Situation at, double* wanted) => Stances.Copy(at.Stance, wanted, Writes);

    public override Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place)
    {
        ArgumentNullException.ThrowIfNull(was);
        ArgumentNullException.ThrowIfNull(now);
        ArgumentNullException.ThrowIfNull(own);
        if (target != At)
        {
            return this;
        }

        var (then, here) = (was.In(Frame), now.In(Frame));
        if (Factor is null && Axes == AxisMask.All)
        {
            return then == here ? this : this with { Away = Euler.FromMatrix(here.Transposed() * then * Euler.ToMatrix(Away, EulerOrder.XYZ), EulerOrder.XYZ, Away) };
        }

        var by = Wanted(then, own.Order, was.Rotation) - Wanted(here, own.Order, now.Rotation);
        var away = Away;
        for (var i = 0; i < 3; i++)
        {
            away = Axes[i] ? away.With(i, away[i] + by[i]) : away;
        }

        return this with { Away = away };
    }

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() => Common() with
    {
        Target = At,
        Axes = Axes.ToString(),
        Frame = Frame == Frame.World ? "world" : "parent",
        Offset = Away.ToArray(),
        Factor = Factor,
    };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var made = this with
        {
            At = take.Target(At),
            Axes = take.Mask(Axes),
            Frame = take.Frame(Frame),
            Away = take.Three(take.Patch.Offset, Away),
            Factor = take.Angle("factor", take.Patch.Factor, Factor),
        };
        return made.Factor is null || made.Axes.Count == 1
            ? made
            : throw new Refusal(Refusals.NotUnderstood, "A factor turns about one axis. Choose one of x, y and z, or leave the factor out.");
    }

    private unsafe (Mat3 B, Mat3 Read)? Read(ref Situation at)
    {
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return null;
        }

        if (Situation.OwnAxes(at.Target, at.TargetOwn!) is not { } axes)
        {
            at.Warning = LinkWarning.TooThin;
            return null;
        }

        return Frame == Frame.World ? (Mat3.Identity, axes) : (Situation.Axes(at.Basis), Situation.Axes(at.TargetBasis).Transposed() * axes);
    }

    /// <summary>
    /// Of the two families of angles that give the same turn the one whose masked-out angles are those that stay: which of them is nearer to the stored ones says
    /// nothing of what an offset can bring about.
    /// </summary>
    private Vec3 Fitting(Vec3 angles, Vec3 present, EulerOrder order)
    {
        var (inner, middle, outer) = order.Letters();
        var other = angles.With(inner, angles[inner] + 180).With(middle, 180 - angles[middle]).With(outer, angles[outer] + 180);
        return Off(other, out var near) < Off(angles, out var same) ? near : same;

        double Off(Vec3 triple, out Vec3 turned)
        {
            var sum = 0.0;
            turned = triple;
            for (var i = 0; i < 3; i++)
            {
                turned = turned.With(i, Degrees.Near(triple[i], present[i]));
                sum += Axes[i] ? 0 : Math.Abs(turned[i] - present[i]);
            }

            return sum;
        }
    }

    private static unsafe Vec3 Angles(Mat3 b, double* stance, Own own, ref Situation at)
    {
        var angles = Euler.FromMatrix(b.Transposed() * Situation.Axes(stance, own), own.Order, own.Rotation);
        if (Euler.FromLiningUp(angles, own.Order) < Euler.LinesUpBelow)
        {
            at.Warning = LinkWarning.LinesUp;
        }

        return angles;
    }

    private Vec3 Wanted(Mat3 read, ref Situation at) => Wanted(read, at.Own.Order, at.TargetOwn!.Rotation);

    /// <param name="rotation">The stored angles of the target.</param>
    private Vec3 Wanted(Mat3 read, EulerOrder order, Vec3 rotation) => Factor is { } factor ? rotation * factor : Euler.FromMatrix(read, order, rotation);
}
