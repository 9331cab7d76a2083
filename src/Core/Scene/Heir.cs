namespace CalmPivot.Core.Scene;

/// <summary>
/// What is made of something that had values of its own in shots, and has them from now on: the pieces of a mesh all of them, what others were joined into their
/// materials.
/// </summary>
/// <param name="Slot">Where the materials of the former begin in the latter; null: it takes all.</param>
public sealed record Heir(string From, string To, int? Slot = null)
{
    /// <summary>The channel of the latter that a channel of the former becomes; null: it does not go on.</summary>
    public string? Led(string channel) => Slot is not { } slot ? channel
        : CheatChannel.SlotOf(channel) is { } from ? CheatChannel.OfMaterialIn(from + slot) : null;
}
