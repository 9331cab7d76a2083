using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes parameters of a node's shape, or its type. A pivot that stands on one of the 27 points of the bounds stays on it,
/// and the thing stays standing where that point is.
/// </summary>
public sealed record SetShape(string Node, ShapePatch Shape) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        var node = Targets.One(draft, Node);
        if (node.Shape is not { } shape)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” is not made from parameters, so it has none to change.");
        }

        var changed = shape.With(Shape);
        var (before, after) = (Extents.Of(shape).OwnBounds, Extents.Of(changed).OwnBounds);
        Sharing.Put(draft, node, n =>
        {
            var placement = n.Placement;
            if (before != after && Anchors.At(before, placement.Pivot) is { } anchor)
            {
                placement = placement with { Pivot = after.Anchor(anchor) };
                placement.Check(n.Name, n.Placement);
            }

            return n with { Shape = changed, Placement = placement };
        });
    }

    public override string Say(Speaker say) => $"Changed the shape of {say.Name(Node)}: {say.ShapeChange(Shape)}{Kept(say.Scene)}";

    /// <summary>Where it is kept, where its size changes.</summary>
    private string Kept(IScene scene)
    {
        if (scene.Find(Node) is not { Shape: { } shape } node)
        {
            return "";
        }

        try
        {
            var before = Extents.Of(shape).OwnBounds;
            var changes = Extents.Of(shape.With(Shape)).OwnBounds != before;
            return changes && Anchors.At(before, node.Placement.Pivot) is { } anchor ? $", kept at {Speaker.AnchorInWords(anchor)}" : "";
        }
        catch (Refusal)
        {
            // What cannot be done is refused where it is done.
            return "";
        }
    }
}
