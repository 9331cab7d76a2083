using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>The directions of a mark.</summary>
public sealed record MarkSpace(string Mark) : Space
{
    public override Mat3 Axes(SceneDraft draft, Node node, Node lead) => Marks.Axes(draft, Marks.Get(draft, Mark));

    public override Vec3 Origin(SceneDraft draft, Node node) => draft.World(Marks.Get(draft, Mark)).Offset;
}
