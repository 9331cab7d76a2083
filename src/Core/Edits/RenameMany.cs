using System.Globalization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Renames nodes by a pattern: a new name for all or a text found and replaced in each, then something before and behind,
/// then numbers in picking order. Names may become equal to others, as with a single renaming.
/// </summary>
/// <param name="Name">The new name of all; null: each keeps its own.</param>
/// <param name="Find">What is replaced in each name; capitals matter.</param>
/// <param name="From">The first number; null: none.</param>
/// <param name="Digits">How many figures the numbers have at least.</param>
public sealed record RenameMany(
    IReadOnlyList<string> Nodes,
    string? Name = null,
    string? Find = null,
    string? Replace = null,
    string? Prefix = null,
    string? Suffix = null,
    int? From = null,
    int Digits = 1) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        foreach (var (node, name) in NamesIn(draft))
        {
            Targets.CheckUnlocked(draft, node);
            draft.Put(node with { Name = name });
        }
    }

    /// <summary>The nodes with the names that they would get.</summary>
    /// <exception cref="Refusal">not-understood, too-large: a name would be none, or too long.</exception>
    public List<(Arranged Node, string Name)> NamesIn(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        Targets.CheckPicked(Nodes);

        if (Digits is < 1 or > 9 || From < 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "Numbers begin at 0 or higher and have 1 to 9 figures.");
        }

        return [.. Nodes.Distinct().Select(draft.GetArranged).Select((node, i) => (node, Rename.Fitting(NameOf(node, i))))];
    }

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        void Add(bool given, string what)
        {
            if (given)
            {
                parts.Add(what);
            }
        }

        Add(Name is not null, $"to {Name}");
        Add(Find is { Length: > 0 }, $"“{Find}” replaced by “{Replace}”");
        Add(Prefix is { Length: > 0 }, $"“{Prefix}” before");
        Add(Suffix is { Length: > 0 }, $"“{Suffix}” behind");
        Add(From is not null, $"numbered from {From?.ToString($"D{Digits}", CultureInfo.InvariantCulture)}");
        return $"Renamed {say.Names(Nodes)}" + (parts.Count == 0 ? "" : " " + string.Join(", ", parts));
    }

    private string NameOf(Arranged node, int at)
    {
        var name = Name ?? node.Name;
        if (Find is { Length: > 0 } find)
        {
            name = name.Replace(find, Replace ?? "", StringComparison.Ordinal);
        }

        name = Prefix + name + Suffix;
        return From is { } from ? $"{name} {((long)from + at).ToString($"D{Digits}", CultureInfo.InvariantCulture)}" : name;
    }
}
