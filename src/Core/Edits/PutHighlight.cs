using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Puts lamps where their light is mirrored into the eye at a pressed point: with v the way to the eye and n the normal there, turned to v, along
/// r = 2(n·v)n − v, as far from the point as they stood, shining at it. One that shines from far away only turns. Source: model.md, Highlight.
/// <code>
/// new PutHighlight(["desk-lamp"], At: pressed, Normal: face, Eye: camera)
/// </code>
/// </summary>
/// <param name="At">The point, in the world.</param>
/// <param name="Normal">The shown normal there; of any length, to either side.</param>
/// <param name="Eye">Where it is looked from, in the world; null: in parallel, along</param>
/// <param name="View">the way to the eye.</param>
public sealed record PutHighlight(IReadOnlyList<string> Nodes, Vec3 At, Vec3 Normal, Vec3? Eye = null, Vec3? View = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var lamps = Targets.Movers(draft, Nodes).Where(n => n.Light is not null).ToList();
        if (lamps.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "None of these is a lamp. Pick one.");
        }

        var toEye = Eye is { } eye ? eye - At : View ?? throw new Refusal(Refusals.NotUnderstood, "From where it is looked at is not said.");
        if (!(toEye.Length > 1e-12 && Normal.Length > 1e-12 && toEye.IsFinite && Normal.IsFinite && At.IsFinite))
        {
            throw new Refusal(Refusals.NotUnderstood, "From here no highlight can be put there. Look at it from another side.");
        }

        var (v, n) = (toEye.Unit(), Normal.Unit());
        n = n.Dot(v) < 0 ? -n : n;
        var mirrored = (n * (2 * n.Dot(v)) - v).Unit();
        List<Node> put = [];
        foreach (var lamp in lamps)
        {
            var (shown, frame) = (draft.AsItStands(lamp), draft.FrameOf(lamp));
            frame.CheckInvertible(lamp.Name);
            var world = draft.World(lamp);
            var away = (world.Offset - At).Length;
            if (!(away > 1e-9) && lamp.Light!.Type != LightType.Directional)
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{lamp.Name}” stands at that very point. Move it away first.");
            }

            var turn = Turns.Shortest(-world.Linear.LensAxes().Z, -mirrored);
            var wanted = new Affine(turn * world.Linear, lamp.Light!.Type == LightType.Directional ? world.Offset : At + mirrored * away);
            var placement = Standing.Stored(frame, shown, wanted);
            placement.Check(lamp.Name, lamp.Placement);
            put.Add(shown with { Placement = placement });
        }

        Writer.Write(draft, put);
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Put the highlight of {say.Names(Nodes)} where it was pressed";
    }
}
