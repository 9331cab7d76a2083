using System.Text.Json.Serialization;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Turns nodes about one axis of a space. In own and parent it is an edit of the stored angles that leaves scale and
/// shear to the bit; in any other space it is rigid in the world, <c>W' = T(c)·Rot(B·a, θ)·T(−c)·W</c>, which under an
/// unevenly scaled parent can add shear.
/// </summary>
/// <param name="By">Degrees; counter-clockwise seen from the tip of the axis.</param>
/// <param name="Axis">A direction in the space, of any length but zero.</param>
public sealed record Rotate(
    IReadOnlyList<string> Nodes,
    double By,
    [property: JsonConverter(typeof(AxisConverter))] Vec3 Axis,
    Space Space,
    About About,
    Effect Effect = Effect.Whole,
    ChildrenMode Children = ChildrenMode.Along) : Edit, IDragged
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override Edit Instead(IReadOnlyList<string> nodes) => this with { Nodes = nodes };

    internal override Edit Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) => this with { About = About.Fixed(draft, nodes) };

    [JsonIgnore]
    internal override Read Reads => Effect == Effect.Whole ? Read.Rotation : Read.Position;

    public override void ApplyTo(SceneDraft draft)
    {
        if (!Axis.IsFinite || Axis.Length < 1e-12 || !double.IsFinite(By) || Math.Abs(By) > 1e9)
        {
            throw new Refusal(Refusals.NotUnderstood, "A rotation needs an axis with a direction and a finite angle.");
        }

        var axis = Axis.Unit();
        if (Space is ChannelsSpace && (About is not AboutOwn || ChannelOf(axis) is null))
        {
            throw new Refusal(Refusals.NotUnderstood, "A rotation channel turns about the object's own pivot, and about one of X, Y and Z.");
        }

        var targets = Targets.Of(draft, Nodes, Space, About, Children);
        Targets.Place(draft, targets, Children, target =>
        {
            var turned = Space switch
            {
                OwnSpace => target.Held(target.Placement.Turned(target.Placement.R * axis, By, LetterOf(axis))),
                ParentSpace => target.Held(target.Placement.Turned(axis, By, LetterOf(axis))),
                ChannelsSpace => Channel(target.Placement, ChannelOf(axis)!.Value),
                _ => Rigidly(target, target.Axes * axis),
            };
            return Effect == Effect.Places ? target.Placement with { Position = turned.Position } : turned;
        });
    }

    public override string Say(Speaker say) => say.Did(Manner(say)!.Value, Nodes);

    internal override (string Did, string How)? Manner(Speaker say) => (
        "Rotated",
        $"{say.Degrees(By)} about {say.Point(About, Nodes)}, {say.Turning(Space, Nodes, Axis)}" + say.Places(Effect) + say.Staying(Children, Nodes));

    private static int? ChannelOf(Vec3 axis) =>
        axis == Vec3.UnitX ? 0 : axis == Vec3.UnitY ? 1 : axis == Vec3.UnitZ ? 2 : null;

    /// <summary>The letter that names an axis, whichever way it points.</summary>
    private static int? LetterOf(Vec3 axis) => ChannelOf(axis.Map(Math.Abs));

    private Placement Channel(Placement placement, int channel) =>
        placement with { Rotation = placement.Rotation.With(channel, placement.Rotation[channel] + By) };

    private Placement Rigidly(Target target, Vec3 axis)
    {
        var (frame, placement) = (target.Frame, target.Placement);
        frame.CheckInvertible(target.Node.Name);
        if (AxisInside(frame.Basis, axis) is { } inside)
        {
            return target.Held(placement.Turned(inside, By, LetterOf(Axis.Unit())));
        }

        var into = frame.Inverted(target.Node.Name);
        Placement Stored(double turn, Vec3 near) =>
            into.Storing(Affine.About(target.Point, Mat3.Rotation(axis, turn)) * target.World, placement with { Rotation = near });
        return Stored(By, Turns.Followed(placement.Rotation, By, (turn, near) => Stored(turn, near).Rotation));
    }

    /// <summary>
    /// The axis about which a turn in the world is a turn in the parent, too, by the same angle: a = B⁻¹·axis, where BᵀB stretches
    /// along a and across it, but across it in all directions alike. So it is for every axis where the parent only turns, mirrors
    /// and scales evenly. Axes of turns are pseudovectors: a mirror reverses them. Null: it would shear.
    /// </summary>
    private static Vec3? AxisInside(Mat3 basis, Vec3 axis)
    {
        var square = basis.Transposed() * basis;
        var a = (basis.Inverse() * axis).Unit();
        var u = (Math.Abs(a.X) < 0.9 ? Vec3.UnitX : Vec3.UnitY).Cross(a).Unit();
        var v = a.Cross(u);
        var (squareU, squareV) = (square * u, square * v);
        var (along, across) = (a.Dot(square * a), (u.Dot(squareU) + v.Dot(squareV)) / 2);
        var off = Math.Max(
            Math.Max(Math.Abs(u.Dot(squareU) - v.Dot(squareV)), Math.Abs(u.Dot(squareV))),
            Math.Max(Math.Abs(a.Dot(squareU)), Math.Abs(a.Dot(squareV))));
        if (!(off <= 1e-13 * Math.Max(along, across)))
        {
            return null;
        }

        // Of an even parent without the rounding of an inverse.
        var inside = Math.Abs(along - across) <= 1e-13 * across ? (basis.Transposed() * axis).Unit() : a;
        return basis.Determinant < 0 ? -inside : inside;
    }

    Quantity IDragged.Quantity => Quantity.Angle;

    bool IDragged.TurnsStored => true;

    bool IDragged.ChildrenStay => Children == ChildrenMode.Stay;

    Edit IDragged.With(Pull pull) => pull.Turn is var (by, axis, space)
        ? this with { By = by, Axis = axis, Space = space ?? Space }
        : this with { By = pull.Amount.X };

    Vec3 IDragged.Along(double value, IReadOnlyList<bool> axes) => new(value, 0, 0);

    Edit IDragged.Towards(SceneDraft draft, double value, IReadOnlyList<double?> values, AmountMode mode)
    {
        if (About is not AboutOwn || Nodes.Count == 0 || StoredChannel(draft.Get(Nodes[^1])) is not var (index, sign))
        {
            throw new Refusal(Refusals.NotUnderstood, "Along these axes no single angle is stored. Choose its rotation channels', or type an amount by.");
        }

        var angles = new double?[3];
        angles[index] = mode == AmountMode.Set ? value * sign : value;
        return new SetChannel(Nodes, ChannelName.Rotation, angles, mode);
    }

    Vec3 IDragged.GridFrom(SceneDraft draft, Node lead, Vec3 inSpace) =>
        new(StoredChannel(lead) is var (index, sign) ? lead.Placement.Rotation[index] * sign : 0, 0, 0);

    string IDragged.Amount(Speaker say) => say.Degrees(By);

    Edit? IDragged.Usual => this with { By = 15 };

    /// <summary>The rotation channel that a turn about an axis changes by itself, and whether it counts the same way round.</summary>
    private (int Index, int Sign)? StoredChannel(Node node)
    {
        var channels = Euler.Channels(node.Placement.Rotation, node.Placement.Order);
        Vec3 inParent;
        switch (Space)
        {
            case ChannelsSpace:
                var index = Enumerable.Range(0, 3).FirstOrDefault(i => Axis == Vec3.Axis(i), -1);
                return index < 0 ? null : (index, 1);
            case OwnSpace:
                inParent = node.Placement.R * Axis.Unit();
                break;
            case ParentSpace:
                inParent = Axis.Unit();
                break;
            case WorldSpace when node.Parent is null:
                inParent = Axis.Unit();
                break;
            default:
                return null;
        }

        for (var i = 0; i < 3; i++)
        {
            if (channels.Column(i).Cross(inParent).Length < 1e-9)
            {
                return (i, channels.Column(i).Dot(inParent) < 0 ? -1 : 1);
            }
        }

        return null;
    }
}
