using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Gives other nodes the constraints of one: what it goes by within its own group, each of them goes by within its own (the thing of the same
/// name, else at the same place in the tree); offsets are those with which nothing moves, hinges lie along the same own axes. An entry of the same kind and target is replaced.
/// </summary>
public sealed record GiveLinks(string From, IReadOnlyList<string> To) : Edit
{
    public override IReadOnlyList<string> Picked => [.. To.Where(id => id != From), From];

    internal override IReadOnlyList<string> Edited => [.. To.Where(id => id != From)];

    public override void ApplyTo(SceneDraft draft)
    {
        var lead = draft.Get(From);
        if (lead.Constraints.IsEmpty)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{lead.Name}” has no constraints to give. Pick one that has some last.");
        }

        string[] others = [.. To.Where(id => id != From)];
        if (others.Length == 0)
        {
            throw new Refusal(Refusals.NothingPicked, "Only the one that gives its constraints is picked. Pick those that get them, and it last.");
        }

        foreach (var node in Targets.Movers(draft, others, ChildrenMode.Stay))
        {
            foreach (var entry in lead.Constraints)
            {
                Give(draft, lead, node.Id, entry);
            }
        }
    }

    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var jumps = Jumps.Said(scene, this, To.Where(id => id != From));
        var draft = new SceneDraft(scene);
        var skipped = scene.Find(From) is not { } lead ? 0
            : To.Where(id => id != From).Select(draft.Find).OfType<Node>().Sum(n => lead.Constraints.Count(c => Led(draft, lead, n, c) is null));
        return skipped == 0 ? jumps : $"{(skipped == 1 ? "One entry is" : $"{skipped} entries are")} left out, since nothing goes by itself. {jumps}".TrimEnd();
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Gave {say.Names([.. To.Where(id => id != From)])} the constraints of {say.Name(From)}";
    }

    private static void Give(SceneDraft draft, Node lead, string id, Constraint entry)
    {
        var node = draft.Get(id);
        if (Led(draft, lead, node, entry) is not { } led)
        {
            return;
        }

        var there = node.Constraints.RemoveAll(c => c.Kind == led.Kind && c.Target == led.Target && (c is not Limit || ((Limit)c).Of == ((Limit)led).Of));
        draft.Put(node with { Constraints = there });

        // What the kind proposes moves least: the present offset. A height above a surface is meant as it is.
        var patch = led.ToPatch() with { Id = null, Offset = led is StayOnSurface ? led.ToPatch().Offset : null };
        new Constrain([id], patch).ApplyTo(draft);
    }

    /// <summary>What an entry is for another node; null: it would go by itself.</summary>
    private static Constraint? Led(SceneDraft draft, Node lead, Node node, Constraint entry)
    {
        var led = entry.Led(id => Counterparts.Of(draft, lead, node, id) is var other && other == node.Id ? null : other);
        return led is not Swivel swivel ? led : swivel with
        {
            Hinge = Turned(draft, lead, node, swivel.Hinge),
            Zero = Turned(draft, lead, node, swivel.Zero),
        };
    }

    /// <summary>A direction of one's parent along the same own axes of another, in that one's parent.</summary>
    private static Vec3 Turned(SceneDraft draft, Node from, Node to, Vec3 direction) =>
        (InParent(draft, to) * (InParent(draft, from).Transposed() * direction)).Unit();

    private static Mat3 InParent(SceneDraft draft, Node node) =>
        draft.FrameOf(node).Basis.RotationPart().Transposed() * node.Pointers(draft.Placed(node).Linear);
}
