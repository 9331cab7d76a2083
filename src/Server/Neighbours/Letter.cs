using System.Text.Json;

namespace CalmPivot.Server.Neighbours;

/// <summary>What a server tells the others.</summary>
public enum LetterKind
{
    /// <summary>It has come, or has come back, and wants to know who else is there.</summary>
    Hello,

    /// <summary>It is there.</summary>
    Here,

    /// <summary>It goes.</summary>
    Leaving,

    /// <summary>Pages of its have joined these scenes: who shows them is to say what is picked.</summary>
    Joined,

    /// <summary>What pages are to hear: all on a scene, or one.</summary>
    Told,

    /// <summary>Something of a scene was changed that is not in its log: it is to be loaded anew.</summary>
    Anew,
}

/// <summary>A letter from a server to all others of its database.</summary>
/// <param name="From">The server's name.</param>
/// <param name="Scenes">What it is about; of a letter to one page nothing.</param>
/// <param name="Page">The page that is to hear it; null: all that show the scene.</param>
/// <param name="Of">The page that says it, where one does: once its server is gone, it has left.</param>
/// <param name="Method">What pages hear it as.</param>
public sealed record Letter(
    string From, LetterKind Kind, IReadOnlyList<string> Scenes, string? Page = null, string? Of = null, string? Method = null, JsonElement? Said = null);
