using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>What of a node a limit bounds.</summary>
public enum Limited
{
    Position,
    Rotation,
    Scale,
}

/// <summary>
/// Keeps positions, angles or scales within bounds. Angles: of all triples that give the same orientation the one with the least excess
/// (squares), ties nearest to the stored. See model.md.
/// </summary>
/// <param name="Low">Metres, degrees or factors; any may be missing.</param>
public sealed record Limit(string Id, bool Enabled, double Weight, Limited Of, Frame Frame, Bound Low, Bound High) : Constraint(Id, Enabled, Weight)
{
    internal static readonly Limit Blank = new("", true, 1, Limited.Position, Frame.World, Bound.None, Bound.None);

    public override string Kind => "limit";

    public override string Verb => "is limited";

    public override Writes Writes => Of switch { Limited.Position => Writes.Place, Limited.Rotation => Writes.Turn, _ => Writes.Stretch };

    public override unsafe void Evaluate(ref Situation at)
    {
        switch (Of)
        {
            case Limited.Position:
                var c = stackalloc double[3];
                if (Frame == Frame.World)
                {
                    Clamp(at.Stance);
                }
                else if (at.ToParent(at.Stance, c))
                {
                    if (Clamp(c))
                    {
                        at.ToWorld(c, at.Stance);
                    }
                }
                else
                {
                    at.Warning = LinkWarning.TooThin;
                }

                break;
            case Limited.Rotation:
                Turn(ref at);
                break;
            default:
                for (var i = 0; i < 3; i++)
                {
                    var k = at.Stance + MatchScale.Diagonal(i);
                    *k = Clamped(i, Math.Abs(*k)) * (*k < 0 ? -1 : 1);
                }

                break;
        }
    }

    /// <summary>Each keeps to its own bounds.</summary>
    public override bool Shares(Constraint other) => false;

    /// <summary>Bounds along axes can be said in another frame where its axes are the same, turned round or not.</summary>
    public override Constraint Reframed(Reframing to)
    {
        if (Of != Limited.Position || Frame != Frame.Parent || !to.KeepsAxes)
        {
            return this;
        }

        (double?[] low, double?[] high) = ([Low.X, Low.Y, Low.Z], [High.X, High.Y, High.Z]);
        for (var i = 0; i < 3; i++)
        {
            var (k, by) = (to.Places[i, i], to.Points.Offset[i]);
            (low[i], high[i]) = (low[i] * k + by, high[i] * k + by);
            (low[i], high[i]) = k < 0 ? (high[i], low[i]) : (low[i], high[i]);
        }

        return this with { Low = new(low[0], low[1], low[2]), High = new(high[0], high[1], high[2]) };
    }

    public override Constraint? Led(Func<string, string?> to) => this;

    public override ConstraintPatch ToPatch() => Common() with
    {
        Of = Of switch { Limited.Position => "position", Limited.Rotation => "rotation", _ => "scale" },
        Frame = Frame == Frame.World ? "world" : "parent",
        Low = Low.ToArray(),
        High = High.ToArray(),
    };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var made = this with
        {
            Of = take.Word("of", take.Patch.Of, Of, ("position", Limited.Position), ("rotation", Limited.Rotation), ("scale", Limited.Scale)),
            Frame = take.Frame(Frame),
            Low = take.Bound("low", take.Patch.Low, Low),
            High = take.Bound("high", take.Patch.High, High),
        };
        for (var i = 0; i < 3; i++)
        {
            if (made.Low[i] > made.High[i])
            {
                throw new Refusal(Refusals.NotUnderstood, $"The limits along {"XYZ"[i]} are crossed: low lies above high. Exchange them.");
            }

            if (made.Of == Limited.Scale && (made.High[i] < 1e-6 || made.Low[i] < 0))
            {
                throw new Refusal(Refusals.NotUnderstood, "The limits of a scale are factors above 0.");
            }
        }

        return made;
    }

    private double Clamped(int axis, double value) =>
        value < Low[axis] ? Low[axis]!.Value : value > High[axis] ? High[axis]!.Value : value;

    private unsafe bool Clamp(double* c)
    {
        var any = false;
        for (var i = 0; i < 3; i++)
        {
            var clamped = Clamped(i, c[i]);
            any |= clamped != c[i];
            c[i] = clamped;
        }

        return any;
    }

    private unsafe void Turn(ref Situation at)
    {
        var own = at.Own;
        var b = Frame == Frame.World ? Mat3.Identity : Situation.Axes(at.Basis);
        var first = Euler.FromMatrix(b.Transposed() * Situation.Axes(at.Stance, own), own.Order, own.Rotation);
        if (Euler.FromLiningUp(first, own.Order) < Euler.LinesUpBelow)
        {
            at.Warning = LinkWarning.LinesUp;
        }

        // The other family: the middle angle from the other side, the two others half a turn on.
        var (inner, middle, outer) = own.Order.Letters();
        var second = first.With(inner, first[inner] + 180).With(middle, 180 - first[middle]).With(outer, first[outer] + 180);
        var (a, excessA) = Nearest(first, own.Rotation);
        var (c, excessC) = Nearest(second, own.Rotation);
        var tie = Math.Abs(excessA - excessC) <= 1e-9 * (1 + excessA);
        var (best, excess) = (tie ? (a - own.Rotation).LengthSquared <= (c - own.Rotation).LengthSquared : excessA < excessC) ? (a, excessA) : (c, excessC);
        if (excess > 0)
        {
            at.SetAxes(b * Euler.ToMatrix(new(Clamped(0, best.X), Clamped(1, best.Y), Clamped(2, best.Z)), own.Order));
        }
    }

    /// <summary>The angles by whole turns where they exceed the limits least, nearest to the stored; and the excess squared.</summary>
    private (Vec3 Angles, double Excess) Nearest(Vec3 angles, Vec3 stored)
    {
        var sum = 0.0;
        for (var i = 0; i < 3; i++)
        {
            var near = Degrees.Near(angles[i], stored[i]);
            var (low, high) = (Low[i] ?? double.NegativeInfinity, High[i] ?? double.PositiveInfinity);
            if (near < low || near > high)
            {
                // Of the two next to the bound that it lies beyond, and those next to the other one.
                var best = near;
                foreach (var bound in (ReadOnlySpan<double>)[low, high])
                {
                    if (double.IsFinite(bound))
                    {
                        var turn = Math.Floor((bound - near) / 360);
                        Try(near + 360 * turn, ref best);
                        Try(near + 360 * (turn + 1), ref best);
                    }
                }

                near = best;
            }

            void Try(double angle, ref double best)
            {
                var (mine, other) = (Excess(angle), Excess(best));
                best = mine < other - 1e-9 || (mine <= other + 1e-9 && Math.Abs(angle - stored[i]) < Math.Abs(best - stored[i])) ? angle : best;
            }

            double Excess(double angle) => Math.Max(0, Math.Max(low - angle, angle - high));
            angles = angles.With(i, near);
            sum += Excess(near) * Excess(near);
        }

        return (angles, sum);
    }
}
