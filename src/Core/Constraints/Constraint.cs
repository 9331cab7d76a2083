using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>
/// An entry of the list of a node's constraints: a lasting rule by which it stands otherwise than it is placed. Each kind is a
/// record of its own, in a file of its own; <see cref="Kinds"/> is the registration.
/// <code>
/// var aim = Constraint.Made(new() { Kind = "aim", Id = "aim", Target = "sun-lamp", Axis = "+y", UpAxis = "+z" });
/// node = node with { Constraints = [aim] };
/// </code>
/// </summary>
/// <param name="Id">Unique in its node.</param>
/// <param name="Enabled">Off, it does nothing but still names what it names.</param>
/// <param name="Weight">0…1: how far it pulls.</param>
[JsonConverter(typeof(ConstraintConverter))]
public abstract record Constraint(string Id, bool Enabled, double Weight)
{
    /// <summary>A node has no more entries than this.</summary>
    public const int Most = 64;

    /// <summary>A blank one of every kind: the one registration that a kind needs.</summary>
    public static readonly IReadOnlyList<Constraint> Kinds =
        [Aim.Blank, Swivel.Blank, Follow.Blank, MatchRotation.Blank, MatchScale.Blank, RideOn.Blank, Limit.Blank, StayOnSurface.Blank];

    /// <summary>The word of the kind in the API.</summary>
    public abstract string Kind { get; }

    /// <summary>What it does with its target, in words: "aims at".</summary>
    public abstract string Verb { get; }

    /// <summary>The parts of a stance that it writes.</summary>
    public abstract Writes Writes { get; }

    /// <summary>What it looks at; null: nothing.</summary>
    public virtual string? Target => null;

    /// <summary>The place on its target that it looks at, in that one's own frame; null: the pivot.</summary>
    public virtual Vec3? Place => null;

    /// <summary>What says where up is, beside the target; null: nothing does.</summary>
    public virtual string? Toward => null;

    /// <summary>An axis in the frame of R by which a turn of 180° takes its side.</summary>
    public virtual Vec3 Side(Own own) => Vec3.Zero;

    /// <summary>Whether an edit of what it writes can be taken up in its offset.</summary>
    public virtual bool HasOffset => false;

    /// <summary>Whether it asks for the triangles of its target, and for what its target takes of its own parent.</summary>
    public virtual bool ReadsSurface => false;

    public virtual bool ReadsParentOfTarget => false;

    /// <summary>Whether it turns by where its target lies from the pivot.</summary>
    public virtual bool LooksFromPivot => false;

    /// <summary>The own axis that it turns to something; null: none.</summary>
    public virtual SignedAxis? Points => null;

    /// <summary>Whether it does anything: on, and with some weight.</summary>
    public bool Pulls => Enabled && Weight > 0;

    /// <summary>The ids of all that it names.</summary>
    public IEnumerable<string> Names => new[] { Target, Toward }.OfType<string>();

    /// <summary>Changes the stance to what the entry pulls it to at full weight. Only what it <see cref="Writes"/> changes.</summary>
    public abstract void Evaluate(ref Situation at);

    /// <summary>The same with an offset that pulls a stance to where it is wanted. The stance that is pulled is that before the entry.</summary>
    /// <param name="wanted">A stance, see <see cref="Stances"/>.</param>
    /// <returns>Null: no offset does.</returns>
    public virtual unsafe Constraint? Offset(ref Situation at, double* wanted) => null;

    /// <summary>The same with what was not given proposed so that least moves: the present offset, unless a kind knows better.</summary>
    /// <param name="given">What was given.</param>
    public virtual unsafe Constraint Proposed(ref Situation at, ConstraintPatch given)
    {
        ArgumentNullException.ThrowIfNull(given);
        return given.Offset is null && HasOffset ? Offset(ref at, at.Stance) ?? this : this;
    }

    /// <summary>
    /// Whether it and another entry of its kind, one after the other, share what they pull instead of the later one having its way:
    /// where both write the very same.
    /// </summary>
    public virtual bool Shares(Constraint other) => other is not null && other.GetType() == GetType();

    /// <summary>Leaves in a wanted stance what this entry's offset cannot take up, and what earlier ones or the placement have to; all else is as before.</summary>
    public virtual unsafe void HandOn(ref Situation at, double* wanted)
    {
    }

    /// <summary>Brings back into a stance that was led on what this entry does not write of it: coordinates that are masked out.</summary>
    /// <param name="whole">As it was before.</param>
    public virtual unsafe void Spare(ref Situation at, double* whole, double* led)
    {
    }

    /// <summary>The same with what it says of its parent's frame said in another, so that it means the same in the world.</summary>
    public virtual Constraint Reframed(Reframing to) => this;

