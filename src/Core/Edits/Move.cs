using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Moves nodes along the axes of a space: adds L⁻¹·(B·d) to the stored position, and nothing else changes.</summary>
/// <param name="By">Metres along the three axes.</param>
public sealed record Move(IReadOnlyList<string> Nodes, Vec3 By, Space Space, ChildrenMode Children = ChildrenMode.Along) : Edit, IDragged
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override Edit Instead(IReadOnlyList<string> nodes) => this with { Nodes = nodes };

    public override void ApplyTo(SceneDraft draft)
    {
        if (Space is ChannelsSpace)
        {
            throw ChannelsSpace.OnlyForTurning();
        }

        var targets = Targets.Of(draft, Nodes, Space, new AboutOwn(), Children);
        Targets.Place(draft, targets, Children, target =>
        {
            target.Frame.CheckInvertible(target.Node.Name);
            var step = target.Frame.Place.Linear.Inverse() * (target.Axes * By);
            return target.Placement with { Position = target.Placement.Position + step };
        });
    }

    public override string Say(Speaker say) => say.Did(Manner(say)!.Value, Nodes);

    internal override (string Did, string How)? Manner(Speaker say) =>
        ("Moved", $"{say.Lengths(By)} along {say.Axes(Space, Nodes, By)}{say.Staying(Children, Nodes)}");

    Quantity IDragged.Quantity => Quantity.Length;

    bool IDragged.Snaps => true;

    bool IDragged.TurnsToSurfaces => true;

    bool IDragged.ChildrenStay => Children == ChildrenMode.Stay;

    Edit IDragged.With(Pull pull) => this with { By = pull.Amount };

    Edit IDragged.Towards(SceneDraft draft, double value, IReadOnlyList<double?> values, AmountMode mode) => Space switch
    {
        ParentSpace => new SetChannel(Nodes, ChannelName.Position, values, mode),
        WorldSpace => new SetChannel(Nodes, ChannelName.Position, values, mode, ReadIn.World),
        _ => throw new Refusal(Refusals.NotUnderstood, "A place can be typed along its parent's or the world's axes. Choose those, or type an amount by."),
    };

    Edit? IDragged.Usual => this with { By = new(0.1, 0.1, 0.1) };

    IEnumerable<Edit> IDragged.UsualAlong(int axis) => [this with { By = 0.1 * Vec3.Axis(axis) }, this with { By = -0.1 * Vec3.Axis(axis) }];

    string IDragged.AxesInWords(Vec3 used, Speaker say) => say.Axes(Space, Nodes, used);

    string IDragged.Amount(Speaker say) => say.Lengths(By);
}
