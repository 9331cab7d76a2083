using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Turns nodes toward the pivot of another, once, as <see cref="Aim"/> would: nothing of it lasts. What is left out is proposed as for aiming.
/// </summary>
/// <param name="Axis">The own axis that is to point there.</param>
/// <param name="UpAxis">The own axis that is kept upright.</param>
/// <param name="Up">Where up is; null: along the world's Y.</param>
public sealed record TurnTo(IReadOnlyList<string> Nodes, string Target, string? Axis = null, string? UpAxis = null, Up? Up = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    private ConstraintPatch Patch => new() { Kind = "aim", Target = Target, Axis = Axis, UpAxis = UpAxis, Up = Up };

    public override void ApplyTo(SceneDraft draft)
    {
        if (Target is null or "")
        {
            throw new Refusal(Refusals.NotUnderstood, "What they are to turn to is not said. Press the target.");
        }

        List<Node> turned = [];
        foreach (var node in Targets.Movers(draft, [.. Nodes.Where(id => id != Target)]))
        {
            var (shown, patch) = (draft.AsItStands(node), Constrain.Asked(node, Patch));
            var made = Constraint.Made(patch);
            ConstraintTargets.Check(draft, node, made);
            var frame = draft.FrameOf(node);
            frame.CheckInvertible(node.Name);

            // What rides on it is no direction to turn to: it would go along.
            if (draft.Get(Target) is var there && draft.Ancestors(there).Any(a => a.Id == node.Id))
            {
                throw new Refusal(Refusals.WouldLoop, $"“{there.Name}” rides on “{node.Name}”, so it cannot turn to it. Pick another target.");
            }

            var aims = shown with { Constraints = [made] };
            aims = aims with { Constraints = [ConstraintTargets.Proposed(draft, aims, 0, patch)] };
            var placement = Standing.Stored(frame, shown, draft.World(aims));
            placement.Check(node.Name, node.Placement);
            turned.Add(shown with { Placement = placement });
        }

        Writer.Write(draft, turned);
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Turned {say.Names([.. Nodes.Where(id => id != Target)])} to {say.Name(Target)}"
            + (Axis is null ? "" : $" with {(Nodes.Count == 1 ? "its" : "their")} {ConstraintWords.Axis(Axis)}")
            + (Up is null ? "" : $", {ConstraintWords.Upright(Up, say)}");
    }
}
