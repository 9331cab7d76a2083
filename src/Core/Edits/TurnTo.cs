using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Turns nodes toward the pivot of another, or toward a point, once, as <see cref="Aim"/> would: nothing of it lasts. What is left out is proposed as for aiming.
/// </summary>
/// <param name="Axis">The own axis that is to point there.</param>
/// <param name="UpAxis">The own axis that is kept upright.</param>
/// <param name="Up">Where up is; null: along the world's Y.</param>
/// <param name="At">A point in the world, instead of a target.</param>
public sealed record TurnTo(IReadOnlyList<string> Nodes, string? Target = null, string? Axis = null, string? UpAxis = null, Up? Up = null, Vec3? At = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    /// <summary>No id of a scene begins so.</summary>
    private const string Point = "/point";

    private ConstraintPatch Patch => new() { Kind = "aim", Target = At is null ? Target : Point, Axis = Axis, UpAxis = UpAxis, Up = Up };

    internal override IReadOnlyList<string> Edited => [.. Nodes.Where(id => id != Target)];

    public override void ApplyTo(SceneDraft draft)
    {
        if (string.IsNullOrEmpty(Target) == At is null || At is { IsFinite: false })
        {
            throw new Refusal(Refusals.NotUnderstood, "What they are to turn to is not said. Press the target, or a point.");
        }

        // A point is something to aim at for as long as it takes.
        var there = draft;
        if (At is { } point)
        {
            there = new(draft);
            there.Put(Node.Bare(Point, "the point", NodeKind.Group, null, Placement.Default with { Position = point }));
        }

        List<Node> turned = [];
        foreach (var node in Targets.Movers(draft, [.. Nodes.Where(id => id != Target)]))
        {
            var (shown, patch) = (draft.AsItStands(node), Constrain.Asked(node, Patch));
            var made = Constraint.Made(patch);
            ConstraintTargets.Check(there, node, made);
            var frame = draft.FrameOf(node);
            frame.CheckInvertible(node.Name);

            // What rides on it is no direction to turn to: it would go along.
            if (At is null && draft.Get(Target!) is var target && draft.Ancestors(target).Any(a => a.Id == node.Id))
            {
                throw new Refusal(Refusals.WouldLoop, $"“{target.Name}” rides on “{node.Name}”, so it cannot turn to it. Pick another target.");
            }

            var aims = shown with { Constraints = [made] };
            aims = aims with { Constraints = [ConstraintTargets.Proposed(there, aims, 0, patch)] };
            var placement = Standing.Stored(frame, shown, there.World(aims));
            placement.Check(node.Name, node.Placement);
            turned.Add(shown with { Placement = placement });
        }

        Writer.Write(draft, turned);
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Turned {say.Names([.. Nodes.Where(id => id != Target)])} to {(At is null ? say.Name(Target!) : "a point")}"
            + (Axis is null ? "" : $" with {say.Their([.. Nodes.Where(id => id != Target)])} {ConstraintWords.Axis(Axis)}")
            + (Up is null ? "" : $", {ConstraintWords.Upright(Up, say)}");
    }
}
