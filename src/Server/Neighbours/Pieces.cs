using System.Collections.Concurrent;
using System.Globalization;
using System.Text.Json;

namespace CalmPivot.Server.Neighbours;

/// <summary>PostgreSQL carries less than 8 000 bytes at once: letters are cut into pieces and put together again.</summary>
internal static class Pieces
{
    /// <summary>Of a piece, in letters that are a byte each; its head takes some dozens more.</summary>
    public const int MostBytes = 7_500;

    /// <summary>More is said by nobody.</summary>
    public const int Most = 16;

    /// <returns>The pieces, each "server number index count text"; none where it is too much.</returns>
    public static IReadOnlyList<string> Cut(Letter letter, long number)
    {
        ArgumentNullException.ThrowIfNull(letter);

        // All that is not ASCII is written as such by default, so that letters are bytes.
        var text = JsonSerializer.Serialize(letter);
        var count = (text.Length + MostBytes - 1) / MostBytes;
        return count > Most ? [] :
            [.. Enumerable.Range(0, count).Select(i => string.Create(CultureInfo.InvariantCulture, $"{letter.From} {number} {i} {count} {text.AsSpan(i * MostBytes, Math.Min(MostBytes, text.Length - (i * MostBytes)))}"))];
    }
}

/// <summary>Puts pieces together, which come in order from each server. What has no beginning or an end that never came is forgotten.</summary>
internal sealed class PieceReader
{
    private readonly ConcurrentDictionary<string, (long Number, int Next, string Text)> _begun = new();

    /// <returns>The letter that has come to its end; null: it has not, or is none.</returns>
    public Letter? Take(string piece)
    {
        ArgumentNullException.ThrowIfNull(piece);
        if (piece.Split(' ', 5) is not [var from, var numbered, var indexed, var counted, var text]
            || !long.TryParse(numbered, CultureInfo.InvariantCulture, out var number) || !int.TryParse(indexed, CultureInfo.InvariantCulture, out var index)
            || !int.TryParse(counted, CultureInfo.InvariantCulture, out var count) || count is < 1 or > Pieces.Most)
        {
            return null;
        }

        var before = "";
        if (_begun.TryRemove(from, out var begun) && begun.Number == number && begun.Next == index)
        {
            before = begun.Text;
        }
        else if (index != 0)
        {
            return null;
        }

        if (index + 1 < count)
        {
            _begun[from] = (number, index + 1, before + text);
            return null;
        }

        try
        {
            return JsonSerializer.Deserialize<Letter>(before + text) is { Scenes: not null } letter && letter.From == from ? letter : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>Forgets what a server has begun.</summary>
    public void Forget(string from) => _begun.TryRemove(from, out _);
}
