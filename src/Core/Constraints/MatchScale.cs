using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>Is as large as a target: │K_jj│ = │K_jj of the target│·offset_j along the masked axes; signs stay. See model.md.</summary>
/// <param name="Factors">Greater than 0.</param>
public sealed record MatchScale(string Id, bool Enabled, double Weight, string At, AxisMask Axes, Vec3 Factors) : Constraint(Id, Enabled, Weight)
{
    public Vec3 Factors { get; init => field = value.Plain(); } = Factors.Plain();

    internal static readonly MatchScale Blank = new("", true, 1, "", AxisMask.All, Vec3.One);

    public override string Kind => "matchScale";

    public override string Verb => "is sized like";

    public override Writes Writes => Writes.Stretch;

    public override string Target => At;

    public override bool HasOffset => true;

    public override unsafe void Evaluate(ref Situation at)
    {
        var other = stackalloc double[Stances.Size];
        if (!Read(ref at, other))
        {
            return;
        }

        for (var i = 0; i < 3; i++)
        {
            if (Axes[i])
            {
                var k = Diagonal(i);
                at.Stance[k] = Math.Abs(other[k]) * Factors[i] * (at.Stance[k] < 0 ? -1 : 1);
            }
        }
    }

    public override unsafe Constraint? Offset(ref Situation at, double* wanted)
    {
        var other = stackalloc double[Stances.Size];
        if (!Read(ref at, other))
        {
            return null;
        }

        var factors = Factors;
        for (var i = 0; i < 3; i++)
        {
            var k = Diagonal(i);
            factors = Axes[i] ? factors.With(i, Math.Abs(wanted[k]) / Math.Abs(other[k])) : factors;
        }

        return this with { Factors = factors };
    }

    public override bool Shares(Constraint other) => other is MatchScale match && match.Axes == Axes;

    /// <summary>Axes that are masked out, what shears and what mirrors are not its own.</summary>
    public override unsafe void HandOn(ref Situation at, double* wanted)
    {
        for (var i = 0; i < 3; i++)
        {
            var k = Diagonal(i);
            wanted[k] = Axes[i] ? Math.CopySign(at.Stance[k], wanted[k]) : wanted[k];
        }
    }

    public override unsafe void Spare(ref Situation at, double* whole, double* led)
    {
        for (var k = Stances.K; k < Stances.Size; k++)
        {
            var mine = (Axes.X && k == Diagonal(0)) || (Axes.Y && k == Diagonal(1)) || (Axes.Z && k == Diagonal(2));
            led[k] = mine ? led[k] : whole[k];
        }
    }

    public override Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place)
    {
        ArgumentNullException.ThrowIfNull(was);
        ArgumentNullException.ThrowIfNull(now);
        var factors = Factors;
        for (var i = 0; i < 3; i++)
        {
            factors = Axes[i] && was.Sizes[i] != now.Sizes[i] ? factors.With(i, factors[i] * (was.Sizes[i] / now.Sizes[i])) : factors;
        }

        return target == At ? this with { Factors = factors } : this;
    }

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() => Common() with { Target = At, Axes = Axes.ToString(), Offset = Factors.ToArray() };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var factors = take.Three(take.Patch.Offset, Factors);
        return Math.Min(factors.X, Math.Min(factors.Y, factors.Z)) > 1e-9
            ? this with { At = take.Target(At), Axes = take.Mask(Axes), Factors = factors }
            : throw new Refusal(Refusals.NotUnderstood, "The offset of a matched scale has three factors above 0.");
    }

    /// <summary>Where K11, K22 and K33 stand in a stance.</summary>
    internal static int Diagonal(int axis) => axis switch { 0 => 12, 1 => 14, _ => 17 };

    private static unsafe bool Read(ref Situation at, double* other)
    {
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return false;
        }

        if (!Stances.Split(at.Target, at.TargetOwn!, other))
        {
            at.Warning = LinkWarning.TooThin;
            return false;
        }

        return true;
    }
}
