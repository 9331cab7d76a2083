using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes a camera's angle of view and goes nearer or farther along its own Z, so that a thing keeps its size in the picture:
/// depth' = depth · tan(fov/2) / tan(fov'/2), the depth of the thing's middle measured along the view. Source: model.md, Lights, cameras.
/// <code>
/// new KeepSize("dome-camera", "globe", Fov: 24)   // a longer lens, from farther away
/// new KeepSize("dome-camera", "globe", Depth: 3)  // from three metres; the angle follows
/// </code>
/// </summary>
/// <param name="Fov">The new vertical angle in degrees; or</param>
/// <param name="Depth">how far before the camera the thing is to stand, in metres.</param>
/// <param name="Mode">Whether the number is the new one, or changes the present one.</param>
public sealed record KeepSize(string Node, string Of, double? Fov = null, double? Depth = null, AmountMode Mode = AmountMode.Set) : Edit
{
    public override IReadOnlyList<string> Picked => [Node];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var node = draft.AsItStands(Targets.One(draft, Node));
        var lens = node.Camera ?? throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” is no camera. Pick one.");
        var thing = draft.Get(Of);
        if (lens.Projection == Projection.Parallel)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” sees in parallel: from any distance “{thing.Name}” has the same size. Change its height, or make it a camera in perspective.");
        }

        if (thing.Id == node.Id || draft.Ancestors(thing).Any(a => a.Id == node.Id))
        {
            throw new Refusal(Refusals.WouldLoop, $"“{thing.Name}” goes along with “{node.Name}”, so going nearer changes nothing. Choose another thing.");
        }

        var world = draft.World(node);
        var view = SeenThrough.Of(lens, world).View;
        var depth = SeenThrough.DepthOf(draft, view, thing);
        if (!(depth > 0))
        {
            throw new Refusal(Refusals.NotUnderstood, $"The middle of “{thing.Name}” is not before “{node.Name}”. Turn to it first.");
        }

        var (fov, wanted) = New(lens.Fov, depth);
        lens = (lens with { Fov = fov }).Checked(node.Name);
        if (!(wanted >= (lens.Near ?? 1e-6)))
        {
            var say = new Speaker(draft);
            throw new Refusal(Refusals.NotUnderstood, $"“{thing.Name}” would be {say.Length(wanted)} before “{node.Name}”, nearer than its near plane at {say.Length(lens.Near ?? 1e-6)}. Take a smaller angle, or a nearer plane.");
        }

        var back = view.Linear.Z;
        var placement = draft.FrameOf(node).Standing(node.Placement, world.Point(node.Placement.Pivot) + back * (wanted - depth), node.Name);
        placement.Check(node.Name, node.Placement);
        Writer.Write(draft, [node with { Placement = placement }]);
        draft.Put(draft.Get(Node) with { Camera = lens });
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var what = EditWords.Changed("angle of view", Fov, Mode, say.Angle) ?? EditWords.Changed($"distance to {say.Name(Of)}", Depth, Mode, say.Length);
        return $"Changed the lens of {say.Name(Node)}: {what}; {say.Name(Of)} kept its size";
    }

    private (double Fov, double Depth) New(double fov, double depth)
    {
        var slope = Math.Tan(fov * (Math.PI / 360));
        if (Fov is { } angle && Depth is null)
        {
            var wide = new Amount(Mode, angle).ApplyTo(fov);
            return wide is > 0 and < 180 ? (wide, depth * slope / Math.Tan(wide * (Math.PI / 360))) : (wide, depth);
        }

        if (Depth is { } away && Fov is null)
        {
            var there = new Amount(Mode, away).ApplyTo(depth);
            return there > 0 && double.IsFinite(there)
                ? (Math.Atan(slope * depth / there) * (360 / Math.PI), there)
                : throw new Refusal(Refusals.NotUnderstood, "A distance to keep a size from is more than nothing.");
        }

        throw new Refusal(Refusals.NotUnderstood, "Say the new angle, or the new distance: one of the two; the other follows.");
    }
}
