using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Sets a mount up in one go: the base pans about its own axis that points up, the others ride on it and tip about their own axes across, so
/// that they face a target. What swivelled or aimed these parts before makes room.
/// <code>
/// new PanAndTilt("plate", ["barrel"], "moon") // "Set up pan and tilt: Plate turns and Barrel tips to Moon"
/// </code>
/// </summary>
/// <param name="Facing">The own axis that the tipping parts face with; null: each as <see cref="Facings"/> finds, else the nearest to the target.</param>
/// <param name="Mend">Puts the pivot of the base on the line through its middle first, so that it turns in place.</param>
public sealed record PanAndTilt(string Base, IReadOnlyList<string> Tips, string Target, string? Facing = null, bool Mend = false) : Edit
{
    /// <summary>Beyond this many degrees a part that tips is said to face past the target.</summary>
    private const double MostOff = 0.5;

    public override IReadOnlyList<string> Picked => [.. Tips, Base];

    public override void ApplyTo(SceneDraft draft)
    {
        string[] others = [.. Tips.Where(id => id != Base)];
        if (others.Length == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "Pan and tilt needs a base that turns and a part that tips. Pick the parts, and the base last.");
        }

        if (Target is null or "")
        {
            throw new Refusal(Refusals.NotUnderstood, "What the parts are to face is not said. Press the target.");
        }

        var mount = Targets.One(draft, Base);
        var tips = Targets.Movers(draft, others);
        foreach (var part in tips.Append(mount))
        {
            draft.FrameOf(part).CheckInvertible(part.Name);
            draft.Put(draft.Get(part.Id) with { Constraints = part.Constraints.RemoveAll(c => MakesRoom(part, c)) });
        }

        if (Mend && Off(draft, draft.Get(Base)) is var off && off.Length > 0)
        {
            new MovePivot([Base], Shift: new(off, new WorldSpace())).ApplyTo(draft);
        }

        var faces = tips.ToDictionary(t => t.Id, t => FacingOf(draft, t));
        foreach (var tip in tips.Where(t => !Rides(draft, t)))
        {
            new Constrain([tip.Id], new() { Kind = "rideOn", Target = Base }).ApplyTo(draft);
        }

        // The base turns as its tips face; what across is for them is so as it rides along.
        mount = draft.Get(Base);
        var axes = OwnSpace.Of(draft, mount);
        var hinge = SignedAxis.Nearest(axes, Vec3.UnitY);
        var up = axes * hinge.Vector;
        var ahead = Facings.Less(OwnSpace.Of(draft, draft.Get(tips[0].Id)) * faces[tips[0].Id].Vector, up);
        if (ahead.Length < 0.1)
        {
            ahead = Facings.Less(draft.PivotOf(draft.Get(Target)) - draft.PivotOf(mount), up);
        }

        var facing = SignedAxis.Nearest(axes, ahead, hinge.Index);
        var across = hinge.Vector.Cross(facing.Vector);
        new Constrain([Base], Facings.Swivel(draft, mount, Target, hinge, facing)).ApplyTo(draft);
        foreach (var id in tips.Select(t => t.Id))
        {
            var tip = draft.Get(id);
            var own = OwnSpace.Of(draft, tip);
            var tilt = SignedAxis.Nearest(own, OwnSpace.Of(draft, draft.Get(Base)) * across, faces[id].Index);
            new Constrain([id], Facings.Swivel(draft, tip, Target, tilt, faces[id])).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Set up pan and tilt: {say.Name(Base)} turns and {say.Names([.. Tips.Where(id => id != Base)])} {(Tips.Count(id => id != Base) == 1 ? "tips" : "tip")} to {say.Name(Target)}"
            + (Mend ? ", its pivot mended" : "");
    }

    /// <summary>What jumps, what makes room, whether the base turns about its middle, and which part faces past the target.</summary>
    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (draft, say) = (new SceneDraft(scene), new Speaker(scene));
        List<string> parts = [];
        try
        {
            var before = new SceneDraft(scene);
            if (!Mend && Off(before, before.Get(Base)) is var off && off.Length > 0)
            {
                parts.Add($"The pivot of {say.Name(Base)} lies {say.Length(off.Length)} from its middle, so it would not turn in place. Mend it?");
            }

            ApplyTo(draft);
            if (Picked.Distinct().Any(id => scene.Find(id) is { } node && node.Constraints.Any(c => MakesRoom(node, c))))
            {
                parts.Add("What aimed or swivelled them before makes room.");
            }

            parts.AddRange(PastTarget(draft, say));
        }
        catch (Refusal)
        {
            return null;
        }

        var jumps = Jumps.Of(scene, draft, Picked);
        parts.AddRange(jumps.Count == 0 ? [] : [ConstraintWords.Jumps(jumps, say)]);
        return parts.Count == 0 ? null : string.Join(" ", parts);
    }

    /// <summary>
    /// From the pivot to the line through the middle of the base along its hinge, in the world; zero where it is near enough. What tips does not
    /// count for its middle, nor what has no extent.
    /// </summary>
    private Vec3 Off(SceneDraft draft, Node mount)
    {
        var own = Extents.GeometryOf(draft, mount) is { } geometry
            ? geometry.Extent(draft.World(mount))
            : Extents.OfBranch(draft, mount, Affine.Identity, [.. Tips]);
        if (own.IsEmpty)
        {
            return Vec3.Zero;
        }

        var axes = OwnSpace.Of(draft, mount);
        var way = Facings.Less(own.Middle - draft.PivotOf(mount), axes * SignedAxis.Nearest(axes, Vec3.UnitY).Vector);
        return way.Length > 0.01 * own.Size.Length ? way : Vec3.Zero;
    }

    private bool MakesRoom(Node part, Constraint entry) => entry is Aim or Swivel || (part.Id == Base && entry.Names.Any(Tips.Contains));

    private SignedAxis FacingOf(SceneDraft draft, Node tip) =>
        Facing is not null ? SignedAxis.Parse("facing", Facing)
        : Facings.Of(draft, tip) ?? SignedAxis.Nearest(OwnSpace.Of(draft, tip), draft.PivotOf(draft.Get(Target)) - draft.PivotOf(tip));

    /// <summary>Whether a part goes with the base already.</summary>
    private bool Rides(SceneDraft draft, Node tip) =>
        draft.Ancestors(tip).Any(a => a.Id == Base) || draft.Get(tip.Id).Constraints.Any(c => c is RideOn && c.Target == Base);

    private IEnumerable<string> PastTarget(SceneDraft draft, Speaker say)
    {
        foreach (var tip in Tips.Where(id => id != Base).Select(draft.Find).OfType<Node>())
        {
            if (tip.Constraints.LastOrDefault() is Swivel swivel && swivel.At == Target)
            {
                var way = draft.PivotOf(draft.Get(Target)) - draft.PivotOf(tip);
                var faces = OwnSpace.Of(draft, tip) * swivel.Facing.Vector;
                var off = Degrees.Atan2(faces.Cross(way).Length, faces.Dot(way));
                if (off > MostOff)
                {
                    yield return $"The {ConstraintWords.Axis(swivel.Facing)} of {say.Name(tip.Id)} would point {say.Angle(Math.Round(off, 1))} past it: its axes stand askew to those of {say.Name(Base)}, or it stands aside.";
                }
            }
        }
    }
}
