using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>Goes with a target as a child would, without being one: world of the target · offset. See model.md.</summary>
/// <param name="Away">Where it stands in the target's frame.</param>
public sealed record RideOn(string Id, bool Enabled, double Weight, string At, Affine Away) : Constraint(Id, Enabled, Weight)
{
    public Affine Away { get; init => field = value.Plain(); } = Away.Plain();

    internal static readonly RideOn Blank = new("", true, 1, "", Affine.Identity);

    public override string Kind => "rideOn";

    public override string Verb => "rides on";

    public override Writes Writes => Writes.All;

    public override string Target => At;

    public override bool HasOffset => true;

    public override unsafe void Evaluate(ref Situation at)
    {
        double* world = stackalloc double[12], stance = stackalloc double[Stances.Size];
        if (at.Target == null)
        {
            at.Warning = LinkWarning.Gone;
            return;
        }

        Flat.Write(Flat.Read(at.Target) * Away, world);
        if (!Stances.Split(world, at.Own, stance))
        {
            at.Warning = LinkWarning.TooThin;
            return;
        }

        for (var i = 0; i < Stances.Size; i++)
        {
            at.Stance[i] = stance[i];
        }
    }

    public override unsafe Constraint? Offset(ref Situation at, double* wanted)
    {
        if (at.Target == null || Triangular.Condition(Flat.Read(at.Target).Linear) > 1e12)
        {
            return null;
        }

        var world = stackalloc double[12];
        Stances.Compose(wanted, at.Own, world);
        return this with { Away = Flat.Read(at.Target).Inverse() * Flat.Read(world) };
    }

    public override unsafe void HandOn(ref Situation at, double* wanted) => Stances.Copy(at.Stance, wanted, Writes);

    public override Constraint? Led(Func<string, string?> to) => to(At) is { } target ? this with { At = target } : null;

    public override ConstraintPatch ToPatch() => Common() with { Target = At, Offset = Away.ToArray() };

    protected override Constraint Fit(ConstraintTaker take)
    {
        var m = take.Numbers("offset", take.Patch.Offset, 16, Away.ToArray());
        var away = Affine.From(m);
        return m[3] == 0 && m[7] == 0 && m[11] == 0 && m[15] == 1 && Triangular.Condition(away.Linear) < 1e9
            ? this with { At = take.Target(At), Away = away }
            : throw new Refusal(Refusals.NotUnderstood, "The offset of what rides on something is a matrix that can be inverted, with 0 0 0 1 as its last row.");
    }
}
