using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes the shape of nodes their own, where they share it with others. Nothing changes its looks.</summary>
public sealed record Unshare(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            if (node.Shares is null)
            {
                continue;
            }

            draft.Put(node with { Shares = null });

            // Nobody shares with nobody.
            if (Sharing.With(draft, node).Where(n => n.Id != node.Id).Take(2).ToList() is [var last])
            {
                draft.Put(last with { Shares = null });
            }
        }
    }

    public override string Say(Speaker say) => $"Made the shape of {say.Names(Nodes)} {say.Their(Nodes)} own";
}
