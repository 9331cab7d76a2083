using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Gives nodes a constraint, each its own. What is left out is proposed so that least moves: the own axis nearest to the target (of cameras and lamps −Z), and the
/// present offset, with which nothing moves.
/// <code>
/// new Constrain(["tube"], new() { Kind = "aim", Target = "sun-lamp" })
/// </code>
/// </summary>
/// <param name="Ids">The id of the entry in each of the nodes; null: made from its kind.</param>
/// <param name="Index">Before which entry of the list it goes; null: last, or where it places the node, before those that look from its pivot, so that they look from where it stands then.</param>
public sealed record Constrain(IReadOnlyList<string> Nodes, ConstraintPatch Constraint, IReadOnlyList<string>? Ids = null, int? Index = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var nodes = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        if (Ids is not null && Ids.Count != nodes.Count)
        {
            throw new Refusal(Refusals.NotUnderstood, "A constraint needs one id for each of the objects.");
        }

        for (var i = 0; i < nodes.Count; i++)
        {
            // An entry before may have led this one on.
            var node = draft.Get(nodes[i].Id);
            CheckCan(node);
            var patch = Patch(node, Ids?[i]);
            var made = Core.Constraints.Constraint.Made(patch);
            ConstraintTargets.Check(draft, node, made);
            var index = Math.Clamp(Index ?? Usual(node, made), 0, node.Constraints.Length);
            var tied = node with { Constraints = node.Constraints.Insert(index, made) };
            draft.Put(tied);
            if (Edges.Loop(draft, node.Id) is { } loop)
            {
                throw loop;
            }

            draft.Put(tied with { Constraints = tied.Constraints.SetItem(index, ConstraintTargets.Proposed(draft, tied, index, patch)) });
        }
    }

    public override string? Foretell(IScene scene) => Jumps.Said(scene, this, Nodes);

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var draft = new SceneDraft(say.Scene);
        ApplyTo(draft);
        Constraint? Made(string id) => draft.Get(id).Constraints.FirstOrDefault(c => say.Scene.Find(id)!.Constraints.All(before => before.Id != c.Id));

        // Each by itself faces with what is nearest, where nobody says with what.
        var sides = Nodes.Distinct().Select(id => Made(id)?.Points).Distinct().Count();
        return ConstraintWords.Did(Made(Nodes[^1])!, say.Names(Nodes), say, sides > 1, Nodes.Distinct().Count() > 1);
    }

    /// <summary>
    /// Where an entry goes that nobody says it of. Beside one that it would share with, or between two that share with each other, it
    /// would move what its offset is to keep.
    /// </summary>
    private static int Usual(Node node, Constraint made) =>
        (made.Writes & Writes.Place) != 0
        && !node.Constraints.Any(made.Shares)
        && node.Constraints.ToList().FindIndex(c => c.LooksFromPivot) is >= 0 and var first
        && !(node.Constraints[..first].LastOrDefault(c => c.Enabled) is { } before && node.Constraints[first..].FirstOrDefault(c => c.Enabled) is { } after && after.Shares(before))
            ? first
            : node.Constraints.Length;

    private static void CheckCan(Node node)
    {
        if (node.Kind == NodeKind.Mark)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” is a mark, which follows things by itself. Constrain an object instead.");
        }

        if (node.Constraints.Length >= Core.Constraints.Constraint.Most)
        {
            throw new Refusal(Refusals.TooLarge, $"“{node.Name}” has {Core.Constraints.Constraint.Most} constraints already, and no object has more. Take some off first.");
        }
    }

    /// <summary>What was given, with an id and what the kind of the node asks for.</summary>
    private ConstraintPatch Patch(Node node, string? id)
    {
        if (id is not null && (id.Length is 0 or > 64 || node.Constraints.Any(c => c.Id == id)))
        {
            throw new Refusal(Refusals.NotUnderstood, $"The id of a constraint has 1 to 64 characters and is used once in “{node.Name}”.");
        }

        var patch = Constraint with { Id = id ?? Constraint.Id ?? Free(node, Constraint.Kind ?? "") };
        if (node.Constraints.Any(c => c.Id == patch.Id))
        {
            patch = patch with { Id = Free(node, patch.Id!) };
        }

        return Asked(node, patch);
    }

    /// <summary>What was given, with what the kind of the node asks for: what looks along its −Z aims with that.</summary>
    internal static ConstraintPatch Asked(Node node, ConstraintPatch patch) =>
        patch is { Kind: "aim", Axis: null, UpAxis: null } && node.Kind is NodeKind.Camera or NodeKind.Light ? patch with { Axis = "-z", UpAxis = "+y" } : patch;

    private static string Free(Node node, string wanted)
    {
        var id = wanted;
        for (var number = 2; node.Constraints.Any(c => c.Id == id); number++)
        {
            id = $"{wanted}-{number}";
        }

        return id;
    }
}
