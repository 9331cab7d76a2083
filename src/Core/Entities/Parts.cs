using System.Text.Json;

namespace CalmPivot.Core.Entities;

/// <summary>
/// The parts of a thing of the scene that an edit can write, and that an undo puts back, each by itself. Steps are stored with
/// these numbers: a new part takes the next one, and none is ever numbered anew.
/// </summary>
[Flags]
public enum Parts
{
    None = 0,
    Existence = 1,
    Name = 2,
    Seat = 4,
    Placement = 8,
    Shape = 16,
    Material = 32,
    Lens = 64,
    Switches = 128,
    Collections = 256,
    Label = 512,
    Rule = 1024,
    Constraints = 2048,

    /// <summary>What a cheat holds.</summary>
    Value = 4096,

    /// <summary>How long a shot is; what a scene counts by.</summary>
    Length = 8192,

    /// <summary>The colour of a material, and how much is seen through it.</summary>
    Colour = 16384,

    /// <summary>The pictures of a material, and how they lie.</summary>
    Pictures = 32768,
}

/// <summary>What of a page's pictures and lists depends on a field.</summary>
[Flags]
public enum Touches
{
    Nothing = 0,

    /// <summary>The tree itself: what came, went or changed its seat.</summary>
    Outline = 1,

    /// <summary>Where things stand.</summary>
    Places = 2,

    /// <summary>What a line of the tree says.</summary>
    Rows = 4,

    /// <summary>What a thing looks like, apart from where it stands.</summary>
    Looks = 8,

    /// <summary>What belongs to which collection.</summary>
    Members = 16,

    /// <summary>What the rules of collections go by.</summary>
    Rules = 32,

    /// <summary>The list of shots, and what they hold of their own.</summary>
    Shots = 64,

    /// <summary>What surfaces are like, whoever has them.</summary>
    Materials = 128,
}

public static class PartsOf
{
    public static readonly IReadOnlyList<Parts> All = [.. Enum.GetValues<Parts>().Where(f => f != Parts.None)];

    public static readonly Parts Every = All.Aggregate(Parts.None, (every, field) => every | field);

    private static readonly Dictionary<string, Parts> ByWord = All.ToDictionary(part => JsonNamingPolicy.CamelCase.ConvertName(part.ToString()));

    /// <summary>The words of some parts, as JSON writes them.</summary>
    public static IEnumerable<string> Words(this Parts parts) => ByWord.Where(w => (parts & w.Value) != 0).Select(w => w.Key);

    /// <returns>None: there is no such part.</returns>
    public static Parts Of(string word) => ByWord.GetValueOrDefault(word);
}
