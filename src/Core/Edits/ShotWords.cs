using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>The scope of an edit, in the line of the history: first where it is narrow, else last.</summary>
internal static class ShotWords
{
    /// <param name="made">Nothing but new things came of it.</param>
    /// <param name="everywhere">It counts in every shot, whatever was asked.</param>
    public static string Scoped(string said, Edit edit, Scope scope, IScene layer, bool made, bool everywhere)
    {
        if (scope.Shot is not { } shot)
        {
            return said;
        }

        // What is made in one shot only is there in every shot, and seen in that one.
        if (scope.Narrow && made)
        {
            return $"{said}, seen in {Scene.Shot.TitleOf(layer, shot)} only";
        }

        if (everywhere)
        {
            return $"{said}, in every shot";
        }

        // A sentence that begins with a name keeps its capital letter.
        var named = edit.Picked.Any(id => layer.FindAny(id)?.Name is { Length: > 0 } name && said.StartsWith(name[..1], StringComparison.Ordinal) && said.StartsWith(Words.Speaker.Quoted(name), StringComparison.Ordinal));
        return $"In {Scene.Shot.TitleOf(layer, shot)} only: {(named ? said[..1] : said[..1].ToLowerInvariant())}{said[1..]}";
    }
}
