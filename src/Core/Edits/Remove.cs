using System.Text.Json.Serialization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What becomes of the children of a removed node.</summary>
[JsonConverter(typeof(CamelCase<RemovedChildren>))]
public enum RemovedChildren
{
    With,
    Lift,
}

/// <summary>Removes nodes with all that rides on them, or lifts their children to what carried the removed.</summary>
public sealed record Remove(IReadOnlyList<string> Nodes, RemovedChildren Children = RemovedChildren.With) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var stay = Children == RemovedChildren.Lift;
        foreach (var node in Targets.Movers(draft, Nodes, stay ? ChildrenMode.Stay : ChildrenMode.Along, collections: true))
        {
            if (stay)
            {
                Lift(draft, node);
                Release(draft, node);
                draft.Remove(draft.Get(node.Id));
                continue;
            }

            foreach (var below in draft.Branch(node.Id).Reverse().ToList())
            {
                Targets.CheckUnlocked(draft, below);
                Release(draft, below);
                draft.Remove(below);
            }
        }
    }

    public override string Say(Speaker say) => Children == RemovedChildren.Lift
        ? $"Removed {say.Names(Nodes)}, children lifted"
        : $"Removed {say.NamesWithBranches(Nodes)}";

    /// <summary>Marks that followed what goes stay where they are; members of a collection that goes are no longer its members.</summary>
    private static void Release(SceneDraft draft, Node gone)
    {
        foreach (var mark in Marks.Following(draft, gone.Id).ToList())
        {
            draft.Put(Marks.Attached(draft, mark, null));
        }

        if (gone.Kind == NodeKind.Collection)
        {
            foreach (var member in draft.Branch(null).Where(n => n.Collections.Contains(gone.Id)).ToList())
            {
                draft.Put(member with { Collections = member.Collections.Remove(gone.Id) });
            }
        }
    }

    private static void Lift(SceneDraft draft, Node node)
    {
        // A removed parent may have lifted this very node before.
        var present = draft.Get(node.Id);
        if (draft.Children(node.Id) is { Count: > 0 } children)
        {
            var index = draft.Children(present.Parent).ToList().IndexOf(node.Id) + 1;
            new PutUnder([.. children], present.Parent, index).ApplyTo(draft);
        }
    }
}
