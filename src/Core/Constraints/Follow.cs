using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// Keeps the pivot at an offset from a target, along some axes of the world or of the parent's frame: masked coordinates are
/// c(target) + offset, the others as before. See model.md.
/// </summary>
public sealed record Follow(string Id, bool Enabled, double Weight, string At, AxisMask Axes, Frame Frame, Vec3 Away) : Constraint(Id, Enabled, Weight)
{
    public Vec3 Away { get; init => field = value.Plain(); } = Away.Plain();

    internal static readonly Follow Blank = new("", true, 1, "", AxisMask.All, Frame.World, Vec3.Zero);

    public override string Kind => "follow";

    public override string Verb => "follows";

    public override Writes Writes => Writes.Place;

    public override string Target => At;

    public override bool HasOffset => true;

    public override unsafe void Evaluate(ref Situation at)
    {
        double* c = at.Scratch, t = c + 3;
        if (!Coordinates(ref at, at.Stance, c, t))
        {
            return;
        }

        c[0] = Axes.X ? t[0] + Away.X : c[0];
        c[1] = Axes.Y ? t[1] + Away.Y : c[1];
        c[2] = Axes.Z ? t[2] + Away.Z : c[2];
        if (Frame == Frame.Parent)
        {
            at.ToWorld(c, at.Stance);
            return;
        }

        (at.Stance[0], at.Stance[1], at.Stance[2]) = (c[0], c[1], c[2]);
    }

    public override unsafe Constraint? Offset(ref Situation at, double* wanted)
    {
        double* c = stackalloc double[3], t = stackalloc double[3];
        return Coordinates(ref at, wanted, c, t)
            ? this with { Away = new(Axes.X ? c[0] - t[0] : Away.X, Axes.Y ? c[1] - t[1] : Away.Y, Axes.Z ? c[2] - t[2] : Away.Z) }
            : null;
    }

    public override bool Shares(Constraint other) => other is Follow follow && follow.Axes == Axes && follow.Frame == Frame;

    /// <summary>Coordinates that are masked out are not its own.</summary>
    public override unsafe void HandOn(ref Situation at, double* wanted) => Masked(ref at, at.Stance, wanted);

    public override unsafe void Spare(ref Situation at, double* whole, double* led)
    {
        double* own = stackalloc double[3];
        (own[0], own[1], own[2]) = (led[0], led[1], led[2]);
        (led[0], led[1], led[2]) = (whole[0], whole[1], whole[2]);
        Masked(ref at, own, led);
    }

    /// <summary>The offset is a way between places; along all three axes it can be said in any frame.</summary>
    public override Constraint Reframed(Reframing to) =>
        Frame == Frame.Parent && Axes == AxisMask.All ? this with { Away = to.Places * Away } : this;

    public override Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place)
    {
        ArgumentNullException.ThrowIfNull(was);
        ArgumentNullException.ThrowIfNull(now);
        var way = was.Point - now.Point;
        way = Frame == Frame.Parent ? place.Linear.Inverse() * way : way;
        return target == At && way != Vec3.Zero && way.IsFinite
            ? this with { Away = new(Axes.X ? Away.X + way.X : Away.X, Axes.Y ? Away.Y + way.Y : Away.Y, Axes.Z ? Away.Z + way.Z : Away.Z) }
            : this;
    }

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() => Common() with
    {
        Target = At,
        Axes = Axes.ToString(),
        Frame = Frame == Frame.World ? "world" : "parent",
        Offset = Away.ToArray(),
    };

    protected override Constraint Fit(ConstraintTaker take) => this with
    {
        At = take.Target(At),
        Axes = take.Mask(Axes),
        Frame = take.Frame(Frame),
        Away = take.Three(take.Patch.Offset, Away),
    };

    /// <summary>Gives a place the coordinates of another that are its own.</summary>
    private unsafe void Masked(ref Situation at, double* from, double* into)
    {
        if (Axes == AxisMask.All)
        {
            (into[0], into[1], into[2]) = (from[0], from[1], from[2]);
            return;
        }

        double* own = stackalloc double[3], c = stackalloc double[3];
        (own[0], own[1], own[2], c[0], c[1], c[2]) = (from[0], from[1], from[2], into[0], into[1], into[2]);
        if (Frame == Frame.Parent && !(at.ToParent(from, own) && at.ToParent(into, c)))
        {
            return;
        }

        for (var i = 0; i < 3; i++)
        {
            c[i] = Axes[i] ? own[i] : c[i];
        }

        if (Frame == Frame.Parent)
        {
            at.ToWorld(c, into);
            return;
        }

        (into[0], into[1], into[2]) = (c[0], c[1], c[2]);
    }

    /// <summary>The coordinates of a point and of the target in the chosen frame.</summary>
    private unsafe bool Coordinates(ref Situation at, double* point, double* c, double* t)
    {
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return false;
        }

        Situation.Point(at.Target, at.TargetOwn!, t);
        if (Frame == Frame.World)
        {
            (c[0], c[1], c[2]) = (point[0], point[1], point[2]);
            return true;
        }

        if (!at.ToParent(point, c) || !at.ToParent(t, t))
        {
            at.Warning = LinkWarning.TooThin;
            return false;
        }

        return true;
    }
}
