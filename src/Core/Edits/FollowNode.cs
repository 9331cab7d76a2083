using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Lets a mark follow a node from where it stands, or pins it there.</summary>
/// <param name="Node">The node to follow; null: pinned.</param>
public sealed record FollowNode(string Mark, string? Node = null) : Edit
{
    public override IReadOnlyList<string> Picked => [Mark];

    public override void ApplyTo(SceneDraft draft)
    {
        var mark = Marks.Get(draft, Mark);
        Targets.CheckUnlocked(draft, mark);
        if (Node is not null && !draft.Get(Node).Kind.IsInTree())
        {
            throw new Refusal(Refusals.NotUnderstood, "A mark follows objects, not other marks or collections.");
        }

        draft.Put(Marks.Attached(draft, mark, Node));
    }

    public override string Say(Speaker say) =>
        Node is null ? $"Pinned the mark {say.Name(Mark)}" : $"Let the mark {say.Name(Mark)} follow {say.Name(Node)}";
}
