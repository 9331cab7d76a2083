using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Words;

/// <summary>What an entry of a node's constraints does at the moment.</summary>
/// <param name="Title">What it is called: "Aim at Sun lamp".</param>
/// <param name="Moved">Metres that it moves the pivot by; <paramref name="Turned"/> degrees; <paramref name="Scaled"/> a factor.</param>
/// <param name="Warning">A sentence; null: nothing to warn of.</param>
public sealed record LinkReading(string Id, string Kind, string Title, double Moved, double Turned, double Scaled, string? Warning)
{
    /// <summary>The readings of all entries of a node, in their order.</summary>
    public static IReadOnlyList<LinkReading> Of(SceneDraft draft, Node node)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(node);
        var (own, say, warnings) = (node.Placement.ToOwn(), new Speaker(draft), draft.Warnings(node));
        var before = draft.Placed(node);
        return
        [
            .. node.Constraints.Select((entry, i) =>
            {
                var after = i == node.Constraints.Length - 1 ? draft.World(node) : draft.World(node, i + 1);
                var jump = entry.Pulls ? Jump.Of(own, before, after) : Jump.None;
                before = after;
                return new LinkReading(
                    entry.Id,
                    entry.Kind,
                    ConstraintWords.Title(entry, say),
                    jump.Moved,
                    jump.Turned,
                    jump.Scaled,
                    ConstraintWords.Warning(warnings[i].Warning, entry, say, warnings[i].Asked));
            }),
        ];
    }
}
