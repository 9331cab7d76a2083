using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Levels the horizon of cameras: they turn about where they look, so that their X lies level and their Y looks up. With z the direction away from what is
/// seen: x = unit(Y × z), y = z × x.
/// </summary>
public sealed record Level(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            var world = draft.World(draft.AsItStands(node));
            var back = world.Linear.LensAxes().Z;
            var across = Vec3.UnitY.Cross(back);
            if (across.Length < 1e-6)
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” looks straight {(back.Y > 0 ? "down" : "up")}, where there is no horizon. Tilt it first.");
            }

            across *= 1 / across.Length;
            new Steer(node.Id, new(new(across, back.Cross(across), back), world.Offset)).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Levelled the horizon of {say.Names(Nodes)}";
    }
}
