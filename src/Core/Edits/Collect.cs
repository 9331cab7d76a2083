using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Puts nodes into a collection, or takes them out of it. They stay where they are in the tree and in the world.</summary>
public sealed record Collect(IReadOnlyList<string> Nodes, string Collection, bool Member = true) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var collection = CollectionOf(draft, Collection);
        Targets.CheckPicked(Nodes);

        foreach (var node in Nodes.Distinct().Select(draft.Get))
        {
            if (!node.Kind.IsInTree())
            {
                throw new Refusal(
                    Refusals.NotUnderstood,
                    node.Kind == NodeKind.Collection
                        ? $"“{node.Name}” is a collection itself. Put it under “{collection.Name}” to have it lie in that."
                        : $"The mark “{node.Name}” cannot be a member. Only objects of the tree are.");
            }

            if (Member != node.Collections.Contains(collection.Id))
            {
                draft.Put(node with { Collections = Member ? node.Collections.Add(collection.Id) : node.Collections.Remove(collection.Id) });
            }
            else if (!Member && collection.Rule?.Fits(draft, node) == true)
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” belongs to “{collection.Name}” by its rule. Change the rule to leave it out.");
            }
        }
    }

    public override string Say(Speaker say) =>
        Member ? $"Put {say.Names(Nodes)} into {say.Name(Collection)}" : $"Took {say.Names(Nodes)} out of {say.Name(Collection)}";

    /// <exception cref="Refusal">not-found.</exception>
    internal static Node CollectionOf(SceneDraft draft, string id) => draft.Find(id) is { Kind: NodeKind.Collection } collection
        ? collection
        : throw new Refusal(Refusals.NotFound, "The collection of this edit is not in the scene any more. Choose another one.");
}
