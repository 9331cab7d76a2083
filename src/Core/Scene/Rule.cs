using System.Collections.Immutable;
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
/// <param name="Material">
/// The name of a material, or its colour as #RRGGBB: in an edit all that are so at that moment. Rules of former steps may still say it, for which it is
/// looked up each time.
/// </param>
/// <param name="Under">A node; all that rides on it fits, itself not.</param>
/// <param name="Materials">The ids of materials; who has one of them fits.</param>
public sealed record Rule(string? Name = null, NodeKind? Kind = null, string? Material = null, string? Under = null, ImmutableArray<string>? Materials = null)
{
    private const int MostMaterials = 1_000;

    [JsonIgnore]
    public bool IsEmpty => Name is null && Kind is null && Material is null && Under is null && Materials is null;

    /// <exception cref="Refusal">not-understood.</exception>
    public Rule Checked()
    {
        if (IsEmpty || (Kind is { } kind && !kind.IsInTree()))
        {
            throw new Refusal(Refusals.NotUnderstood, "A rule needs a name pattern, a kind of object, a material or a node that its members ride on.");
        }

        return Name is not { Length: 0 or > Node.MostNameLength } && Material is not { Length: 0 or > Node.MostNameLength }
            && Materials is null or { IsDefault: false, Length: > 0 and <= MostMaterials }
            ? this
            : throw new Refusal(Refusals.NotUnderstood, $"The patterns of a rule have 1 to {Node.MostNameLength} characters.");
    }

    public bool Fits(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(node);
        return node.Kind.IsInTree()
            && (Kind is null || node.Kind == Kind)
            && (Name is null || NamePattern.Fits(node.Name, Name))
            && (Materials is not { } ids || node.Materials.Any(m => ids.Contains(m)))
            && (Material is null || node.Materials.Any(m => scene.FindMaterial(m) is { } known && Means(known)))
            && (Under is null || scene.Ancestors(node).Any(a => a.Id == Under));
    }

    /// <summary>The same with the materials that its text means now; where it means none, as it is.</summary>
    public Rule Resolved(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Material is null || scene.AllMaterials().Where(Means).Select(m => m.Id).ToImmutableArray() is not { Length: > 0 } meant
            ? this
            : this with { Material = null, Materials = [.. (Materials ?? []).Union(meant)] };
    }

    public bool Equals(Rule? other) =>
        other is not null && Name == other.Name && Kind == other.Kind && Material == other.Material && Under == other.Under
        && Materials is null == other.Materials is null && (Materials ?? []).AsSpan().SequenceEqual((other.Materials ?? []).AsSpan());

    public override int GetHashCode() => HashCode.Combine(Name, Kind, Material, Under, Materials?.Length);

    private bool Means(Material material) => Same(material.Name, Material!) || Same(material.Surface.Color.Nearest, Material!);

    private static bool Same(string? a, string b) => string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
