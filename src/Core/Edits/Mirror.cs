using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Whether a mirrored node becomes a true mirror image, or only goes where its image would stand and heads where that heads.</summary>
[JsonConverter(typeof(CamelCase<MirrorHow>))]
public enum MirrorHow
{
    Mirror,
    Turn,
}

/// <summary>
/// Mirrors nodes across the plane through a point, at right angles to an axis of a space: W' = T(c)·F·T(−c)·W with
/// F = I − 2·a·aᵀ. <c>turn</c> changes position and rotation alone: of the node's own axes, mirrored by F, the one that
/// lies closest to the mirror's axis is turned back, so that the geometry is not turned inside out.
/// </summary>
public sealed record Mirror(
    IReadOnlyList<string> Nodes,
    [property: JsonConverter(typeof(AxisConverter))] Vec3 Axis,
    Space Space,
    About About,
    MirrorHow How = MirrorHow.Mirror) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    internal override Edit Instead(IReadOnlyList<string> nodes) => this with { Nodes = nodes };

    internal override Edit Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) => this with { About = About.Fixed(draft, nodes) };

    public override void ApplyTo(SceneDraft draft)
    {
        if (!Axis.IsFinite || Axis.Length < 1e-12)
        {
            throw new Refusal(Refusals.NotUnderstood, "A mirror needs an axis with a direction.");
        }

        if (Space is ChannelsSpace)
        {
            throw ChannelsSpace.OnlyForTurning();
        }

        var targets = Targets.Of(draft, Nodes, Space, About, ChildrenMode.Along);
        Targets.Place(draft, targets, ChildrenMode.Along, target =>
        {
            var axis = (target.Axes * Axis).Unit();
            var flip = Flip(axis);
            var across = Affine.About(target.Point, flip);
            if (How == MirrorHow.Mirror && target.Node.Kind != NodeKind.Mark)
            {
                return target.Frame.Storing(across * target.World, target.Placement, target.Node.Name);
            }

            target.Frame.CheckInvertible(target.Node.Name);
            var own = OwnSpace.Of(draft, target.Node);
            var heading = flip * own;
            var back = Enumerable.Range(0, 3).MaxBy(i => Math.Round(Math.Abs(own.Column(i).Dot(axis)), 9));
            var wanted = heading.WithColumn(back, -heading.Column(back));
            return target.Frame.Heading(target.Placement, wanted) with
            {
                Position = target.Frame.Place.Inverse().Point(across.Point(target.Frame.Place.Point(target.Placement.Position))),
            };
        });
    }

    public override IReadOnlyList<string> Elsewhere(IScene scene, bool done) => MadeOtherwise.InWords(
        scene, this, new(scene), several => $"{(done ? several ? "were" : "was" : several ? "are" : "is")} not mirrored as here, where {(several ? "they, or what carries them, stand" : "it, or what carries it, stands")} otherwise");

    public override string Say(Speaker say) => say.Did(Manner(say)!.Value, Nodes);

    internal override (string Did, string How)? Manner(Speaker say) => (
        "Mirrored",
        $"about {say.Point(About, Nodes)}, across {say.Axes(Space, Nodes, Axis)}" + (How == MirrorHow.Turn ? ", position and heading only" : ""));

    private static Mat3 Flip(Vec3 a) => new(
        Vec3.UnitX - a * (2 * a.X),
        Vec3.UnitY - a * (2 * a.Y),
        Vec3.UnitZ - a * (2 * a.Z));
}
