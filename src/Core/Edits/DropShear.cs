using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Takes the shear out of nodes: H = I, all other stored values stay.</summary>
public sealed record DropShear(IReadOnlyList<string> Nodes) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            if (node.Placement.IsSheared)
            {
                draft.Put(node with { Placement = node.Placement with { Shear = Vec3.Zero } });
            }
        }
    }

    public override IReadOnlyList<string> Elsewhere(IScene scene, bool done) => MadeOtherwise.InWords(
        scene, this, new(scene), several => $"{(done ? "kept" : several ? "keep" : "keeps")} {(several ? "shears of their" : "a shear of its")} own");

    public override string Say(Speaker say) => $"Took the shear out of {say.Names(Nodes)}";
}
