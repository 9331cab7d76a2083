using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>A list that was read, and what could not be taken over of it.</summary>
/// <param name="FirstFrame">The number of its first frame; null: it tells none.</param>
public sealed record ShotListFile(IReadOnlyList<ListedShot> Shots, IReadOnlyList<string> Notes, int? FirstFrame = null)
{
    /// <summary>How many of its shots are switched off in it.</summary>
    public int Off => Shots.Count(s => s.IsOff);

    /// <summary>The edit that takes the list into a scene: cameras are found by their names.</summary>
    /// <param name="withOff">Whether shots are taken that are switched off in the list.</param>
    public (ListShots Edit, IReadOnlyList<string> Notes) For(IScene scene, bool withOff = false)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var notes = new List<string>(Notes);
        if (Off > 0)
        {
            notes.Add($"{(Off == 1 ? "1 shot that is" : $"{Off} shots that are")} switched off in the list {(Off == 1 ? "is" : "are")} {(withOff ? "taken in as well" : "passed over")}.");
        }

        var cameras = scene.Branch(null).Where(n => n.Camera is not null).GroupBy(n => n.Name).ToDictionary(g => g.Key, g => g.Select(n => n.Id).ToList());
        var (missing, several) = (new SortedSet<string>(StringComparer.Ordinal), new SortedSet<string>(StringComparer.Ordinal));
        var present = scene.AllShots().Select(s => s.Camera).OfType<string>().ToHashSet();
        string? CameraOf(string? name)
        {
            if (name is null or "")
            {
                return name;
            }

            if (!cameras.TryGetValue(name, out var those))
            {
                missing.Add(name);
                return null;
            }

            if (those.Count > 1)
            {
                several.Add(name);
            }

            // Of several with one name that which is in use.
            return those.Find(present.Contains) ?? those[0];
        }

        NewShot[] shots = [.. Shots.Where(s => withOff || !s.IsOff).Select(s => new NewShot(null, s.Number, s.Name, CameraOf(s.Camera), s.Frames, s.Note, s.Colour))];
        if (missing.Count > 0)
        {
            notes.Add($"No camera of the scene is called {Quoted(missing)}: those shots keep the camera that they have.");
        }

        if (several.Count > 0)
        {
            notes.Add($"Several cameras are called {Quoted(several)}: the first that is in use was taken.");
        }

        return (new(shots, FirstFrame), notes);
    }

    private static string Quoted(IEnumerable<string> names)
    {
        var all = names.ToList();
        return string.Join(", ", all.Take(3).Select(n => $"“{Speaker.Quoted(n)}”")) + (all.Count > 3 ? $" and {all.Count - 3} more" : "");
    }
}
