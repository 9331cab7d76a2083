using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>A shot as a list outside tells it; what it does not tell is null.</summary>
/// <param name="Camera">The name of its camera; empty: none.</param>
/// <param name="IsOff">Whether the list has it switched off.</param>
public sealed record ListedShot(string Name, string? Number, int? Frames, string? Camera, string? Note, string? Colour, bool IsOff = false)
{
    /// <summary>The shots of a scene as a list tells them.</summary>
    public static IReadOnlyList<ListedShot> Of(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return [.. scene.AllShots().Select(s => new ListedShot(
            s.Name, s.Number, s.Frames, s.Camera is { } camera ? scene.Find(camera)?.Name ?? "" : "", s.Note ?? "", s.Colour ?? ""))];
    }
}
