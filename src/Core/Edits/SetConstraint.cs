using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes entries of constraints: those of their fields that are given, their switch, their weight, their place in the list. An offset that is not given stays.
/// </summary>
/// <param name="Index">Where the entry goes in the list of its node.</param>
/// <param name="Without">Fields that are taken out: point, from, to, factor, align, low, high.</param>
/// <param name="Kind">Another kind: id, place in the list, switch, weight, target and the axis that faces it stay, all else is proposed anew.</param>
/// <param name="Point">The place on the target that is looked at, in the target's own frame.</param>
/// <param name="At">The same in the world, as the target stands.</param>
public sealed record SetConstraint(
    IReadOnlyList<EntryOf> Of,
    bool? Enabled = null,
    double? Weight = null,
    int? Index = null,
    string? Target = null,
    string? Axis = null,
    string? UpAxis = null,
    Up? Up = null,
    Vec3? Hinge = null,
    Vec3? Zero = null,
    string? Facing = null,
    double? From = null,
    double? To = null,
    string? Axes = null,
    string? Frame = null,
    double[]? Offset = null,
    double? Factor = null,
    double?[]? Low = null,
    double?[]? High = null,
    string? How = null,
    Vec3? Along = null,
    string? Align = null,
    string[]? Without = null,
    string? Kind = null,
    Vec3? Point = null,
    Vec3? At = null) : Edit
{
    public override IReadOnlyList<string> Picked => [.. Of.Select(o => o.Node).Distinct()];

    private ConstraintPatch Patch => new()
    {
        Enabled = Enabled,
        Weight = Weight,
        Target = Target,
        Point = Point,
        Axis = Axis,
        UpAxis = UpAxis,
        Up = Up,
        Hinge = Hinge,
        Zero = Zero,
        Facing = Facing,
        From = From,
        To = To,
        Axes = Axes,
        Frame = Frame,
        Offset = Offset,
        Factor = Factor,
        Low = Low,
        High = High,
        How = How,
        Along = Along,
        Align = Align,
        Without = Without,
    };

    public override void ApplyTo(SceneDraft draft)
    {
        Targets.CheckPicked(Picked);
        foreach (var (id, entry) in Of)
        {
            var node = Targets.One(draft, id);
            var at = ConstraintTargets.IndexOf(node, entry ?? throw new Refusal(Refusals.NotUnderstood, "Say which constraint of the object: its id."));
            var present = node.Constraints[at];
            var given = At is { } place ? Patch with { Point = Placed(draft, Target ?? present.Target, place) } : Patch;
            var anew = Kind is not null && Kind != present.Kind;
            given = anew ? Constrain.Asked(node, present.Turned(given with { Kind = Kind })) : given;
            var changed = anew ? Constraint.Made(given) : present.With(given);
            ConstraintTargets.Check(draft, node, changed);
            var list = node.Constraints.RemoveAt(at);
            var index = Math.Clamp(Index ?? at, 0, list.Length);
            var tied = node with { Constraints = list.Insert(index, changed) };
            draft.Put(tied);
            if (Edges.Loop(draft, id) is { } loop)
            {
                throw loop;
            }

            if (anew)
            {
                draft.Put(tied with { Constraints = tied.Constraints.SetItem(index, ConstraintTargets.Proposed(draft, tied, index, given)) });
            }
        }
    }

    /// <summary>A place of the world in the frame of the target as it stands.</summary>
    private static Vec3 Placed(SceneDraft draft, string? target, Vec3 place)
    {
        if (target is null || !place.IsFinite)
        {
            throw new Refusal(Refusals.NotUnderstood, "A place to look at is one on the target. Press the target.");
        }

        var there = draft.Get(target);
        var world = draft.World(there);
        return Triangular.Condition(world.Linear) < 1e12
            ? world.Inverse().Point(place)
            : throw new Refusal(Refusals.TooThin, $"“{there.Name}” is too thin to have places of its own. Give it a larger scale first.");
    }

    public override string? Foretell(IScene scene) => Jumps.Said(scene, this, Picked);

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var entry = Of.Count > 0 ? say.Scene.Find(Of[^1].Node)?.Constraints.FirstOrDefault(c => c.Id == Of[^1].Id) : null;
        return $"{say.Names(Picked)}: {(entry is null ? "nothing" : ConstraintWords.Title(entry, say))} {string.Join(", ", Changes(say, entry))}";
    }

    private List<string> Changes(Speaker say, Constraint? present)
    {
        List<string> parts = [];
        void Add(bool given, string what)
        {
            if (given)
            {
                parts.Add(what);
            }
        }

        Add(Kind is not null, $"now {ConstraintWords.Kind(Kind ?? "")}");
        Add(Enabled == true, "on");
        Add(Enabled == false, "off");
        Add(Weight is not null, $"weight {Unit.Figure((Weight ?? 0) * 100, 1)} %");
        if (Index is { } index && Of.Count > 0)
        {
            List<Constraint> others = [.. (say.Scene.Find(Of[^1].Node)?.Constraints ?? []).Where(c => c.Id != present?.Id)];
            parts.Add(SetShot.PlaceIn([.. others.Select(c => c.Id)], index, id => ConstraintWords.Title(others.First(c => c.Id == id), say)));
        }

        var placed = Point is not null || At is not null;
        Add(Target is not null && !placed, $"target {(Target is null ? "" : say.Name(Target))}");
        Add(placed, Target is null || Target == present?.Target ? "at a place on it" : $"now at a place on {say.Name(Target)}");
        Add(Axis is not null, $"with its {ConstraintWords.Axis(Axis)}");
        Add(UpAxis is not null, $"kept upright by its {ConstraintWords.Axis(UpAxis)}");
        Add(Up is not null, ConstraintWords.Upright(Up ?? Up.Least, say));
        Add(Hinge is not null, "another hinge");
        Add(Zero is not null, "another zero");
        Add(Facing is not null, $"facing with its {ConstraintWords.Axis(Facing)}");
        Add(From is not null, $"from {say.Angle(From ?? 0)}");
        Add(To is not null, $"to {say.Angle(To ?? 0)}");
        Add(Axes is not null, $"along {Axes?.ToUpperInvariant()}");
        Add(Frame is not null, Frame == "parent" ? "in its parent's frame" : "in the world");
        Add(Offset is not null, "another offset");
        Add(Factor is not null, $"× {Unit.Figure(Factor ?? 0, 4)}");
        Add(Low is not null || High is not null, "other limits");
        Add(How is not null, How == "along" ? "along a direction" : "at the nearest point");
        Add(Along is not null, "another direction");
        Add(Align is not null, $"its {ConstraintWords.Axis(Align)} to the normal");
        parts.AddRange((Without ?? []).Select(w => w == "point" ? "at the pivot of its target" : $"without {w}"));
        return parts.Count == 0 ? ["as it was"] : parts;
    }
}
