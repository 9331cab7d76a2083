using System.Text.Json.Serialization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// The point that an edit works about.
/// <code>
/// var centre = new AboutBounds().Centre(draft, movers, lead); // null: each about its own pivot
/// </code>
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(AboutOwn), "own")]
[JsonDerivedType(typeof(AboutLead), "lead")]
[JsonDerivedType(typeof(AboutBounds), "bounds")]
[JsonDerivedType(typeof(AboutMean), "mean")]
[JsonDerivedType(typeof(AboutZero), "zero")]
[JsonDerivedType(typeof(AboutPoint), "point")]
[JsonDerivedType(typeof(AboutMark), "mark")]
public abstract record About
{
    /// <summary>The common point in the world, or null where each node works about its own pivot.</summary>
    public abstract Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead);

    /// <summary>The point itself, where it is one that is worked out of all nodes: copies go about where the originals had it.</summary>
    internal About Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) =>
        this is AboutBounds or AboutMean ? new AboutPoint(Centre(draft, nodes, nodes[^1])!.Value) : this;
}

/// <summary>Each node's own pivot.</summary>
public sealed record AboutOwn : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) => null;
}

/// <summary>The lead's pivot.</summary>
public sealed record AboutLead : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) => draft.PivotOf(lead);
}

/// <summary>The middle of the bounds of all that moves, branches and hidden nodes included, along the world's axes.</summary>
public sealed record AboutBounds : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead)
    {
        if (!draft.KnownCentres.TryGetValue("bounds", out var centre))
        {
            var bounds = Extents.OfBranches(draft, movers);
            centre = bounds.IsEmpty ? new AboutMean().Centre(draft, movers, lead)!.Value : bounds.Middle;
            draft.KnownCentres["bounds"] = centre;
        }

        return centre;
    }
}

/// <summary>The mean of the pivots.</summary>
public sealed record AboutMean : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) =>
        movers.Aggregate(Vec3.Zero, (sum, node) => sum + draft.PivotOf(node)) * (1.0 / movers.Count);
}

/// <summary>World zero.</summary>
public sealed record AboutZero : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) => Vec3.Zero;
}

/// <summary>A point picked in the world.</summary>
public sealed record AboutPoint(Vec3 At) : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) => At;
}

/// <summary>A mark of the scene.</summary>
public sealed record AboutMark(string Mark) : About
{
    public override Vec3? Centre(SceneDraft draft, IReadOnlyList<Node> movers, Node lead) => draft.World(Marks.Get(draft, Mark)).Offset;
}
