using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Makes a controller ahead of nodes, at a few of their sizes, and lets them aim at it. Each with what it faces with; of a single one nothing moves
/// but the roll that keeping upright asks for; where the controller comes to stand near straight above or below one, that one keeps upright by nothing.
/// </summary>
/// <param name="Id">The id of the controller; null: a new one.</param>
/// <param name="Away">How far ahead, in metres; null: three times their size.</param>
public sealed record Drive(IReadOnlyList<string> Nodes, string? Id = null, double? Away = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var nodes = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        if (Away is { } given && !(given > 0 && given <= Placement.Most))
        {
            throw new Refusal(Refusals.NotUnderstood, "The controller stands ahead by a length above zero.");
        }

        var faces = nodes.ToDictionary(n => n.Id, n => Facings.Of(draft, n) ?? new SignedAxis(2));
        var all = Extents.OfBranches(draft, nodes);
        var (at, way) = (Vec3.Zero, Vec3.Zero);
        foreach (var node in nodes)
        {
            var pivot = draft.PivotOf(node);
            all = all.With(pivot);
            at += pivot * (1.0 / nodes.Count);
            way += OwnSpace.Of(draft, node) * faces[node.Id].Vector;
        }

        var away = Away ?? Math.Max(1.5 * all.Size.Length, 0.5);
        var ahead = way.Length > 1e-6 ? way.Unit() : Vec3.UnitY;
        var radius = Math.Min(0.1 * away, 0.5);
        var id = Seats.NewId(draft, Id);
        new Create(new()
        {
            Id = id,
            Name = Rename.Nearest($"{Speaker.Quoted(draft.Get(Nodes[^1]).Name)} controller", "Controller"),
            Kind = NodeKind.Shape,
            Shape = new() { Type = "ball", Radius = radius, Segments = 12, Rings = 6 },
            Placement = new() { Position = at + ahead * away },
        }).ApplyTo(draft);
        new Draw([id], DrawnAs.Controller).ApplyTo(draft);
        foreach (var node in nodes)
        {
            var made = draft.Get(node.Id);
            draft.Put(made with { Constraints = made.Constraints.RemoveAll(c => c is Aim) });
            var toward = at + ahead * away - draft.PivotOf(node);
            new Constrain([node.Id], new() { Kind = "aim", Target = id, Axis = faces[node.Id].ToString(), Up = IsNearPole(toward) ? Up.Least : null }).ApplyTo(draft);
        }
    }

    /// <summary>Within 10° of straight up or down, where what keeps upright by the world rolls over.</summary>
    private static bool IsNearPole(Vec3 way) => Math.Abs(way.Y) > Math.Cos(10 / Degrees.PerRadian) * way.Length;

    public override string? Foretell(IScene scene) => Jumps.Said(scene, this, Nodes);

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Made a controller that {say.Names(Nodes)} {(Nodes.Count == 1 ? "aims" : "aim")} at";
    }
}
