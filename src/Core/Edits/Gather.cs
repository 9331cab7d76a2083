using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Makes a collection, empty or with its first members.</summary>
/// <param name="Under">The collection around it; null: none.</param>
/// <param name="Nodes">What is put into it.</param>
public sealed record Gather(
    string Name,
    string? Id = null,
    string? Under = null,
    string? Color = null,
    Rule? Rule = null,
    IReadOnlyList<string>? Nodes = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        var id = Seats.NewId(draft, Id);
        if (Under is not null && Collect.CollectionOf(draft, Under) is var around && draft.Ancestors(around).Count() + 2 > SceneDocument.MostDepth)
        {
            throw new Refusal(Refusals.TooLarge, $"Collections would lie in each other more than {SceneDocument.MostDepth} deep. Put it into one further out.");
        }

        if (Color is not null)
        {
            Scene.Color.Check(Color);
        }

        SetRule.Check(draft, Rule);
        var name = draft.DistinctNameIn(Lists.OfCollections(Under), Rename.Fitting(Name));
        var collection = new Collection(id, name, Under) { Label = new(Color), Rule = Rule?.Resolved(draft) };
        Ranks.Seat(draft, [collection], null);
        if (Nodes is { Count: > 0 })
        {
            new Collect(Nodes, id).ApplyTo(draft);
        }
    }

    public override string Say(Speaker say) =>
        $"Made the collection {say.NewNameIn(Lists.OfCollections(Under), Name)}"
        + (Under is null ? "" : $" in {say.Name(Under)}")
        + (Nodes is { Count: > 0 } ? $" of {say.Names(Nodes)}" : "")
        + (Rule is null ? "" : $": {say.RuleInWords(Rule)}");
}
