using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>What a constraint looks like on the stage as things stand: its thread to the target, its axis, hinge and up direction. All in the world.</summary>
/// <param name="By">What it goes by; null: nothing.</param>
/// <param name="At">The pivot of the node.</param>
/// <param name="Target">The point that it goes by; null: none.</param>
/// <param name="Axis">The own axis that aims, faces or turns to the normal, "+y", with the direction in which it points now.</param>
/// <param name="Pulls">Whether it does anything.</param>
/// <param name="Warns">Whether it warns of something.</param>
public sealed record LinkThread(string Node, string Link, string Kind, string? By, Vec3 At, Vec3? Target, string? Axis, Vec3? Points, HingeArc? Hinge, Vec3? Up, bool Pulls, bool Warns)
{
    /// <summary>The threads of all entries of a node, in their order.</summary>
    public static IReadOnlyList<LinkThread> Of(SceneDraft draft, Node node)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        if (node.Constraints.IsEmpty)
        {
            return [];
        }

        var (at, axes, warnings) = (draft.PivotOf(node), OwnSpace.Of(draft, node), draft.Warnings(node));
        var pointers = node.Pointers(draft.World(node).Linear);
        return
        [
            .. node.Constraints.Select((entry, i) =>
            {
                Vec3? target = entry.Target is { } id && draft.Find(id) is { } there ? entry.Place is { } place ? draft.World(there).Point(place) : draft.PivotOf(there) : null;
                var axis = entry.Points;
                return new LinkThread(
                    node.Id,
                    entry.Id,
                    entry.Kind,
                    entry.Target,
                    at,
                    target,
                    axis?.ToString(),
                    axis is { } own ? (entry.LooksFromPivot ? pointers : axes) * own.Vector : null,
                    entry is Swivel swivel ? HingeArc.Of(draft, node, i, swivel) : null,
                    entry is Aim aim ? Upward(draft, node, aim, at) : null,
                    entry.Pulls,
                    warnings[i].Warning is not (LinkWarning.None or LinkWarning.Stops));
            }),
        ];
    }

    private static Vec3? Upward(SceneDraft draft, Node node, Aim aim, Vec3 at) => aim.Up switch
    {
        { World: { } axis } => axis.Vector,
        { Parent: { } axis } => draft.FrameOf(node).Basis.RotationPart() * axis.Vector,
        { Toward: { } id } when draft.Find(id) is { } toward && ((aim.Up.Point is { } place ? draft.World(toward).Point(place) : draft.PivotOf(toward)) - at) is { Length: > 1e-9 } way => way.Unit(),
        _ => null,
    };
}

/// <summary>The hinge of a swivel in the world, as it stands before it: V·E_P·hinge, V what the entries before have turned.</summary>
/// <param name="Axis">Along the hinge.</param>
/// <param name="Zero">From where its angles count, at right angles to the hinge.</param>
/// <param name="From">Degrees; null: no limit.</param>
/// <param name="Now">The angle at which it faces now.</param>
public sealed record HingeArc(Vec3 Axis, Vec3 Zero, double? From, double? To, double Now)
{
    public static HingeArc Of(SceneDraft draft, Node node, int index, Swivel swivel)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        ArgumentNullException.ThrowIfNull(swivel);
        var turned = node.Placement.OwnAxes(draft.World(node, index).Linear) * node.Placement.OwnAxes(draft.Placed(node).Linear).Transposed();
        var into = turned * draft.FrameOf(node).Basis.RotationPart();
        var hinge = into * swivel.Hinge;
        var zero = into * swivel.Zero;
        zero -= hinge * zero.Dot(hinge);
        zero = zero.Length > 1e-9 ? zero.Unit() : Swivel.Across(hinge);
        var arc = new HingeArc(hinge, zero, swivel.From, swivel.To, 0);
        return arc with { Now = arc.Angle(node.Pointers(draft.World(node, index + 1).Linear) * swivel.Facing.Vector) };
    }

    /// <summary>The angle about the hinge from zero to a direction; degrees.</summary>
    public double Angle(Vec3 way) => Degrees.Atan2(Axis.Dot(Zero.Cross(way)), Zero.Dot(way));

    /// <summary>The angle at which a ray meets the plane of the arc.</summary>
    /// <param name="centre">The pivot.</param>
    /// <param name="near">Of the angles that are whole turns apart, the one nearest to this.</param>
    /// <returns>Null: it runs along the plane, or meets it at the pivot.</returns>
    public double? Met(Vec3 centre, Vec3 origin, Vec3 direction, double near)
    {
        var along = Axis.Dot(direction);
        if (Math.Abs(along) < 1e-9 * direction.Length)
        {
            return null;
        }

        var way = origin + direction * (Axis.Dot(centre - origin) / along) - centre;
        return way.IsFinite && way.Length > 1e-12 ? near + Math.IEEERemainder(Angle(way) - near, 360) : null;
    }
}
