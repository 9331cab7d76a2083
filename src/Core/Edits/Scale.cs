using System.Text.Json.Serialization;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Scales nodes along the axes of a space. In own it is an edit of the stored factors that leaves rotation and shear to
/// the bit; in any other space <c>W' = T(c)·B·diag(s)·Bᵀ·T(−c)·W</c>, which can add shear.
/// </summary>
/// <param name="By">Three factors, none zero.</param>
/// <param name="KeepVolume">The axes that were given, where the others are to follow so that the volume stays.</param>
public sealed record Scale(
    IReadOnlyList<string> Nodes,
    Vec3 By,
    Space Space,
    About About,
    KeepVolume? KeepVolume = null,
    Effect Effect = Effect.Whole,
    ChildrenMode Children = ChildrenMode.Along) : Edit, IDragged
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override Edit Instead(IReadOnlyList<string> nodes) => this with { Nodes = nodes };

    internal override Edit Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) => this with { About = About.Fixed(draft, nodes) };

    /// <summary>A pad that is dragged through zero stops here.</summary>
    public const double LeastDragged = 0.001;

    [JsonIgnore]
    internal override Read Reads => Effect == Effect.Whole ? Read.Scale : Read.Position;

    public override void ApplyTo(SceneDraft draft)
    {
        var factors = KeepVolume?.Apply(By) ?? By;
        if (!factors.IsFinite)
        {
            throw new Refusal(Refusals.NotFinite, "A scale needs finite factors.");
        }

        if (factors.X == 0 || factors.Y == 0 || factors.Z == 0)
        {
            throw new Refusal(
                Refusals.ZeroScale,
                "A scale of 0 would flatten the object beyond return. Hide it instead, or use a very thin size such as 0.001.");
        }

        if (Space is ChannelsSpace)
        {
            throw ChannelsSpace.OnlyForTurning();
        }

        var targets = Targets.Of(draft, Nodes, Space, About, Children);
        Targets.Place(draft, targets, Children, target =>
        {
            var even = factors.X == factors.Y && factors.Y == factors.Z;
            var scaled = Space is OwnSpace || even
                ? target.Held(target.Placement with { Scale = target.Placement.Scale.Times(factors) })
                : InSpace(target, factors);
            // A mark has no size: it only goes where the scale carries it.
            return Effect == Effect.Places || target.Node.Kind == NodeKind.Mark ? target.Placement with { Position = scaled.Position } : scaled;
        });
    }

    public override string Say(Speaker say) => say.Did(Manner(say)!.Value, Nodes);

    internal override (string Did, string How)? Manner(Speaker say) => (
        "Scaled",
        $"{say.Factors(KeepVolume?.Apply(By) ?? By)} about {say.Point(About, Nodes)}, along {say.Axes(Space, Nodes, By - Vec3.One)}"
        + (KeepVolume is null ? "" : ", volume kept") + say.Places(Effect) + say.Staying(Children, Nodes));

    Quantity IDragged.Quantity => Quantity.Factor;

    bool IDragged.ChildrenStay => Children == ChildrenMode.Stay;

    Edit IDragged.With(Pull pull) => this with { By = pull.Amount };

    Vec3 IDragged.Along(double value, IReadOnlyList<bool> axes) => new(axes[0] ? value : 1, axes[1] ? value : 1, axes[2] ? value : 1);

    Edit IDragged.Towards(SceneDraft draft, double value, IReadOnlyList<double?> values, AmountMode mode) => Space is OwnSpace && KeepVolume is null
        ? new SetChannel(Nodes, ChannelName.Scale, values, mode)
        : throw new Refusal(Refusals.NotUnderstood, "A size can be typed to along its own axes, without keeping the volume. Choose those, or type a factor by.");

    Vec3 IDragged.GridFrom(SceneDraft draft, Node lead, Vec3 inSpace) => lead.Placement.Scale;

    string IDragged.Amount(Speaker say) => say.Factors(KeepVolume?.Apply(By) ?? By);

    string? IDragged.Caution => Math.Min(By.X, Math.Min(By.Y, By.Z)) == LeastDragged
        ? "It stops here: a scale never passes through 0. Type a negative factor to turn it round."
        : null;

    Edit? IDragged.Usual => By == Vec3.One ? this with { By = new(1.25, 1, 1), KeepVolume = null } : this;

    IEnumerable<Edit> IDragged.UsualAlong(int axis) => [this with { By = Vec3.One.With(axis, 1.25), KeepVolume = null }, this with { By = Vec3.One.With(axis, 0.8), KeepVolume = null }];

    string IDragged.AxesInWords(Vec3 used, Speaker say) => say.Axes(Space, Nodes, used);

    private static Placement InSpace(Target target, Vec3 factors)
    {
        var b = target.Axes;
        var stretch = Affine.About(target.Point, b * Mat3.Diagonal(factors) * b.Transposed());
        return target.Frame.Storing(stretch * target.World, target.Placement, target.Node.Name);
    }
}

/// <summary>
/// Which axes of a scale were given; the others follow: one given, factor k: the others get 1/√|k|; two given, factors a and b:
/// the third gets 1/|a·b|.
/// </summary>
public sealed record KeepVolume(IReadOnlyList<char> Given)
{
    public Vec3 Apply(Vec3 by)
    {
        var given = Given.Select(c => "xyz".IndexOf(c, StringComparison.Ordinal)).Distinct().ToArray();
        if (given.Length is 0 or 3 || given.Contains(-1))
        {
            throw new Refusal(Refusals.NotUnderstood, "To keep the volume, give one axis or two; the others follow.");
        }

        var product = given.Aggregate(1.0, (all, axis) => all * by[axis]);
        if (product == 0)
        {
            return Vec3.Zero;
        }

        var other = given.Length == 1 ? 1 / Math.Sqrt(Math.Abs(product)) : 1 / Math.Abs(product);
        return given.Aggregate(new Vec3(other, other, other), (factors, axis) => factors.With(axis, by[axis]));
    }
}
