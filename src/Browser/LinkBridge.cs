using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Constraints for the page: what each entry of a node does at the moment, also while something is tried.</summary>
public static partial class Bridge
{
    /// <summary>The entries of a node with what they do now; an empty list where it has none or is gone.</summary>
    [JSExport]
    public static string LinksOf(string id)
    {
        var draft = Tryout.Draft ?? new SceneDraft(Replica.Scene);
        return Write<IReadOnlyList<LinkReading>>(draft.Find(id) is { Constraints.IsEmpty: false } node ? LinkReading.Of(draft, node) : []);
    }

    /// <summary>What constraints would do to edits, and what these would make jump; empty where they cannot be done.</summary>
    [JSExport]
    public static string ForetoldBy(string edits)
    {
        try
        {
            return Write(Foretelling.Of(Replica.Scene, Read<Edit[]>(edits)));
        }
        catch (Refusal)
        {
            return Write(new Foretelling([], []));
        }
    }
}
