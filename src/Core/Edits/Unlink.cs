using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What <see cref="Unshare"/> was called first; callers may go on saying it.</summary>
public sealed record Unlink(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft) => new Unshare(Nodes).ApplyTo(draft);

    public override string Say(Speaker say) => new Unshare(Nodes).Say(say);
}
