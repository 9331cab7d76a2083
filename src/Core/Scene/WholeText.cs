namespace CalmPivot.Core.Scene;

/// <summary>Texts in which every character is whole: many, such as emoji, take two places, and half of one can be stored nowhere.</summary>
public static class WholeText
{
    /// <summary>Whether every character that takes two places is there with both.</summary>
    public static bool Is(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        for (var i = 0; i < text.Length; i++)
        {
            if (char.IsSurrogate(text[i]) && !(char.IsHighSurrogate(text[i]) && i + 1 < text.Length && char.IsLowSurrogate(text[++i])))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>The beginning of a text, at most so long.</summary>
    public static string Start(string text, int most)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Length <= most ? text : most <= 0 ? "" : text[..(char.IsHighSurrogate(text[most - 1]) ? most - 1 : most)];
    }

    /// <summary>The end of a text, at most so long.</summary>
    public static string End(string text, int most)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Length <= most ? text : most <= 0 ? "" : text[^(char.IsLowSurrogate(text[^most]) ? most - 1 : most)..];
    }
}
