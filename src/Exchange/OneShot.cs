using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;

namespace CalmPivot.Exchange;

/// <summary>What of a scene one shot is made of.</summary>
internal static class OneShot
{
    /// <summary>Nodes as they stand there, and as they go out: without other cameras, without what only this scene could read, and bare where they only carry others.</summary>
    public static IEnumerable<(Node Node, Node Written)> Of(ShotScene layer)
    {
        var camera = layer.Shot?.Camera;
        var seen = layer.Branch(null).Where(n => n.Id == camera || (n.Camera is null && Seen.Of(layer, n).Final)).Select(n => n.Id).ToHashSet();
        var needed = seen.Select(layer.Find).OfType<Node>().SelectMany(layer.Ancestors).Select(n => n.Id).ToHashSet();
        return layer.Branch(null).Where(n => seen.Contains(n.Id) || needed.Contains(n.Id)).Select(n => (n, Written(n, seen.Contains(n.Id))));
    }

    private static Node Written(Node node, bool isSeen)
    {
        var posed = node with { Constraints = [], Collections = [], Shares = null, Switches = Switches.Default };
        return isSeen ? posed : Node.Bare(node.Id, node.Name, NodeKind.Group, node.Parent, node.Placement) with { Rank = node.Rank, Switches = Switches.Default };
    }
}
