using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
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
    ChildrenMode Children = ChildrenMode.Along) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override Edit Of(IReadOnlyList<string> nodes) => this with { Nodes = nodes };

    internal override Edit Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) => this with { About = About.Fixed(draft, nodes) };

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
                OwnSpace => target.Held(target.Placement.Turned(target.Placement.R * axis, By)),
                ParentSpace => target.Held(target.Placement.Turned(axis, By)),
                ChannelsSpace => Channel(target.Placement, ChannelOf(axis)!.Value),
                _ => Rigidly(target, target.Axes * axis),
            };
            return Effect == Effect.Places ? target.Placement with { Position = turned.Position } : turned;
        });
    }

    public override string Say(Speaker say) =>
        $"Rotated {say.Names(Nodes)} {say.Degrees(By)} about {say.Point(About, Nodes)}, {say.Turning(Space, Nodes, Axis)}"
        + say.Places(Effect) + say.Staying(Children);

    private static int? ChannelOf(Vec3 axis) =>
        axis == Vec3.UnitX ? 0 : axis == Vec3.UnitY ? 1 : axis == Vec3.UnitZ ? 2 : null;

    private Placement Channel(Placement placement, int channel) =>
        placement with { Rotation = placement.Rotation.With(channel, placement.Rotation[channel] + By) };

    private Placement Rigidly(Target target, Vec3 axis)
    {
        var (frame, placement) = (target.Frame, target.Placement);
        frame.CheckInvertible(target.Node.Name);
        if (EvenTurn(frame.Basis) is { } toParent)
        {
            return target.Held(placement.Turned((toParent * axis).Unit(), By));
        }

        var parts = Placement.TurnParts(By);
        for (var part = 1; part <= parts; part++)
        {
            var turn = Affine.About(target.Point, Mat3.Rotation(axis, By * part / parts));
            placement = frame.Storing(turn * target.World, placement, target.Node.Name);
        }

        return placement;
    }

    /// <summary>
    /// Where the parent only turns, mirrors and scales evenly, a turn in the world is a turn in it too. Axes of turns are
    /// pseudovectors: a mirror reverses them.
    /// </summary>
    private static Mat3? EvenTurn(Mat3 basis)
    {
        var square = basis.Transposed() * basis;
        var size = square.Trace / 3;
        if (square.Distance(Mat3.Diagonal(new(size, size, size))) > 1e-13 * size)
        {
            return null;
        }

        var back = basis.Transposed();
        return basis.Determinant < 0 ? new Mat3(-back.X, -back.Y, -back.Z) : back;
    }
}
