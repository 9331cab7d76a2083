using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Puts a camera where a view looks from: its frame's origin at the eye, its −Z along the view. Size and shear of its world
/// matrix stay: with W = Λ·K, Λ the lens axes, W' = T(eye)·R(view)·K, stored by law 2.
/// </summary>
/// <param name="View">The view's world matrix.</param>
public sealed record Steer(string Node, Affine View) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        var node = draft.AsItStands(Targets.One(draft, Node));
        if (!View.IsFinite || !(Math.Abs(View.Linear.Determinant) > 1e-12))
        {
            throw new Refusal(Refusals.NotUnderstood, "A view needs a finite place and three directions.");
        }

        var world = draft.World(node).Linear;
        var stretch = world.LensAxes().Transposed() * world;
        var wanted = new Affine(View.Linear.RotationPart() * stretch, View.Offset);
        var placement = draft.FrameOf(node).Storing(wanted, node.Placement, node.Name);
        placement.Check(node.Name, node.Placement);
        Writer.Write(draft, [node with { Placement = placement }]);
    }

    public override string Say(Speaker say) => $"Steered {say.Name(Node)}";
}
