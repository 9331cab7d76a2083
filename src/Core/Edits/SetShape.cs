using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Changes parameters of a node's shape, or its type.</summary>
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
        Linked.Put(draft, node, n => n with { Shape = changed });
    }

    public override string Say(Speaker say) => $"Changed the shape of {say.Name(Node)}: {say.ShapeChange(Shape)}";
}
