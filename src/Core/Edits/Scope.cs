namespace CalmPivot.Core.Edits;

/// <summary>Whether edits are made in every shot or in one only, and what they are computed on. Both belong to the person who edits. See model.md, Shots.</summary>
/// <param name="Shot">The current shot: edits are computed on what it shows; null: on the scene.</param>
/// <param name="Narrow">What differs becomes cheats of that shot; else it is written to the scene.</param>
public sealed record Scope(string? Shot = null, bool Narrow = false)
{
    /// <summary>The scene itself, with no shot current.</summary>
    public static readonly Scope Every = new();
}
