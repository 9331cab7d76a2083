using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Takes groups away and leaves what they carried where it was, in the world and in the order. What the group's switches
/// and collections hid stays hidden.
/// </summary>
public sealed record Ungroup(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var groups = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        if (groups.Find(g => g.Kind != NodeKind.Group) is { } other)
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{other.Name}” is not a group. Take its children out, or remove it with its children lifted.");
        }

        foreach (var group in groups)
        {
            var (working, final) = (Seen.IsOnAlone(draft, group, final: false), Seen.IsOnAlone(draft, group, final: true));
            var handed = !Membership.Of(draft, group).Any(c => !group.Collections.Contains(c.Id));
            foreach (var child in draft.Children(group.Id).Select(draft.Get).ToList())
            {
                // A child in no collection takes on the group's, to be switched with them as before. Where it has its own, or the
                // group belongs somewhere by a rule, what the group hid is switched off.
                var takes = handed && !Membership.Of(draft, child).Any();
                draft.Put(child with
                {
                    Collections = takes ? group.Collections : child.Collections,
                    Switches = child.Switches with
                    {
                        Working = child.Switches.Working && (takes ? group.Switches.Working : working),
                        Final = child.Switches.Final && (takes ? group.Switches.Final : final),
                        Drawn = (DrawnAs)Math.Max((int)child.Switches.Drawn, (int)group.Switches.Drawn),
                    },
                });
            }

            new Remove([group.Id], RemovedChildren.Lift).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say) => $"Ungrouped {say.Names(Nodes)}";
}
