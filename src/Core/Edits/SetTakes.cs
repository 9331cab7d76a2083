using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Chooses which parts of its parent's placement a node takes, with its place in the world or its numbers kept.</summary>
public sealed record SetTakes(IReadOnlyList<string> Nodes, TakesPatch Takes, Keep Keep = Keep.World) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var movers = Targets.Movers(draft, Nodes, ChildrenMode.Stay);
        var remembered = Writer.Remember(draft, Keep == Keep.World ? movers : []);
        foreach (var node in movers)
        {
            if (node.Kind == NodeKind.Mark)
            {
                throw new Refusal(Refusals.NotUnderstood, $"The mark “{node.Name}” always takes the place and the directions of what it follows.");
            }

            var placed = draft.Placed(node);
            var placement = new PlacementPatch { Takes = Takes }.ApplyTo(node.Placement);
            if (Keep == Keep.World && placement.Takes != node.Placement.Takes)
            {
                var frame = draft.FrameUnder(node.Parent, placement.Takes);
                placement = node.Constraints.IsEmpty ? frame.Storing(placed, placement, node.Name) : Standing.Storing(frame, placement, placed, node.Name);
                placement.Check(node.Name, node.Placement);
            }

            draft.Put(node with { Placement = placement });
        }

        Writer.Restore(draft, remembered);
    }

    public override string? Foretell(IScene scene) => Keep == Keep.World ? Jumps.OfConstrained(scene, this, Nodes) : null;

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        void Part(bool? on, string word)
        {
            if (on is { } takes)
            {
                parts.Add(takes ? $"takes its parent's {word}" : $"leaves its parent's {word}");
            }
        }

        Part(Takes.Position, "position");
        Part(Takes.Rotation, "rotation");
        Part(Takes.Scale, "scale");
        return $"{say.Names(Nodes)}: {(parts.Count == 0 ? "nothing changed" : string.Join(", ", parts))}";
    }
}
