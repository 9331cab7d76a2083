using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Seeing;

/// <summary>Whether a node is seen in the working view and in the final picture, with the reasons where it is not.</summary>
public sealed record Seen(bool Working, bool Final, IReadOnlyList<string> Reasons)
{
    /// <summary>Whether a node is seen in the working view.</summary>
    public static bool IsSeen(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Switches.Working && scene.Ancestors(node).All(a => a.Switches.Working);
    }

    public static Seen Of(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        var (working, final) = (true, true);
        var reasons = new List<string>();
        foreach (var link in scene.Ancestors(node).Prepend(node))
        {
            var what = link.Id == node.Id ? "it" : $"“{link.Name}”, which carries it,";
            working &= link.Switches.Working;
            final &= link.Switches.Final;
            if (!link.Switches.Working)
            {
                reasons.Add($"hidden in the working view: {what} is switched off");
            }

            if (!link.Switches.Final)
            {
                reasons.Add($"hidden in the final picture: {what} is switched off");
            }
        }

        return new(working, final, reasons);
    }
}
