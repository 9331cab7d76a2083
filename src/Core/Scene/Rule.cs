using System.Text.Json.Serialization;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What makes nodes members of a collection by themselves, for as long as they fit: all of what is given must hold.
/// </summary>
/// <param name="Name">A pattern for the name: * stands for any characters, ? for one; capitals do not matter.</param>
/// <param name="Material">The name of a material, or its colour as #RRGGBB.</param>
/// <param name="Under">A node; all that rides on it fits, itself not.</param>
public sealed record Rule(string? Name = null, NodeKind? Kind = null, string? Material = null, string? Under = null)
{
    [JsonIgnore]
    public bool IsEmpty => Name is null && Kind is null && Material is null && Under is null;

    /// <exception cref="Refusal">not-understood.</exception>
    public Rule Checked()
    {
        if (IsEmpty || (Kind is { } kind && !kind.IsInTree()))
        {
            throw new Refusal(Refusals.NotUnderstood, "A rule needs a name pattern, a kind of object, a material or a node that its members ride on.");
        }

        return Name is not { Length: 0 or > Node.MostNameLength } && Material is not { Length: 0 or > Node.MostNameLength }
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"The patterns of a rule have 1 to {Node.MostNameLength} characters.");
    }

    public bool Fits(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Kind.IsInTree()
            && (Kind is null || node.Kind == Kind)
            && (Name is null || FitsPattern(node.Name, Name))
            && (Material is null || node.Materials.Any(m => Same(m.Name, Material) || Same(m.Color, Material)))
            && (Under is null || scene.Ancestors(node).Any(a => a.Id == Under));
    }

    /// <summary>Walks both at once; after a mismatch the last * takes one character more. Never worse than the product of the lengths.</summary>
    public static bool FitsPattern(string text, string pattern)
    {
        ArgumentNullException.ThrowIfNull(text);
        ArgumentNullException.ThrowIfNull(pattern);
        var (t, p, star, taken) = (0, 0, -1, 0);
        while (t < text.Length)
        {
            if (p < pattern.Length && (pattern[p] == '?' || char.ToUpperInvariant(pattern[p]) == char.ToUpperInvariant(text[t])) && pattern[p] != '*')
            {
                (t, p) = (t + 1, p + 1);
            }
            else if (p < pattern.Length && pattern[p] == '*')
            {
                (star, taken, p) = (p, t, p + 1);
            }
            else if (star >= 0)
            {
                (p, t) = (star + 1, ++taken);
            }
            else
            {
                return false;
            }
        }

        return pattern.AsSpan(p).TrimStart('*').IsEmpty;
    }

    private static bool Same(string? a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
