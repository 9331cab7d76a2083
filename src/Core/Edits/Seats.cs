using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Room for new nodes: ids that are free, and a scene that is not full.</summary>
internal static class Seats
{
    /// <summary>A free id for what an edit makes of a node: the same here and where the edit is made again.</summary>
    public static string Derived(SceneDraft draft, string from, string what, int number)
    {
        var stem = from[..Math.Min(from.Length, 40)];
        while (draft.FindAny($"{stem}-{what}-{number}") is not null)
        {
            number++;
        }

        return NewId(draft, $"{stem}-{what}-{number}");
    }

    /// <summary>The id that a caller chose, when it is fit and free; else a new one.</summary>
    /// <exception cref="Refusal">not-understood, too-large.</exception>
    public static string NewId(SceneDraft draft, string? chosen)
    {
        var id = chosen ?? Guid.NewGuid().ToString("N");
        if (id.Length is 0 or > 64 || !id.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_'))
        {
            throw new Refusal(Refusals.NotUnderstood, "An id has 1 to 64 letters, digits, hyphens or underlines.");
        }

        if (draft.FindAny(id) is { } present)
        {
            throw new Refusal(Refusals.NotUnderstood, $"The id of the new object is taken by “{present.Name}”. Use another one.");
        }

        return draft.Count < SceneDocument.MostNodes
            ? id
            : throw new Refusal(Refusals.TooLarge, $"A scene holds at most {SceneDocument.MostNodes} objects. Remove some first, or begin another scene.");
    }
}
