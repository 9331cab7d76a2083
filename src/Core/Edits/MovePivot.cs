using System.Text.Json.Serialization;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Along which axes the 27 points of a node's bounds are taken.</summary>
[JsonConverter(typeof(CamelCase<AnchorAxes>))]
public enum AnchorAxes
{
    Own,
    World,
}

/// <summary>Where a pivot goes: one of the 27 points of the node's own bounds, a point of the world, or a point of its own frame.</summary>
/// <param name="Anchor">−1, 0 or 1 along each axis: low, middle, high.</param>
/// <param name="Node">Another node's pivot, or a mark.</param>
/// <param name="Parts">Some coordinates in the own frame; null: that one stays.</param>
public sealed record PivotPlace(
    Vec3? Anchor = null,
    AnchorAxes Of = AnchorAxes.Own,
    Vec3? Point = null,
    Vec3? Own = null,
    string? Node = null,
    IReadOnlyList<double?>? Parts = null);

/// <summary>A way for each pivot along the axes of a space; metres in the world.</summary>
public sealed record PivotShift(Vec3 By, Space Space);

/// <summary>A turn of the pivot's directions about an axis of a space; degrees.</summary>
public sealed record PivotSpin(double By, [property: JsonConverter(typeof(AxisConverter))] Vec3 Axis, Space Space);

