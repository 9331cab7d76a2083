namespace CalmPivot.Core;

/// <summary>
/// An edit, a file or a word that is not accepted, said to the artist in one or two sentences with the way out.
/// Nothing has changed when one is thrown.
/// </summary>
public sealed class Refusal : Exception
{
    public Refusal(string word, string detail)
        : base(detail) => Word = word;

    /// <summary>The stable word of the API, one of <see cref="Refusals"/>.</summary>
    public string Word { get; }
}

/// <summary>The stable words by which callers tell refusals apart.</summary>
public static class Refusals
{
    public const string NotFound = "not-found";
    public const string NotUnderstood = "not-understood";
    public const string WouldLoop = "would-loop";
    public const string ZeroScale = "zero-scale";
    public const string NotFinite = "not-finite";
    public const string SingularParent = "singular-parent";
    public const string TooThin = "too-thin";
    public const string ChangedMeanwhile = "changed-meanwhile";
    public const string KeyReused = "key-reused";
    public const string Locked = "locked";
    public const string TooLarge = "too-large";
    public const string UnsupportedFile = "unsupported-file";
    public const string BrokenFile = "broken-file";
    public const string NothingToUndo = "nothing-to-undo";

    /// <summary>All is as the edit asks already, so that it makes no step.</summary>
    public const string NothingToChange = "nothing-to-change";
    public const string Stopped = "stopped";
    public const string Held = "held";
    public const string NothingPicked = "nothing-picked";
    public const string NoLongerKept = "no-longer-kept";

    /// <summary>All that was picked has of its own, in the shot, what was to be changed in every shot.</summary>
    public const string Cheated = "cheated";

    /// <summary>It counts in every shot, and was asked for one only.</summary>
    public const string EveryShotOnly = "every-shot-only";
}
