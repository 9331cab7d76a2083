using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Trials;

/// <summary>
/// A value typed <em>to</em> instead of an amount typed <em>by</em>: it sets the stored channel that the sentence's axis
/// corresponds to, where there is exactly one.
/// </summary>
public static class Towards
{
    /// <param name="axes">The axes that the value is for; for a rotation, its own axis counts.</param>
    /// <param name="mode">Set, or multiply what is there.</param>
    /// <exception cref="Refusal">not-understood: no single channel corresponds.</exception>
    public static Edit Value(IScene scene, Edit template, double value, IReadOnlyList<bool> axes, AmountMode mode = AmountMode.Set)
    {
        ArgumentNullException.ThrowIfNull(axes);
        double?[] values = [.. axes.Select(on => on ? value : (double?)null)];
        return template is IDragged dragged
            ? dragged.Towards(new SceneDraft(scene), value, values, mode)
            : throw new Refusal(Refusals.NotUnderstood, "Type an amount by.");
    }
}
