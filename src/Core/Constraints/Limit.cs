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
/// Keeps positions, angles or scales within bounds. Angles: of all triples that give the same orientation the one nearest to the stored one,
/// whose given angles are cut. See model.md.
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

    /// <summary>Of all angles that give the same pose those nearest to the stored ones are cut: a door that is stored open too far stops at its limit.</summary>
    private unsafe void Turn(ref Situation at)
    {
        var own = at.Own;
        var b = Frame == Frame.World ? Mat3.Identity : Situation.Axes(at.Basis);
        var angles = Euler.FromMatrix(b.Transposed() * Situation.Axes(at.Stance, own), own.Order, own.Rotation);
        if (Euler.FromLiningUp(angles, own.Order) < Euler.LinesUpBelow)
        {
            at.Warning = LinkWarning.LinesUp;
        }

        var cut = new Vec3(Clamped(0, angles.X), Clamped(1, angles.Y), Clamped(2, angles.Z));
        // Reading them costs the last places.
        if ((cut - angles).LengthSquared > 1e-20)
        {
            at.SetAxes(b * Euler.ToMatrix(cut, own.Order));
        }
    }
}
