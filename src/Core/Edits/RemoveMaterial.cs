using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Removes a material. What is made of it has none any more, or another instead.</summary>
/// <param name="Replacement">What takes its place everywhere; null: nothing.</param>
public sealed record RemoveMaterial(string Material, string? Replacement = null) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var material = Materials.Get(draft, Material);
        if (Replacement is not null)
        {
            if (Replacement == Material)
            {
                throw new Refusal(Refusals.NotUnderstood, "A material cannot take its own place. Choose another one.");
            }

            Materials.Lead(draft, Material, Materials.Get(draft, Replacement).Id);
        }

        Remove(draft, [material]);
    }

    /// <summary>Removes materials; what still names them does so no more.</summary>
    internal static void Remove(SceneDraft draft, IReadOnlyList<Material> materials)
    {
        var gone = materials.Select(m => m.Id).ToHashSet();
        foreach (var user in materials.SelectMany(m => Materials.Users(draft, m.Id)).DistinctBy(u => u.Id).ToList())
        {
            draft.PutOrRemove(user, user.Without(gone.Contains));
        }

        foreach (var material in materials)
        {
            draft.Remove(material);
        }
    }

    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Materials.UsersInWords(scene, [Material]) is not { } users ? null
            : Replacement is not null && scene.FindMaterial(Replacement) is { } replacement ? $"{users} take “{Speaker.Quoted(replacement.Name)}” instead."
            : $"It is used by {users}, which then have no material there.";
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Removed the material {say.Name(Material)}" + (Replacement is null ? "" : $"; {say.Name(Replacement)} takes its place");
    }
}
