using System.Text.Json.Serialization;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What makes nodes members of a collection by themselves, for as long as they fit: all of what is given must hold.
/// <code>
/// var rods = new Rule(Name: "Rod*", Under: "tower");
/// rods.Fits(scene, node); // named so, and riding on the tower
/// </code>
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
            && (Name is null || NamePattern.Fits(node.Name, Name))
            && (Material is null || node.Materials.Any(m => Same(m.Name, Material) || Same(m.Color, Material)))
            && (Under is null || scene.Ancestors(node).Any(a => a.Id == Under));
    }

    private static bool Same(string? a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
