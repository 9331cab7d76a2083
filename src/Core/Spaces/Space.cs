using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// Whose axes an edit runs along. A space yields three unit axes in world coordinates, orthonormal and right-handed.
/// <code>
/// var axes = new OwnSpace().Axes(draft, node, lead: node); // columns: x, y, z in the world
/// </code>
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(WorldSpace), "world")]
[JsonDerivedType(typeof(ParentSpace), "parent")]
[JsonDerivedType(typeof(OwnSpace), "own")]
[JsonDerivedType(typeof(LeadSpace), "lead")]
[JsonDerivedType(typeof(ViewSpace), "view")]
[JsonDerivedType(typeof(SurfaceSpace), "surface")]
[JsonDerivedType(typeof(ChannelsSpace), "channels")]
[JsonDerivedType(typeof(MarkSpace), "mark")]
public abstract record Space
{
    /// <summary>True where each picked node has axes of its own.</summary>
    [JsonIgnore]
    public virtual bool PerNode => false;

    /// <summary>The axes as the columns of a matrix.</summary>
    /// <param name="lead">The last picked node.</param>
    public abstract Mat3 Axes(SceneDraft draft, Node node, Node lead);

    /// <summary>Where the grid of the space begins, in the world.</summary>
    public virtual Vec3 Origin(SceneDraft draft, Node node) => Vec3.Zero;
}

/// <summary>The world's axes.</summary>
public sealed record WorldSpace : Space
{
    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => Mat3.Identity;
}

/// <summary>The rotation part of what the node takes of its parent; without a parent, the world's axes.</summary>
public sealed record ParentSpace : Space
{
    [JsonIgnore]
    public override bool PerNode => true;

    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => draft.FrameOf(node).Basis.RotationPart();

    public override Vec3 Origin(SceneDraft draft, Node node) => draft.FrameOf(node).Place.Offset;
}

/// <summary>The rotation part of P·R: the node's own scale signs never turn its needles.</summary>
public sealed record OwnSpace : Space
{
    [JsonIgnore]
    public override bool PerNode => true;

    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => Of(draft, node);

    /// <summary>The own axes of a node where it stands: model.md, Constraints, Own axes.</summary>
    public static Mat3 Of(SceneDraft draft, Node node) => node.Placement.OwnAxes(draft.World(node).Linear);
}

/// <summary>The lead's own axes, for every picked node.</summary>
public sealed record LeadSpace : Space
{
    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => OwnSpace.Of(draft, lead);
}

/// <summary>Right, up and toward the eye of the view in which the edit is made.</summary>
/// <param name="World">The view's world matrix.</param>
public sealed record ViewSpace(Affine World) : Space
{
    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => World.Linear.RotationPart();
}

/// <summary>y along a surface's normal; x the given direction, else the node's own x (or z where that is too short) laid onto the surface.</summary>
public sealed record SurfaceSpace(Vec3 Y, Vec3? X = null) : Space
{
    /// <summary>A mean normal or a projection shorter than this has no direction worth the name.</summary>
    public const double Least = 1e-6;

    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => Laid(OwnSpace.Of(draft, node));

    /// <summary>The axes, with x laid onto the surface from the given direction, else from the node's own axes.</summary>
    public Mat3 Laid(Mat3 own)
    {
        if (Y.Length < Least)
        {
            throw new Refusal(Refusals.NotUnderstood, "The faces point against each other, so there is no common direction. Pick faces that look the same way.");
        }

        var y = Y.Unit();
        Vec3 Onto(Vec3 v) => v - y * y.Dot(v);
        var x = X is { } given ? Onto(given) : Onto(own.X);
        x = x.Length < Least ? Onto(own.X) : x;
        x = (x.Length < Least ? Onto(own.Z) : x).Unit();
        return new(x, y, x.Cross(y));
    }
}