    /// <summary>The same going by a target that is stored anew where it stands, so that it pulls where it pulled.</summary>
    /// <param name="own">Of the node that has the entry.</param>
    /// <param name="place">What that one takes of its parent for places.</param>
    public virtual Constraint Told(string target, TargetReading was, TargetReading now, Own own, Affine place) => this;

    /// <summary>The same naming other things; null: it cannot be without what is left out.</summary>
    public abstract Constraint? Led(Func<string, string?> to);

    /// <summary>All its fields.</summary>
    public abstract ConstraintPatch ToPatch();

    /// <summary>The same with the fields that a patch holds.</summary>
    /// <exception cref="Refusal">not-understood: a field that this kind does not have, or a value out of its range.</exception>
    public Constraint With(ConstraintPatch patch)
    {
        ArgumentNullException.ThrowIfNull(patch);
        if (patch.Kind is { } kind && kind != Kind)
        {
            throw new Refusal(Refusals.NotUnderstood, "A constraint keeps its kind. Take it off and add another one.");
        }

        var take = new ConstraintTaker(patch, Kind);
        var fitting = Fit(take);
        take.CheckAllTaken();
        return fitting with
        {
            Id = patch.Id ?? Id,
            Enabled = patch.Enabled ?? Enabled,
            Weight = patch.Weight is not { } weight ? Weight
                : weight is >= 0 and <= 1 ? weight
                : throw new Refusal(Refusals.NotUnderstood, "A weight lies between 0 and 1."),
        };
    }

    /// <summary>What an entry of another kind is to be made of, in the place of this one: id, switch, weight, target and the axis that faces it stay.</summary>
    /// <param name="given">The other kind, and what of it is said.</param>
    public ConstraintPatch Turned(ConstraintPatch given)
    {
        ArgumentNullException.ThrowIfNull(given);
        var (mine, to) = (ToPatch(), BlankOf(given).ToPatch());
        var facing = mine.Axis ?? mine.Facing;
        return given with
        {
            Id = Id,
            Enabled = given.Enabled ?? Enabled,
            Weight = given.Weight ?? Weight,
            Target = to.Target is null ? null : given.Target ?? Target,
            Axis = to.Axis is null ? given.Axis : given.Axis ?? facing,
            Facing = to.Facing is null ? given.Facing : given.Facing ?? facing,
            Point = BlankOf(given).LooksFromPivot && (given.Target is null || given.Target == Target) ? given.Point ?? mine.Point : given.Point,
            Axes = to.Axes is null ? given.Axes : given.Axes ?? mine.Axes,
            Frame = to.Frame is null ? given.Frame : given.Frame ?? mine.Frame,
        };
    }

    /// <summary>A new one of the kind that a patch names.</summary>
    /// <exception cref="Refusal">not-understood.</exception>
    public static Constraint Made(ConstraintPatch patch)
    {
        ArgumentNullException.ThrowIfNull(patch);
        return BlankOf(patch).With(patch);
    }

    /// <exception cref="Refusal">not-understood: there is no such kind.</exception>
    public static Constraint BlankOf(ConstraintPatch patch)
    {
        ArgumentNullException.ThrowIfNull(patch);
        return Kinds.FirstOrDefault(k => k.Kind == patch.Kind) ?? throw new Refusal(
            Refusals.NotUnderstood,
            $"There is no constraint “{patch.Kind}”. Use {string.Join(", ", Kinds.SkipLast(1).Select(k => k.Kind))} or {Kinds[^1].Kind}.");
    }

    /// <summary>The same with its own fields taken from a patch.</summary>
    protected abstract Constraint Fit(ConstraintTaker take);

    /// <summary>The fields that all kinds have, with those of this one to be added.</summary>
    protected ConstraintPatch Common() => new() { Kind = Kind, Id = Id, Enabled = Enabled, Weight = Weight };
}

/// <summary>How directions and places of one parent's frame are said in another.</summary>
/// <param name="Turn">E'ᵀ·E: directions.</param>
/// <param name="Places">A'⁻¹·A: ways of places.</param>
/// <param name="Points">The same of points.</param>
public readonly record struct Reframing(Mat3 Turn, Mat3 Places, Affine Points)
{
    /// <summary>Whether each axis stays one of its own, turned round or not: only then bounds along axes mean the same.</summary>
    public bool KeepsAxes => Math.Abs(Places.X.Y) + Math.Abs(Places.X.Z) + Math.Abs(Places.Y.X) + Math.Abs(Places.Y.Z) + Math.Abs(Places.Z.X) + Math.Abs(Places.Z.Y) < 1e-9;
}
