using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Gives a collection a rule by which nodes belong to it, or takes the rule away.</summary>
public sealed record SetRule(string Collection, Rule? Rule = null) : Edit
{
    public override IReadOnlyList<string> Picked => [];

    public override void ApplyTo(SceneDraft draft)
    {
        var collection = Collect.CollectionOf(draft, Collection);
        Targets.CheckUnlocked(draft, collection);
        Check(draft, Rule);
        draft.Put(collection with { Rule = Rule?.Resolved(draft) });
    }

    public override string Say(Speaker say) => Rule is null
        ? $"Took the rule from {say.Name(Collection)}"
        : $"Gave {say.Name(Collection)} a rule: {say.RuleInWords(Rule)}";

    internal static void Check(SceneDraft draft, Rule? rule)
    {
        if (rule is null)
        {
            return;
        }

        rule.Checked();
        if (rule.Materials?.FirstOrDefault(id => draft.FindMaterial(id) is null) is not null)
        {
            throw Materials.NoSuch();
        }

        if (rule.Under is not null && !draft.Get(rule.Under).Kind.IsInTree())
        {
            throw new Refusal(Refusals.NotUnderstood, "The members of a rule ride on an object, not on a mark or a collection.");
        }
    }
}