/// <summary>
/// Puts the pivot elsewhere and turns its directions. Geometry and children stay (law 1), unless the numbers are to be
/// kept: then the node shifts so that its new pivot stands where the old one stood.
/// </summary>
/// <param name="Turn">The new directions, as stored.</param>
/// <param name="Shift">Moves each pivot from where it is.</param>
/// <param name="Spin">Turns the directions of each from where they are.</param>
/// <param name="TurnParts">Some angles of the directions; null: that one stays.</param>
/// <param name="Mode">Whether <see cref="PivotPlace.Parts"/> and <paramref name="TurnParts"/> set or change what is there.</param>
public sealed record MovePivot(
    IReadOnlyList<string> Nodes,
    PivotPlace? To = null,
    Vec3? Turn = null,
    Keep Keep = Keep.World,
    PivotShift? Shift = null,
    PivotSpin? Spin = null,
    IReadOnlyList<double?>? TurnParts = null,
    AmountMode Mode = AmountMode.Set) : Edit, IDragged
{
    public override IReadOnlyList<string> Picked => Nodes;

    [JsonIgnore]
    internal override Read Reads => Spin is null ? Read.Pivot : Read.PivotTurn;

    public override void ApplyTo(SceneDraft draft)
    {
        Targets.CheckPicked(Nodes);

        var edited = new List<Node>();
        foreach (var node in Nodes.Distinct().Select(id => Targets.One(draft, id)))
        {
            var placement = node.Placement;
            if (To is not null || Shift is not null)
            {
                var pivot = To is not null ? PivotIn(draft, node) : Shifted(draft, node);
                placement = Keep == Keep.World ? draft.FrameOf(node).WithPivot(placement, pivot, node.Name) : placement with { Pivot = pivot };
            }

            if (Directions(draft, node) is var (turn, near))
            {
                if (!turn.IsFinite)
                {
                    throw new Refusal(Refusals.NotFinite, "The pivot's directions need finite angles.");
                }

                placement = Keep == Keep.World ? placement.WithPivotTurn(turn, near) : placement with { PivotTurn = turn };
            }

            placement.Check(node.Name, node.Placement);
            edited.Add(node with { Placement = placement });
        }

        // Constraints look from the pivot, or bring it somewhere.
        var remembered = Writer.Remember(draft, Keep == Keep.World ? edited.Select(n => draft.Get(n.Id)) : []);
        edited.ForEach(draft.Put);
        Writer.Restore(draft, remembered);
    }

    /// <summary>What aims or stays on something looks from its pivot, so that it turns with that.</summary>
    public override string? Foretell(IScene scene) => Jumps.OfConstrained(scene, this, Nodes);

    public override string Say(Speaker say) => (To, Turn) switch
    {
        ({ Parts: { } parts }, _) => $"Put the pivot of {say.Names(Nodes)} {Figures(parts, say.Length)} in its own frame{Kept}",
        ({ } to, _) => $"Put the pivot of {say.Names(Nodes)} at {say.PivotPlace(to)}{Kept}",
        (null, { } turn) => $"Turned the pivot of {say.Names(Nodes)} to {say.Angles(turn)}{Kept}",
        _ when Shift is { } shift => $"Moved the pivot of {say.Names(Nodes)} {say.Lengths(shift.By)} along {say.Axes(shift.Space, Nodes, shift.By)}{Kept}",
        _ when Spin is { } spin => $"Turned the pivot of {say.Names(Nodes)} {say.Degrees(spin.By)} {say.Turning(spin.Space, Nodes, spin.Axis)}{Kept}",
        _ when TurnParts is not null => $"Turned the pivot of {say.Names(Nodes)} {Figures(TurnParts, say.Angle)}{Kept}",
        _ => $"Left the pivot of {say.Names(Nodes)}",
    };

    /// <summary>The given coordinates in words: "to Y 0.5 m".</summary>
    private string Figures(IReadOnlyList<double?> parts, Func<double, string> say) =>
        (Mode == AmountMode.Set ? "to " : "by ")
        + string.Join(", ", parts.Take(3).Select((v, i) => v is { } value ? $"{"XYZ"[i]} {(Mode == AmountMode.Multiply ? "× " + Unit.Figure(value, 4) : say(value))}" : null).OfType<string>());

    private Vec3 Changed(Vec3 present, IReadOnlyList<double?> parts)
    {
        if (parts.Count != 3 || parts.Any(v => v is { } value && !double.IsFinite(value)))
        {
            throw new Refusal(Refusals.NotUnderstood, "A pivot takes three values, for X, Y and Z; each a finite number or nothing.");
        }

        for (var i = 0; i < 3; i++)
        {
            if (parts[i] is { } value)
            {
                present = present.With(i, new Amount(Mode, value).ApplyTo(present[i]));
            }
        }

        return present;
    }

    private string Kept => Keep == Keep.Numbers ? ", numbers kept" : "";

    private Vec3 Shifted(SceneDraft draft, Node node)
    {
        if (!Shift!.By.IsFinite)
        {
            throw new Refusal(Refusals.NotFinite, "A pivot moves by finite lengths.");
        }

        draft.FrameOf(node).CheckInvertible(node.Name);
        var way = Shift.Space.Axes(draft, node, draft.Get(Nodes[^1])) * Shift.By;
        return node.Placement.Pivot + draft.World(node).Linear.Inverse() * way;
    }

    /// <summary>The new directions as angles, and the rotation that is to be stored with them where it is known; null: they stay.</summary>
    private (Vec3 Turn, Mat3? Near)? Directions(SceneDraft draft, Node node) =>
        Turn is { } turn ? (turn, null)
        : TurnParts is { } parts ? (Changed(node.Placement.PivotTurn, parts), null)
        : Spin is { } spin ? node.Constraints.IsEmpty ? Spun(draft, node, spin) : (Spun(draft, draft.AsItStands(node), spin).Turn, null)
        : null;

    /// <summary>
    /// The directions that the own axes are to have give R' as the rotation part of B⁻¹·axes, and Q' as that of L⁻¹·R'·Σ, L = R·H·S·Q⁻¹
    /// and Σ the signs of S: then L·Q' = R'·K with K upper triangular and its diagonal of the signs Σ, so law 2 stores just this R'
    /// and no axis turns round, and law 1 keeps geometry and children where they are.
    /// </summary>
    private (Vec3 Turn, Mat3? Near) Spun(SceneDraft draft, Node node, PivotSpin spin)
    {
        if (!spin.Axis.IsFinite || spin.Axis.Length < 1e-12 || !double.IsFinite(spin.By) || Math.Abs(spin.By) > 1e9)
        {
            throw new Refusal(Refusals.NotUnderstood, "A turn of the pivot needs an axis with a direction and a finite angle.");
        }

        var placement = node.Placement;
        var axis = spin.Space.Axes(draft, node, draft.Get(Nodes[^1])) * spin.Axis.Unit();
        var frame = draft.FrameOf(node);
        frame.CheckInvertible(node.Name);
        var (own, linear, into) = (OwnSpace.Of(draft, node), placement.Basis.Inverse(), frame.Basis.Inverse());
        var signs = Mat3.Diagonal(placement.Signs);
        Mat3 Wanted(double degrees) => (into * (Mat3.Rotation(axis.Unit(), degrees) * own)).RotationPart();
        var turn = Turns.Followed(
            placement.PivotTurn,
            spin.By,
            (degrees, near) => Euler.FromMatrix((linear * (Wanted(degrees) * signs)).RotationPart(), EulerOrder.XYZ, near));
        return (turn, Wanted(spin.By));
    }

    /// <exception cref="Refusal">not-understood: it lies outside the bounds.</exception>
    internal static void CheckAnchor(Vec3 anchor)
    {
        if (!anchor.IsFinite || Math.Max(Math.Abs(anchor.X), Math.Max(Math.Abs(anchor.Y), Math.Abs(anchor.Z))) > 1)
        {
            throw new Refusal(Refusals.NotUnderstood, "An anchor has −1, 0 or 1 along each axis: low, middle, high.");
        }
    }

    private Vec3 PivotIn(SceneDraft draft, Node node)
    {
        if (To!.Own is { } own)
        {
            return own;
        }

        if (To.Parts is { } parts)
        {
            return Changed(node.Placement.Pivot, parts);
        }

        if (To.Node is { } other)
        {
            draft.FrameOf(node).CheckInvertible(node.Name);
            var target = draft.Get(other);
            return draft.World(node).Inverse().Point(draft.PivotOf(target));
        }

        // Where the node itself is too thin, its frame cannot be entered from the world.
        if (To.Point is { } point)
        {
            draft.FrameOf(node).CheckInvertible(node.Name);
            return draft.World(node).Inverse().Point(point);
        }

        var anchor = To.Anchor ?? throw new Refusal(Refusals.NotUnderstood, "Say where the pivot goes: an anchor or a point.");
        CheckAnchor(anchor);
        var world = To.Of == AnchorAxes.World;
        var bounds = world ? Extents.Own(draft, node, Affine.Identity) : Extents.InOwnFrame(draft, node);
        if (bounds.IsEmpty)
        {
            throw new Refusal(
                Refusals.NotUnderstood,
                $"“{node.Name}” has no extent to put its pivot on. Give a point instead.");
        }

        return world ? draft.World(node).Inverse().Point(bounds.Anchor(anchor)) : bounds.Anchor(anchor);
    }

    Quantity IDragged.Quantity => Quantity.Length;

    bool IDragged.Snaps => true;

    bool IDragged.IsOfPivot => true;

    Edit IDragged.With(Pull pull) => pull.Turn is var (by, axis, space)
        ? this with { Spin = new(by, axis, space ?? pull.Space) }
        : this with { Shift = new(pull.Amount, pull.Space) };

    Edit IDragged.Towards(SceneDraft draft, double value, IReadOnlyList<double?> values, AmountMode mode) =>
        throw new Refusal(Refusals.NotUnderstood, "Type an amount by.");

    string IDragged.Amount(Speaker say) => Shift is { } shift ? say.Lengths(shift.By) : Spin is { } spin ? say.Degrees(spin.By) : "";
}
