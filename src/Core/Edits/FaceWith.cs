using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Turns the pivot's directions of a node so that one of its own axes points along a direction, such as out of a face of it; nothing else moves. For aiming
/// with that face.
/// </summary>
/// <param name="Along">A direction in the world.</param>
public sealed record FaceWith(string Node, string Axis, Vec3 Along) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        var axis = SignedAxis.Parse("axis", Axis);
        if (!Along.IsFinite || !(Along.Length is > 1e-9 and < 1e15))
        {
            throw new Refusal(Refusals.NotUnderstood, "The face needs a direction. Press one.");
        }

        var node = Targets.One(draft, Node);
        var (own, to) = (OwnSpace.Of(draft, node), Along.Unit());
        var from = own * axis.Vector;
        var about = from.Cross(to);

        // Opposite: half a turn about another own axis.
        var turn = about.Length > 1e-9 ? about.Unit() : own.Column((axis.Index + 1) % 3);
        var angle = Degrees.Atan2(about.Length, from.Dot(to));
        if (angle > 1e-9)
        {
            new MovePivot([Node], Spin: new(angle, turn, new WorldSpace())).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Turned the pivot of {say.Name(Node)} so that its {ConstraintWords.Axis(Axis)} points out of the pressed face";
    }
}
